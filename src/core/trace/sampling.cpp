#include "core/trace/sampling.h"

namespace otterstone::trace {

Trace held(const Trace& joined) {
    Trace out;
    out.voltsStep = joined.voltsStep;
    out.ampsStep = joined.ampsStep;
    const auto take = [&](std::size_t k, double time) {
        out.time.push_back(time);
        if (!joined.watts.empty())
            out.watts.push_back(joined.watts[k]);
        for (const auto column : {&Trace::volts, &Trace::amps, &Trace::temperature, &Trace::percent}) {
            if (!(joined.*column).empty())
                (out.*column).push_back((joined.*column)[k]);
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
