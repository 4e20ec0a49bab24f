#include "core/records/money.h"

#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::records {

Result<std::optional<Money>> parseMoney(std::string_view given, std::string_view place) {
    const std::string_view text = trimmed(given);
    if (text.empty())
        return std::nullopt;
    const auto none = [&] {
        return problem("bad_price", std::string(place), say("“{}” is no price.", text), "Write it like 54.90 EUR.");
    };
    const std::size_t first = text.find_first_of("-0123456789"), last = text.find_last_of("0123456789");
    if (first == std::string_view::npos || last == std::string_view::npos || last < first)
        return none();
    const auto amount = parseNumber(text.substr(first, last + 1 - first), place);
    if (!amount)
        return tl::unexpected(amount.error());
    const std::string_view before = trimmed(text.substr(0, first)), after = trimmed(text.substr(last + 1));
    if (*amount < 0.0 || *amount > kLargestFigure || (!before.empty() && !after.empty()))
        return none();
    return Money{*amount, std::string(before.empty() ? after : before)};
}

std::string showMoney(const Money& money) {
    return showNumber(money.amount, 7) + (money.currency.empty() ? "" : " " + money.currency);
}

} // namespace otterstone::records
