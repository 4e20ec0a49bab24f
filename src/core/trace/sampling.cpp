#include "core/trace/sampling.h"

#include <cmath>

namespace otterstone::trace {

double samplingDoubt(const Trace& t, Between between, double gapSeconds) {
    if (t.size() > 65536)
        return 0.0;
    double difference = 0.0;
    for (std::size_t k = 0; k + 1 < t.size(); ++k) {
        const double step = t.time[k + 1] - t.time[k];
        if (step > gapSeconds)
            continue;
        const double change = t.power(k + 1) - t.power(k);
        // A jump at one moment ends the held step before it: there the right sum would have had the next value.
        const bool endsHeld = between == Between::Held && step == 0.0 && k > 0;
        difference += change * (endsHeld ? t.time[k] - t.time[k - 1] : step);
    }
    return std::fabs(difference) / 2.0 / 3600.0;
}

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
        for (const auto& [from, to] : {std::pair{&joined.watts, &out.watts}, std::pair{&joined.temperature, &out.temperature},
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
