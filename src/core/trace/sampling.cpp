#include "core/trace/sampling.h"

namespace otterstone::trace {

Trace held(const Trace& joined) {
    Trace out;
    out.voltsStep = joined.voltsStep;
    out.ampsStep = joined.ampsStep;
    const auto take = [&](std::size_t k, double time) {
        out.time.push_back(time);
        if (!joined.volts.empty())
            out.volts.push_back(joined.volts[k]);
        if (!joined.amps.empty())
            out.amps.push_back(joined.amps[k]);
        for (const auto& [from, to] :
             {std::pair{&joined.watts, &out.watts}, std::pair{&joined.temperature, &out.temperature},
              std::pair{&joined.percent, &out.percent}}) {
            if (!from->empty())
                to->push_back((*from)[k]);
        }
    };
    for (std::size_t k = 0; k < joined.size(); ++k) {
        take(k, joined.time[k]);
        if (k + 1 < joined.size() && joined.time[k + 1] > joined.time[k])
            take(k, joined.time[k + 1]);
    }
    return out;
}

} // namespace otterstone::trace
