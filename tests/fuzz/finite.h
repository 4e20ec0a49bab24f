// What must hold of any trace that was read, and of any finding that was made.
#pragma once

#include "core/kinds/traced/finding.h"
#include "entry.h"

namespace otterstone::fuzz {

inline void mustBeSound(const trace::Trace& t) {
    const std::size_t n = t.size();
    must((t.volts.empty() || t.volts.size() == n) && (t.amps.empty() || t.amps.size() == n) &&
             (t.watts.empty() || t.watts.size() == n),
         "columns are as long as the time");
    must((t.temperature.empty() || t.temperature.size() == n) && (t.percent.empty() || t.percent.size() == n),
         "columns are as long as the time");
    for (std::size_t k = 0; k < n; ++k) {
        must(std::isfinite(t.time[k]) && (k == 0 || t.time[k] >= t.time[k - 1]), "time is finite and never steps back");
        must(std::isfinite(t.power(k)), "power is finite");
    }
}

inline void mustBeFinite(const Working& w) {
    if (!w.isText)
        must(std::isfinite(w.value.value()) && std::isfinite(w.value.u()), w.key.c_str());
    for (const Working& part : w.parts)
        mustBeFinite(part);
}

inline void mustBeFinite(const kinds::Finding& f) {
    for (const Working& w : f.figures)
        mustBeFinite(w);
    must(std::isfinite(f.wattHours.value()) && std::isfinite(f.durationSeconds) && std::isfinite(f.peakWatts) &&
             std::isfinite(f.onSeconds),
         "the finding's figures");
    must(!f.sentence.empty(), "a finding has a sentence");
    must(f.sentence.find("nan") == std::string::npos && f.sentence.find(" inf") == std::string::npos,
         "a sentence has no nan");
}

} // namespace otterstone::fuzz
