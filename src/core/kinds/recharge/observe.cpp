// What a recharge saw: what the bank took, and when it was full.
#include <tuple>

#include "core/kinds/figure_keys.h"
#include "core/kinds/parts.h"
#include "core/kinds/traced/observers.h"

namespace otterstone::kinds {

using label::Way;

void observeRecharge(const label::Label&, const RunEntry& r, std::vector<Observation>& all) {
    if (const Working* plateau = figure(r.finding, key::plateauWatts)) {
        Observation o = ofRun(r, What::In, Way::In);
        o.value = *plateau;
        o.sourceWatts = r.chargerWatts;
        o.limited = limitedBySource(o);
        if (r.finding->plateauVolts > 0.0) {
            o.volts = r.finding->plateauVolts;
            o.amps = plateau->value.value() / r.finding->plateauVolts;
            o.tierVolts = nearestTier(r.finding->plateauVolts);
        }
        all.push_back(std::move(o));
    }
    for (const auto& [what, key, time] :
         {std::tuple(What::TimeTo80, key::timeTo80, &r.finding->recharge->timeTo80),
          std::tuple(What::TimeTo100, key::timeTo100, &r.finding->recharge->timeTo100)}) {
        const Working* w = figure(r.finding, key);
        if (!w || !*time)
            continue;
        Observation o = ofRun(r, what, Way::In);
        o.value = *w;
        o.sourceWatts = r.chargerWatts;
        all.push_back(std::move(o));
    }
}

} // namespace otterstone::kinds
