// How often a bank is said to charge a device, as printed on its box.
#include <algorithm>

#include "core/label/label.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::label {

namespace {

// The number a text begins with, and what stands behind it.
std::optional<std::pair<double, std::string_view>> numberFirst(std::string_view text) {
    const std::size_t end = std::min(text.find_first_not_of("0123456789.,"), text.size());
    const auto number = parseNumber(text.substr(0, end));
    return number ? std::optional(std::pair(*number, trimmed(text.substr(end)))) : std::nullopt;
}

bool takeWord(std::string_view& text, std::string_view word) {
    if (!lowered(text.substr(0, word.size())).starts_with(word))
        return false;
    text = trimmed(text.substr(word.size()));
    return true;
}

std::optional<ChargesClaim> claimOf(std::string_view text) {
    const auto times = numberFirst(trimmed(text));
    if (!times || !(times->first > 0.0))
        return std::nullopt;
    ChargesClaim claim{times->first, {}, {}};
    std::string_view rest = times->second;
    if (!takeWord(rest, "×") && !takeWord(rest, "times") && !takeWord(rest, "x"))
        return std::nullopt;
    if (auto battery = numberFirst(rest); battery && lowered(battery->second.substr(0, 2)) == "wh") {
        if (!(battery->first > 0.0))
            return std::nullopt;
        claim.deviceWattHours = battery->first;
        rest = trimmed(battery->second.substr(2));
    }
    if (rest.starts_with("a "))
        rest = trimmed(rest.substr(2));
    claim.device = std::string(rest);
    return claim.deviceWattHours || !claim.device.empty() ? std::optional(claim) : std::nullopt;
}

} // namespace

Result<std::vector<ChargesClaim>> parseCharges(std::string_view text, std::string_view place) {
    std::vector<ChargesClaim> all;
    while (!text.empty()) {
        const std::size_t end = std::min(text.find_first_of(";\n"), text.size());
        const std::string_view one = trimmed(text.substr(0, end));
        text.remove_prefix(std::min(end + 1, text.size()));
        if (one.empty())
            continue;
        const auto claim = claimOf(one);
        if (!claim)
            return problem("bad_charges", std::string(place),
                           say("“{}” does not say how often which device is charged.", one),
                           "Write times, the device's battery and its name, like 4 × 12.4 Wh tablet; or 4 × tablet.");
        all.push_back(*claim);
    }
    return all;
}

std::string showCharges(const ChargesClaim& c) {
    return showNumber(c.times) + " ×" + (c.deviceWattHours ? " " + showNumber(*c.deviceWattHours) + " Wh" : "") +
           (c.device.empty() ? "" : " " + c.device);
}

std::string showCharges(const std::vector<ChargesClaim>& charges) {
    std::string all;
    for (const ChargesClaim& c : charges)
        all += (all.empty() ? "" : "; ") + showCharges(c);
    return all;
}

} // namespace otterstone::label
