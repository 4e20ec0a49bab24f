#include <iostream>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/label_options.h"
#include "core/label/conflicts.h"
#include "core/label/decoder.h"
#include "core/label/rating.h"

namespace otterstone::cli {

namespace {

using nlohmann::json;

} // namespace

int label(const LabelOptions& options) {
    const auto read = labelFrom(options);
    if (!read)
        return complain(read.error(), kUsage);
    const label::Label& l = *read;
    if (!l.energy && !(l.capacity && l.cellVolts) && l.ports.empty())
        return complain(
            {"nothing_given", "label", "there is nothing to work with.", "Give --mah and --cell-volts, or --wh."},
            kUsage);
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
