// A cell as it is typed: what came, and what happened.
#include "core/kinds/matrix/matrix.h"

#include <algorithm>

#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

constexpr int kMostDecimals = 9;
constexpr const char* kMend = "Write 18 W, 9 V 18 W, 9 V 2 A, nothing, or 18 W stopped after 5 h.";

// How many decimals each number of a text has, in their order.
std::vector<int> decimalsIn(std::string_view text) {
    std::vector<int> all;
    const auto digit = [&](std::size_t k) { return k < text.size() && text[k] >= '0' && text[k] <= '9'; };
    for (std::size_t k = 0; k < text.size(); ++k) {
        if (!digit(k))
            continue;
        while (digit(k))
            ++k;
        int decimals = 0;
        if (k < text.size() && (text[k] == '.' || text[k] == ',') && digit(k + 1)) {
            for (++k; digit(k); ++k)
                ++decimals;
        }
        all.push_back(decimals);
    }
    return all;
}

// "stopped after 5 h", "settled 20 s" at the end; the rest of the text is left.
Result<std::string_view> takeHappened(std::string_view text, std::string_view place, CellText& cell) {
    const std::string small = lowered(text);
    for (const char* word : {kStopped, kSettled}) {
        const std::size_t at = small.find(word);
        if (at == std::string::npos)
            continue;
        cell.happened = word;
        std::string_view after = trimmed(text.substr(at + std::string_view(word).size()));
        if (lowered(after).starts_with("after"))
            after = trimmed(after.substr(5));
        if (!after.empty()) {
            const auto seconds = parseDuration(after, place, 60.0);
            if (!seconds)
                return tl::unexpected(seconds.error());
            cell.after = *seconds;
        }
        text = trimmed(text.substr(0, at));
        break;
    }
    while (text.ends_with(','))
        text = trimmed(text.substr(0, text.size() - 1));
    return text;
}

} // namespace

Result<CellText> parseCell(std::string_view typed, std::string_view place) {
    CellText cell;
    const auto rest = takeHappened(trimmed(typed), place, cell);
    if (!rest)
        return tl::unexpected(rest.error());
    const std::string_view text = *rest;
    const auto wrong = [&](Spoken words, const char* mend = kMend) {
        return problem("bad_cell", std::string(place), std::move(words), mend);
    };
    if (const std::string small = lowered(text); small == "nothing" || small == kNothingFlows || small == "none") {
        cell.happened = kNothingFlows;
        return cell;
    }
    if (text.empty() && cell.happened == kStopped)
        return cell; // it flowed, and nobody read how much
    const auto printed = label::scanPrinted(text);
    const auto decimals = decimalsIn(text);
    const bool product = text.find_first_of("x*") != std::string_view::npos || text.find("×") != std::string_view::npos;
    for (std::size_t k = 0; k < printed.size(); ++k) {
        const label::Printed& p = printed[k];
        const int typedDigits = k < decimals.size() ? std::min(decimals[k], kMostDecimals) : 0;
        const auto take = [&](std::optional<double>& value, std::string& as, double scale = 1.0, int more = 0) {
            value = p.high * scale;
            as = plainDigits(*value, typedDigits + more);
        };
        const bool bare = p.unit.empty(), milli = p.unit == "ma";
        const bool volts = p.unit == "v" || (bare && !cell.volts && product);
        const bool amps = p.unit == "a" || milli || (bare && !volts && cell.volts && !cell.amps);
        const bool watts = p.unit == "w" || (bare && !volts && !amps && !cell.watts); // a bare number counts watts
        if (volts)
            take(cell.volts, cell.typedVolts);
        else if (amps)
            take(cell.amps, cell.typedAmps, milli ? 1e-3 : 1.0, milli ? 3 : 0);
        else if (watts)
            take(cell.watts, cell.typedWatts);
        else
            return wrong(say("“{}” is not understood.", text));
    }
    if (!cell.watts && !cell.amps)
        return wrong(say("“{}” says no watts.", trimmed(typed)));
    if (!cell.watts && !cell.volts)
        return wrong("amps alone give no watts.", "Write the volts as well: 9 V 2 A.");
    if (cell.watts == 0.0 && cell.happened.empty()) {
        cell = {};
        cell.happened = kNothingFlows;
    }
    return cell;
}

} // namespace otterstone::kinds
