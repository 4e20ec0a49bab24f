// In which currency the house reckons prices, and what it takes others to be worth: typed by the tester, never fetched.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/quantity/problem.h"

namespace otterstone::setup {

/// What one unit of a currency is worth in the house's own.
struct Rate {
    std::string currency;
    double worth = 0.0; ///< > 0, at most 1e9
    std::string on;     ///< ISO 8601 day on which it was looked up; empty when not said
    bool operator==(const Rate&) const = default;
};

/// A price, and how it came to be in this currency.
struct Price {
    double amount = 0.0; ///< >= 0
    std::string currency;
    std::string formula;  ///< "39 USD", "39 USD × 0.92 EUR for 1 USD"
    std::string exchange; ///< "at 0.92 EUR for 1 USD, as of 2026-11-20"; empty where nothing was exchanged
};

/// Under this key a book and a bundle keep it, among the house's choices.
inline constexpr const char* kPricesKey = "prices";

struct Prices {
    std::string currency;    ///< the house's; empty: each price stays in its own
    std::vector<Rate> rates; ///< one a currency
    [[nodiscard]] bool operator==(const Prices&) const = default;

    /// The price in the house's currency, letter case aside; in its own where the house has none. Nothing where no rate
    /// is known, or the price names no currency. Common practice, no published source.
    [[nodiscard]] std::optional<Price> inHouse(double amount, const std::string& currency) const;
    /// The same, and as it is written where it cannot be reckoned.
    [[nodiscard]] Price asFarAsKnown(double amount, const std::string& currency) const;
    /// Whether the rates still say something where the house reckons in this: what each is worth is worth so much of
    /// the currency it was typed for, and of no other.
    [[nodiscard]] bool ratesHoldIn(std::string_view currency) const;
};

/// "EUR", "€", "Skerry crowns"; empty text: none. Problem: bad_currency.
[[nodiscard]] Result<std::string> parseCurrency(std::string_view text, std::string_view place);
/// The house's currency, and "USD 0.92; GBP 1.15 on 2026-11-20", or "1 USD = 0.92 EUR": what one of each is worth in
/// it. Problems: bad_currency, bad_rate.
[[nodiscard]] Result<Prices> parsePrices(std::string_view currency, std::string_view rates, std::string_view place);
/// What parsePrices reads again.
[[nodiscard]] std::string showRates(const std::vector<Rate>& rates);

/// As a book and a bundle keep it; empty text: none. Problems: not_json, bad_currency, bad_rate.
[[nodiscard]] Result<Prices> pricesFromText(const std::string& json, const std::string& place);
[[nodiscard]] std::string pricesToText(const Prices& prices);

} // namespace otterstone::setup
