// Traces made of pieces, for tests.
#pragma once

#include <cmath>

#include "core/trace/trace.h"

namespace otterstone::testing {

/// Adds samples every `step` seconds from the trace's end on, for `seconds`; volts and amps are functions of the time
/// since the piece began.
template<class V, class I>
void add(trace::Trace& t, double seconds, double step, V volts, I amps) {
    const double start = t.time.empty() ? 0.0 : t.time.back() + step;
    for (double x = 0.0; x < seconds - step * 1e-6; x += step) {
        t.time.push_back(start + x);
        t.volts.push_back(volts(x));
        t.amps.push_back(amps(x));
    }
}

inline void addLevel(trace::Trace& t, double seconds, double volts, double amps, double step = 1.0) {
    add(
        t, seconds, step, [=](double) { return volts; }, [=](double) { return amps; });
}

/// 20 s idle, bulk of 9 V 2 A, a taper of 9 V 2 A·e^(−t/1200), then 15 min at 10 mA.
inline trace::Trace recharge(double bulkSeconds = 3600.0) {
    trace::Trace t;
    addLevel(t, 20, 9.0, 0.0);
    addLevel(t, bulkSeconds, 9.0, 2.0);
    add(
        t, 3600, 1.0, [](double) { return 9.0; }, [](double x) { return 2.0 * std::exp(-x / 1200.0); });
    addLevel(t, 900, 9.0, 0.01);
    return t;
}

} // namespace otterstone::testing
