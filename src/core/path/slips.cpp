#include "core/path/slips.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <utility>

#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::path {

namespace {

constexpr double kTolerance = 0.03;

// All texts one slip away from this one.
std::vector<std::string> nearTexts(const std::string& text) {
    std::vector<std::string> all;
    for (std::size_t k = 0; k < text.size(); ++k) {
        if (text[k] < '0' || text[k] > '9')
            continue;
        for (char d = '0'; d <= '9'; ++d) {
            if (d != text[k]) {
                all.push_back(text);
                all.back()[k] = d;
            }
        }
        const std::size_t next = k + 1 < text.size() && (text[k + 1] == '.' || text[k + 1] == ',') ? k + 2 : k + 1;
        if (next < text.size() && text[next] >= '0' && text[next] <= '9' && text[next] != text[k]) {
            all.push_back(text);
            std::swap(all.back()[k], all.back()[next]);
        }
    }
    return all;
}

const char* unitOf(Written w) { return w == Written::Volts ? " V" : w == Written::Amps ? " A" : " W"; }

} // namespace

Result<WattsCheck> checkWatts(std::string_view volts, std::string_view amps, std::string_view watts) {
    const std::string texts[] = {std::string(trimmed(volts)), std::string(trimmed(amps)), std::string(trimmed(watts))};
    const char* places[] = {"volts", "amps", "watts"};
    double values[3];
    for (std::size_t k = 0; k < 3; ++k) {
        const auto value = parseNumber(texts[k], places[k]);
        if (!value)
            return tl::unexpected(value.error());
        if (!(*value > 0.0))
            return problem("not_positive", places[k], "must be above 0.", "Leave it empty when it was not read.");
        values[k] = *value;
    }
    WattsCheck check;
    check.product = values[0] * values[1];
    check.off = check.product / values[2] - 1.0;
    check.agrees = std::fabs(check.off) <= kTolerance;
    if (check.agrees)
        return check;

    // The best slip of each of the three figures.
    for (std::size_t k = 0; k < 3; ++k) {
        std::optional<Slip> best;
        const auto consider = [&](std::string text, double value) {
            double with[3] = {values[0], values[1], values[2]};
            with[k] = value;
            const double off = with[0] * with[1] / with[2] - 1.0;
            if (std::fabs(off) <= kTolerance && (!best || std::fabs(off) < std::fabs(best->off)))
                best = Slip{static_cast<Written>(k), std::move(text), off};
        };
        for (std::string& text : nearTexts(texts[k])) {
            if (text.size() > 1 && text[0] == '0' && text[1] != '.' && text[1] != ',')
                continue; // nobody writes 08
            if (const auto value = parseNumber(text); value && *value > 0.0)
                consider(std::move(text), *value);
        }
        for (double factor : {0.1, 10.0})
            consider(showNumber(values[k] * factor), values[k] * factor);
        if (best)
            check.slips.push_back(*best);
    }
    std::sort(check.slips.begin(), check.slips.end(),
              [](const Slip& a, const Slip& b) { return std::fabs(a.off) < std::fabs(b.off); });
    check.sentence = say("{} V × {} A is {} W, not {}.", texts[0], texts[1], showNumber(check.product, 3), texts[2]);
    for (std::size_t k = 0; k < check.slips.size(); ++k)
        check.sentence +=
            (k == 0 ? say(" Was it ") : say(", or ")) + check.slips[k].instead + unitOf(check.slips[k].which);
    check.sentence += check.slips.empty() ? say(" No single slip of the pen explains it: read all three again.") : "?";
    return check;
}

} // namespace otterstone::path
