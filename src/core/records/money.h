// A sum of money as testers write it.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "core/quantity/problem.h"

namespace otterstone::records {

struct Money {
    double amount = 0.0;  ///< >= 0
    std::string currency; ///< as written; empty when not said
    bool operator==(const Money&) const = default;
};

/// "54.90 EUR", "€ 54,90", "0"; empty text: none. Problem: bad_price.
[[nodiscard]] Result<std::optional<Money>> parseMoney(std::string_view text, std::string_view place);
/// What parseMoney reads again.
[[nodiscard]] std::string showMoney(const Money& money);

} // namespace otterstone::records
