// How a bank was bought, and what came in its box: what a published test says of its piece besides the label.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/quantity/problem.h"

namespace otterstone::records {

/// One thing in the box besides the bank.
struct Content {
    std::string what;
    std::optional<double> grams; ///< > 0
    bool operator==(const Content&) const = default;
};

struct Bought {
    std::string model;          ///< its number, as on plate or box
    std::string where;          ///< the shop
    std::string orderedOn;      ///< ISO 8601 day; empty when not known
    std::optional<double> paid; ///< >= 0, in `currency`; what is printed as its price is the label's
    std::string currency;
    std::vector<Content> contents;
    std::string markings; ///< as embossed: "CE, UN 38.3"
    bool operator==(const Bought&) const = default;
};

/// "54.90 EUR", "€ 54,90", "0"; empty text clears it. Problem: bad_price.
[[nodiscard]] Result<void> parsePaid(std::string_view text, std::string_view place, Bought& into);
[[nodiscard]] std::string showPaid(const Bought& bought);

/// "C cable 0.5 m 28 g; bag 12 g; leaflet": a mass in grams may end each. Problem: bad_content.
[[nodiscard]] Result<std::vector<Content>> parseContents(std::string_view text, std::string_view place);
[[nodiscard]] std::string showContents(const std::vector<Content>& contents);
/// "40 g in all", "40 g of those weighed"; empty when nothing was weighed.
[[nodiscard]] std::string contentsWeight(const std::vector<Content>& contents);

/// An ISO 8601 day, or nothing. Problem: bad_date.
[[nodiscard]] Result<std::string> parseDay(std::string_view text, std::string_view place);

/// "Harbour shop, ordered on 2026-03-28, for 54.9 EUR"; empty when nothing is known.
[[nodiscard]] std::string boughtWords(const Bought& bought);

} // namespace otterstone::records
