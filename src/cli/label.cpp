#include <iostream>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "core/label/conflicts.h"
#include "core/label/decoder.h"
#include "core/label/rating.h"
#include "core/quantity/parse.h"

namespace otterstone::cli {

namespace {

using nlohmann::json;

// Reads an optional positive number; a problem is kept for the caller.
template<class Make>
void read(const std::string& text, const char* option, std::optional<Problem>& wrong, Make make,
          Expect expect = Expect::AnyNumber) {
    if (text.empty() || wrong)
        return;
    const auto value = parseNumber(text, option, expect);
    if (!value)
        wrong = value.error();
    else if (!(*value > 0.0))
        wrong = Problem{"not_positive", option, "must be greater than 0.", ""};
    else
        make(*value);
}

Result<label::Label> readLabel(const LabelOptions& o) {
    label::Label l;
    std::optional<Problem> wrong;
    const Expect whole = Expect::WholeNumber;
    read(
        o.mah, "--mah", wrong, [&](double v) { l.capacity = AmpHours(v / 1000.0); }, whole);
    read(o.cellVolts, "--cell-volts", wrong, [&](double v) { l.cellVolts = Volts(v); });
    read(o.wh, "--wh", wrong, [&](double v) { l.energy = WattHours(v); });
    read(
        o.outputMah, "--output-mah", wrong, [&](double v) { l.outputCapacity = AmpHours(v / 1000.0); }, whole);
    read(o.outputVolts, "--output-volts", wrong, [&](double v) { l.outputVolts = Volts(v); });
    read(o.weight, "--weight-g", wrong, [&](double v) { l.weightGrams = v; });
    read(o.totalWatts, "--total-watts", wrong, [&](double v) { l.totalWatts = Watts(v); });
    read(o.inputWatts, "--input-watts", wrong, [&](double v) { l.inputWatts = Watts(v); });
    label::Port port;
    read(o.portWatts, "--port-watts", wrong, [&](double v) { port.watts = Watts(v); });
    if (wrong)
        return tl::unexpected(*wrong);
    if (!o.rechargeTime.empty()) {
        const auto seconds = parseDuration(o.rechargeTime, "--recharge-hours", 3600.0);
        if (!seconds)
            return tl::unexpected(seconds.error());
        l.rechargeTime = Hours(*seconds / 3600.0);
    }
    for (const std::string& text : o.tiers) {
        const auto tier = label::parseTier(text, "--tier");
        if (!tier)
            return tl::unexpected(tier.error());
        port.tiers.push_back(*tier);
    }
    l.alsoPrinted = o.printed;
    if (!o.shared.empty()) {
        auto shared = label::parseShared(o.shared, "--shared");
        if (!shared)
            return tl::unexpected(shared.error());
        l.shared = std::move(*shared);
    }
    if (!port.tiers.empty() || port.watts)
        l.ports.push_back(port);
    if (!l.energy && !(l.capacity && l.cellVolts) && l.ports.empty())
        return problem("nothing_given", "label", "there is nothing to work with.",
                       "Give --mah and --cell-volts, or --wh.");
    return l;
}

} // namespace

int label(const LabelOptions& options) {
    const auto read = readLabel(options);
    if (!read)
        return complain(read.error(), kUsage);
    const label::Label& l = *read;
    const auto rating = label::ratedEnergy(l);
    const auto implied = label::impliedCellVolts(l);
    const auto rated = rating ? std::optional(rating->energy) : std::nullopt;
    const label::FlightClass flight = label::flightClass(rated);
    const auto best = l.ports.empty() ? std::nullopt : label::bestTier(l.ports.front().tiers);

    if (!options.json) {
        if (rating)
            std::cout << "rated energy: " << rating->working.shown() << " (" << rating->working.note << ")\n";
        std::cout << "flight: " << label::flightSentence(flight) << "\n";
        if (best)
            std::cout << "best tier: " << label::showTier(*best) << ", " << showNumber(best->watts().value) << " W\n";
        for (const auto& r : label::decode(l))
            std::cout << "reading: " << r.text << "\n";
        for (const auto& c : label::conflicts(l))
            std::cout << "conflict: " << c.text << "\n";
        return finish(kDone);
    }
    json out;
    out["rated_wh"] = rating ? json(rating->energy.value) : json(nullptr);
    out["implied_cell_volts"] = implied ? json(implied->value) : json(nullptr);
    out["flight_class"] = label::flightKey(flight);
    out["readings"] = json::array();
    for (const auto& r : label::decode(l))
        out["readings"].push_back({{"code", r.code}, {"text", r.text}});
    out["conflicts"] = json::array();
    for (const auto& c : label::conflicts(l))
        out["conflicts"].push_back({{"code", c.code}, {"text", c.text}});
    out["best_tier"] =
        best ? json{{"volts", best->high.value}, {"amps", best->amps.value}, {"watts", best->watts().value}}
             : json(nullptr);
    return print(out);
}

} // namespace otterstone::cli
