// What the speakers of a notebook share: its numbers, moments and states in words; internal to this folder.
#pragma once

#include <algorithm>
#include <cmath>
#include <string>

#include "core/kinds/notebook/notebook.h"
#include "core/kinds/parts.h"
#include "core/quantity/format.h"

namespace otterstone::kinds {

// Two moments that a reader would call one.
inline constexpr double kOneMoment = 150.0;

inline std::string number(double points) { return showNumber(points, 3); }

// "22", "full", "25 to 50": an end of "from … to … %".
inline std::string bare(const Look& l) {
    return l.state.low >= 100.0             ? otterstone::say("full")
           : l.state.high <= 0.0 && l.exact ? otterstone::say("empty")
           : l.leds ? otterstone::say("between {} and {} %", number(l.state.low), number(l.state.high))
                    : number(l.state.low) + " %";
}

// "from 22 to 80 %", "from 22 % to full".
inline std::string fromTo(const Look& a, const Look& b) {
    const bool plain = !a.leds && !b.leds && a.state.low < 100.0 && b.state.low < 100.0 && !a.exact && !b.exact;
    return otterstone::say("from {} to {}", plain ? number(a.state.low) : bare(a), bare(b));
}

inline std::string moment(const Between& b) {
    return b.high - b.low <= kOneMoment ? otterstone::say("after {}", showDuration(b.high))
           : b.low <= 0.0
               ? otterstone::say("after {} at the latest", showDuration(b.high))
               : otterstone::say("between {} and {} after the beginning", showDuration(b.low), showDuration(b.high));
}

inline std::string span(const Between& b) {
    return b.high - b.low <= kOneMoment ? showDuration(b.high)
           : b.low <= 0.0               ? otterstone::say("at most {}", showDuration(b.high))
                                        : otterstone::say("{} to {}", showDuration(b.low), showDuration(b.high));
}

inline std::string after(double seconds) {
    return seconds > 0.0 ? otterstone::say("After {}", showDuration(seconds)) : otterstone::say("At the beginning");
}

inline std::string lowHigh(double low, double high) {
    const auto digits = [](double v) { return showNumber(v, v < 10.0 ? 2 : 3); };
    if (!std::isfinite(high))
        return otterstone::say("at least {}", digits(low));
    return digits(low) == digits(high) ? digits(low) : otterstone::say("{} to {}", digits(low), digits(high));
}

class Speaker {
public:
    Speaker(const Facts& facts, NotebookFinding& f) : facts_(facts), f_(f) {}

protected:
    void say(const std::string& sentence) { f_.said.sentence += " " + sentence; }
    void add(Working w) { f_.said.figures.push_back(std::move(w)); }
    [[nodiscard]] const std::string& name(std::size_t device) const { return f_.notes.devices[device].name; }
    [[nodiscard]] Measured bounded(const Between& b, const std::string& what) const {
        return between(b.low, b.high, ErrorSource::ofRun(facts_.run, "between the looks: " + what));
    }

    const Facts& facts_;
    NotebookFinding& f_;
};

/// Of its devices, one by one and beside each other; their figures, which come last.
[[nodiscard]] std::vector<Working> sayDevices(const Facts& facts, NotebookFinding& f);
/// Of the bank: a recharge, what was counted, what it charges in all.
void sayRecharge(const Facts& facts, NotebookFinding& f);
void sayEnergy(const Facts& facts, NotebookFinding& f);
void sayBankByDevices(const Facts& facts, NotebookFinding& f);
void sayBankAlone(const Facts& facts, NotebookFinding& f);

} // namespace otterstone::kinds
