#include "core/quantity/parse.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <charconv>
#include <cmath>
#include <vector>

#include "core/quantity/characters.h"
#include "core/quantity/say.h"
namespace otterstone {

namespace {

constexpr std::array<std::string_view, 6> kSpaces = {" ", "\t", "\r", "\n", "\xC2\xA0", "\xE2\x80\xAF"};

std::size_t spaceAt(std::string_view text) {
    for (std::string_view s : kSpaces) {
        if (text.starts_with(s))
            return s.size();
    }
    return 0;
}

tl::unexpected<Problem> notANumber(std::string_view text, std::string_view place) {
    return problem("not_a_number", std::string(place), say("“{}” is not a number.", trimmed(text)),
                   "Write it like 4.85 or 4,85.");
}

// Which of the separators in `digits` is the decimal one; npos for none. Both kinds: the last one is.
std::size_t decimalSeparator(const std::string& digits, Expect expect) {
    const std::size_t point = digits.rfind('.');
    const std::size_t comma = digits.rfind(',');
    if (point == std::string::npos && comma == std::string::npos)
        return std::string::npos;
    if (point != std::string::npos && comma != std::string::npos)
        return std::max(point, comma);
    const std::size_t last = point != std::string::npos ? point : comma;
    const char kind = digits[last];
    if (std::count(digits.begin(), digits.end(), kind) > 1)
        return std::string::npos; // 1.234.567: groups
    const std::size_t sign = digits[0] == '-' || digits[0] == '+' ? 1 : 0;
    const std::size_t before = last - sign;
    const std::size_t after =
        digits.find_first_not_of("0123456789", last + 1) == std::string::npos ? digits.size() - last - 1 : 0;
    const bool looksGrouped = after == 3 && before >= 1 && before <= 3 && digits[sign] != '0';
    return looksGrouped && expect == Expect::WholeNumber ? std::string::npos : last;
}

constexpr std::string_view kDigits = "0123456789";
constexpr char kGap = '\''; // a space or an apostrophe between digits
constexpr std::size_t kGroup = 3;

// Groups of three behind a first one of at most three, one kind of mark, and not the decimal one: 18.5.2 is a slip, not
// 1852.
bool wellGrouped(std::string_view whole, char decimal) {
    const std::size_t mark = whole.find_first_not_of(kDigits);
    if (mark == std::string_view::npos)
        return true;
    const char kind = whole[mark];
    if (mark == 0 || mark > kGroup || kind == decimal)
        return false;
    for (std::size_t at = mark; at < whole.size(); at += kGroup + 1) {
        const std::string_view group = whole.substr(at + 1, kGroup);
        if (whole[at] != kind || group.size() < kGroup || group.find_first_not_of(kDigits) != std::string_view::npos)
            return false;
    }
    return true;
}

// Behind the decimal mark only gaps group: 0.123 456.
bool wellGroupedFraction(std::string_view fraction) {
    if (fraction.find(kGap) == std::string_view::npos)
        return true;
    while (fraction.size() > kGroup) {
        if (fraction.find(kGap) != kGroup)
            return false;
        fraction.remove_prefix(kGroup + 1);
    }
    return !fraction.empty() && fraction.find(kGap) == std::string_view::npos;
}

struct DurationPart {
    double number;
    std::string unit;
};

std::optional<double> unitSeconds(const std::string& unit) {
    static constexpr std::array<std::pair<std::string_view, double>, 16> kUnits = {{{"d", 86400},
                                                                                    {"day", 86400},
                                                                                    {"days", 86400},
                                                                                    {"h", 3600},
                                                                                    {"hr", 3600},
                                                                                    {"hrs", 3600},
                                                                                    {"hour", 3600},
                                                                                    {"hours", 3600},
                                                                                    {"m", 60},
                                                                                    {"min", 60},
                                                                                    {"mins", 60},
                                                                                    {"minutes", 60},
                                                                                    {"s", 1},
                                                                                    {"sec", 1},
                                                                                    {"seconds", 1},
                                                                                    {"ms", 0.001}}};
    for (const auto& [name, seconds] : kUnits) {
        if (unit == name)
            return seconds;
    }
    return std::nullopt;
}

tl::unexpected<Problem> notADuration(std::string_view text, std::string_view place) {
    return problem("not_a_duration", std::string(place), say("“{}” is not a time span.", trimmed(text)),
                   "Write it like 1h12, 1.2 h, 72 min or 1:12.");
}

// "1:12" and "1:12:05": every part after the first below 60.
Result<double> clockDuration(std::string_view text, std::string_view place) {
    double seconds = 0.0;
    double weight = 3600.0;
    std::string_view rest = text;
    for (int part = 0; part < 3 && !rest.empty(); ++part, weight /= 60.0) {
        const std::size_t colon = rest.find(':');
        const auto number = parseNumber(rest.substr(0, colon), place);
        if (!number || *number < 0.0 || (part > 0 && *number >= 60.0))
            return notADuration(text, place);
        seconds += *number * weight;
        rest = colon == std::string_view::npos ? std::string_view{} : rest.substr(colon + 1);
    }
    if (!rest.empty() || seconds > kLargestFigure)
        return notADuration(text, place);
    return seconds;
}

} // namespace

std::string_view trimmed(std::string_view text) {
    const auto ink = [](char c) { return c > ' ' && c < 0x7f; };
    if (!text.empty() && ink(text.front()) && ink(text.back()))
        return text; // as most is
    while (const std::size_t n = spaceAt(text))
        text.remove_prefix(n);
    for (bool again = true; again;) {
        again = false;
        for (std::string_view s : kSpaces) {
            if (text.ends_with(s)) {
                text.remove_suffix(s.size());
                again = true;
            }
        }
    }
    return text;
}

std::string lowered(std::string_view text) {
    std::string small(text);
    std::transform(small.begin(), small.end(), small.begin(), // not tolower(): a Turkish one makes a dotless i
                   [](unsigned char c) { return static_cast<char>(c >= 'A' && c <= 'Z' ? c + 32 : c); });
    return small;
}

Result<double> parseNumber(std::string_view text, std::string_view place, Expect expect) {
    std::string_view rest = trimmed(text);
    if (rest.starts_with("−")) // the typographic minus our own formatter writes
        return parseNumber("-" + std::string(rest.substr(std::string_view("−").size())), place, expect);
    std::string digits;
    while (!rest.empty()) {
        if (const std::size_t n = spaceAt(rest)) {
            // A space only groups digits when a digit stands on either side.
            if (digits.empty() || !isDigit(digits.back()) || rest.size() <= n || !isDigit(rest[n]))
                return notANumber(text, place);
            digits += kGap;
            rest.remove_prefix(n);
        } else {
            digits += rest.front();
            rest.remove_prefix(1);
        }
    }
    const std::size_t decimal = decimalSeparator(digits, expect);
    const std::size_t sign = digits.starts_with('-') || digits.starts_with('+') ? 1 : 0;
    const std::string_view mantissa =
        std::string_view(digits).substr(sign, std::min(digits.find_first_of("eE"), digits.size()) - sign);
    const bool whole = decimal == std::string::npos;
    if (!whole && decimal - sign >= mantissa.size())
        return notANumber(text, place); // a broken exponent
    const std::string_view front = whole ? mantissa : mantissa.substr(0, decimal - sign);
    const std::string_view fraction = whole ? std::string_view() : mantissa.substr(decimal - sign + 1);
    if (!wellGrouped(front, whole ? '\0' : digits[decimal]) || !wellGroupedFraction(fraction))
        return notANumber(text, place);
    std::string plain;
    for (std::size_t i = 0; i < digits.size(); ++i) {
        if (i == decimal)
            plain += '.';
        else if (digits[i] != '.' && digits[i] != ',' && digits[i] != kGap && !(i == 0 && digits[i] == '+'))
            plain += digits[i];
    }
    double value = 0.0;
    const auto [end, error] = std::from_chars(plain.data(), plain.data() + plain.size(), value);
    if (plain.empty() || error != std::errc{} || end != plain.data() + plain.size() ||
        !(std::fabs(value) <= kLargestFigure))
        return notANumber(text, place);
    return value;
}

Result<double> parseDuration(std::string_view text, std::string_view place, std::optional<double> bareUnitSeconds) {
    const std::string_view whole = trimmed(text);
    if (whole.empty())
        return notADuration(text, place);
    if (whole.find(':') != std::string_view::npos)
        return clockDuration(whole, place);

    std::vector<DurationPart> parts;
    std::size_t at = 0;
    while (at < whole.size()) {
        std::size_t end = whole.find_first_not_of("0123456789.,", at);
        end = std::min(end, whole.size());
        const auto number = parseNumber(whole.substr(at, end - at), place);
        if (!number)
            return notADuration(text, place);
        std::size_t unitEnd = whole.find_first_of("0123456789", end);
        unitEnd = std::min(unitEnd, whole.size());
        parts.push_back({*number, lowered(trimmed(whole.substr(end, unitEnd - end)))});
        at = unitEnd;
    }

    double seconds = 0.0;
    double previousUnit = 1e9;
    for (const DurationPart& part : parts) {
        std::optional<double> unit = unitSeconds(part.unit);
        if (part.unit.empty()) {
            // "1h12": the next smaller unit; a lone number: what the field counts in.
            if (previousUnit <= 86400.0 && previousUnit > 1.0)
                unit = previousUnit == 86400.0 ? 3600.0 : previousUnit / 60.0;
            else
                unit = bareUnitSeconds;
        }
        if (!unit)
            return notADuration(text, place);
        if (*unit >= previousUnit)
            return notADuration(text, place);
        seconds += part.number * *unit;
        previousUnit = *unit;
    }
    if (seconds > kLargestFigure) // each number may be one, and their sum none
        return notADuration(text, place);
    return seconds;
}

Result<Measured> parseMeasured(std::string_view text, std::string_view place, const ErrorSource& source) {
    std::size_t at = std::string_view::npos;
    std::size_t length = 0;
    for (std::string_view sign : {std::string_view("±"), std::string_view("+-"), std::string_view("+/-")}) {
        at = text.find(sign);
        length = sign.size();
        if (at != std::string_view::npos)
            break;
    }
    const auto value = parseNumber(text.substr(0, at), place);
    if (!value)
        return tl::unexpected(value.error());
    if (at == std::string_view::npos)
        return Measured(*value);
    const auto expanded = parseNumber(text.substr(at + length), place);
    if (!expanded)
        return tl::unexpected(expanded.error());
    if (*expanded < 0.0)
        return problem("negative_uncertainty", std::string(place), "the figure behind ± is negative.",
                       "Write the half-width of the interval as a positive number.");
    return Measured(*value, *expanded / 2.0, source);
}

} // namespace otterstone
