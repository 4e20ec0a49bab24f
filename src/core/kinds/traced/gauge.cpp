// D6, D15 and the stamps: what a run's marks and temperatures say besides its energy.
#include "core/kinds/traced/gauge.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/kinds/figure_keys.h"
#include "core/kinds/notebook/charging.h"
#include "core/kinds/traced/context.h"
#include "core/kinds/traced/device.h"
#include "core/quantity/say.h"
#include "core/quantity/wide.h"

namespace otterstone::kinds {

namespace {

constexpr double kWholeRun = 0.95; // of its energy: readings so far apart are of the whole run

// A recorded percent column as stamps: only where it changes, and at most some hundred.
std::vector<Mark> withColumn(const Context& c) {
    std::vector<Mark> all = c.setup.marks;
    const trace::Readings& p = c.trace.percent;
    double last = -1.0;
    for (std::size_t k = 0; k < p.size(); ++k) {
        if (!std::isnan(p[k]) && p[k] != last) {
            all.push_back({c.trace.time[k] / c.setup.clock.value(), Mark::What::Percent, p[k], ""});
            last = p[k];
        }
    }
    return all;
}

std::string saidWords(const GaugePoint& p) {
    return p.saidLow == p.saidHigh ? showNumber(p.saidLow, 3) + " %"
                                   : say("{} to {} %", showNumber(p.saidLow, 3), showNumber(p.saidHigh, 3));
}

} // namespace

void addGauge(const Context& c, Finding& f, double from, double to, bool whole) {
    if (!whole)
        return; // what was truly left is known only of a run that went to its end
    const bool drain = f.kind == Kind::Drain;
    const auto energyAt = [&c](double t) {
        const auto at = std::upper_bound(c.trace.time.begin(), c.trace.time.end(), t);
        const auto k = static_cast<std::size_t>(at - c.trace.time.begin());
        return c.running.upTo(k == 0 ? 0 : k - 1);
    };
    const double start = energyAt(from);
    const double total = energyAt(to) - start;
    if (!(total > 0.0))
        return;
    const std::vector<Mark> marks = withColumn(c);
    f.gauge = findGauge({marks, c.setup.clock.value(), from, to + 1.0, drain},
                        [&](double t) { return std::clamp((energyAt(t) - start) / total, 0.0, 1.0); });
    // Read at the ends alone, where it said what the ends are, nothing was tried.
    if (f.gauge && std::all_of(f.gauge->points.begin(), f.gauge->points.end(), [](const GaugePoint& p) {
            return (p.truePercent <= 1.0 || p.truePercent >= 99.0) && std::fabs(p.error()) <= 1.0;
        }))
        f.gauge.reset();
    if (!f.gauge)
        return;
    Working w;
    w.key = key::gaugeError;
    w.label = say("display's greatest error");
    w.value = Measured(f.gauge->worst.error() / 100.0);
    w.unit = Unit::Share;
    w.formula = say("{} said − {} % true", saidWords(f.gauge->worst), showNumber(f.gauge->worst.truePercent, 3));
    w.note = say("in points; true is by energy {}, of the whole run; positive: the display says too much",
                 (drain ? say("still to come") : say("put in")));
    for (const GaugePoint& p : f.gauge->points)
        w.parts.push_back(remark(say("at {}", showDuration(p.at - from)),
                                 say("said {}, true {} %", saidWords(p), showNumber(p.truePercent, 3))));
    if (w.parts.size() > 30)
        w.parts.changed().resize(30);
    f.figures.push_back(std::move(w));

    if (!f.gauge->zeroAt || *f.gauge->zeroAt >= to)
        return;
    const double after = total - (energyAt(*f.gauge->zeroAt) - start);
    const double share = after / c.totals.wattHours;
    f.gauge->reserve = f.portWattHours * Measured(share);
    Working r;
    r.key = key::reserveWh;
    r.label = say("delivered after 0 % was shown");
    r.value = *f.gauge->reserve;
    r.unit = Unit::WattHour;
    r.formula = say("{} % of {}", showNumber(share * 100.0, 3), showValue(f.portWattHours, Unit::WattHour));
    r.point = say("bank out");
    r.note = say("the display first said 0 % {} before the end", showDuration(to - *f.gauge->zeroAt));
    f.figures.push_back(std::move(r));
}

std::optional<double> addTimeLeft(const Context& c, Finding& f, double end) {
    Working w;
    std::optional<double> first;
    for (const Mark& m : c.setup.marks) {
        const double at = m.at * c.setup.clock.value();
        if (m.what != Mark::What::Estimate || !m.number || !(*m.number > 0.0) || at >= end)
            continue;
        const Measured taken = measuredSpan(c, end - at);
        const Measured off = taken / Measured(*m.number) - Measured(1.0);
        w.parts.push_back(
            remark(say("at {}", showDuration(at)), say("said {}, it took {}: {}", showDuration(*m.number),
                                                       showValue(taken, Unit::Second), showValue(off, Unit::Share))));
        if (first)
            continue;
        first = off.value();
        w.key = key::againstDisplay;
        w.label = say("beyond the display's own estimate");
        w.formula = showValue(taken, Unit::Second) + " ÷ " + showDuration(*m.number) + " − 1";
        w.value = off;
        w.unit = Unit::Share;
        w.note =
            say("the display said {} at {} of the trace; positive: it {}", showDuration(*m.number), showDuration(at),
                (f.drain ? say("lasted longer. At the load as it was until the end") : say("took longer")));
    }
    if (!first)
        return std::nullopt;
    if (w.parts.size() == 1)
        w.parts.clear();
    f.figures.push_back(std::move(w));
    return first;
}

namespace {

// The largest of some readings; −∞ where there are none. Four lanes, so that the compiler can keep them in a wide word.
OTTERSTONE_WIDE double greatestOf(const double* values, std::size_t count) {
    constexpr std::size_t kLanes = 4;
    double most[kLanes] = {-HUGE_VAL, -HUGE_VAL, -HUGE_VAL, -HUGE_VAL};
    std::size_t k = 0;
    for (; k + kLanes <= count; k += kLanes) {
        for (std::size_t lane = 0; lane < kLanes; ++lane)
            most[lane] = values[k + lane] > most[lane] ? values[k + lane] : most[lane]; // NaN is larger than nothing
    }
    for (; k < count; ++k)
        most[0] = values[k] > most[0] ? values[k] : most[0];
    return *std::max_element(most, most + kLanes);
}

double greatestOf(const trace::Readings& column, std::size_t count) {
    constexpr std::size_t kBlock = 1024;
    std::array<double, kBlock> block{};
    double most = -HUGE_VAL;
    for (std::size_t first = 0; first < count; first += kBlock) {
        const std::size_t some = std::min(kBlock, count - first);
        column.decode(first, some, block.data());
        most = std::max(most, greatestOf(block.data(), some));
    }
    return most;
}

} // namespace

void addHeat(const Context& c, Finding& f, double from, double to, double steadyUntil) {
    std::vector<double> time, celsius;
    double hottest = -HUGE_VAL;
    if (!c.trace.temperature.empty()) {
        constexpr std::size_t kEnough = 4000; // for two parameters; the hottest is looked for among all
        const std::size_t stride = std::max<std::size_t>(1, c.trace.size() / kEnough);
        const auto count = static_cast<std::size_t>(std::upper_bound(c.trace.time.begin(), c.trace.time.end(), to) -
                                                    c.trace.time.begin());
        hottest = greatestOf(c.trace.temperature, count);
        for (std::size_t k = 0; k < count; k += stride) {
            time.push_back(c.trace.time[k]);
            celsius.push_back(c.trace.temperature[k]);
        }
    } else {
        for (const Mark& m : c.setup.marks) {
            if (m.what == Mark::What::Temperature && m.number && m.at * c.setup.clock.value() <= to) {
                time.push_back(m.at * c.setup.clock.value());
                celsius.push_back(*m.number);
            }
        }
    }
    f.heat = findHeat(time, celsius, {from, steadyUntil}, c.setup.ambient);
    if (!f.heat)
        return;
    f.heat->hottest = std::max(f.heat->hottest, hottest);
    Working w;
    w.key = "hottest_c";
    w.label = say("hottest");
    const ErrorSource thermometer = ErrorSource::ofInstrument("thermometer", "reading");
    w.value = c.setup.thermometerKelvin
                  ? Measured(f.heat->hottest, rectangular(*c.setup.thermometerKelvin), thermometer)
                  : Measured(f.heat->hottest);
    w.unit = Unit::Celsius;
    w.point = say("the bank's surface, where the thermometer sat");
    w.formula = say("greatest reading");
    w.note =
        f.heat->ambient
            ? say("ambient {} °C{}", showNumber(*f.heat->ambient, 3),
                  (f.heat->ambientStated ? "" : say(", taken from the first reading, before it was warm")))
            : say("the ambient is not known: the first reading was taken when it was warm already, so no rise can be told; state it in About this run");
    const bool known = c.setup.thermometerKelvin.has_value();
    w.partialDoubt = !known;
    if (f.heat->rise) {
        if (known)
            f.heat->rise = f.heat->rise->with(thermometer, rectangular(*c.setup.thermometerKelvin));
        Working rise;
        rise.partialDoubt = !known;
        rise.key = key::heatRiseK;
        rise.label = say("settled rise over ambient");
        rise.value = *f.heat->rise;
        rise.unit = Unit::Kelvin;
        rise.formula = say("ΔT of ΔT·(1 − e^(−t/τ)), fitted");
        rise.note = "τ = " + showDuration(f.heat->seconds->value());
        Working at25;
        at25.partialDoubt = !known;
        at25.key = key::heatAt25C;
        at25.label = say("settled, at 25 °C ambient");
        at25.value = *f.heat->at25();
        at25.unit = Unit::Celsius;
        at25.formula = "25 °C + " + showValue(*f.heat->rise, Unit::Kelvin);
        at25.note = say("{} °C is what a surface held for a minute should stay below (from memory)",
                        showNumber(kHeldSurfaceCelsius));
        at25.parts = {rise};
        w.parts.push_back(at25);
        f.figures.push_back(std::move(w));
        f.figures.push_back(std::move(at25));
        if (f.heat->at25()->value() > kHeldSurfaceCelsius)
            f.warnings.push_back(
                {"hot_surface",
                 say("At 25 °C ambient it would settle at {} °C: too hot to hold for a minute (48 °C, from memory).",
                     showNumber(f.heat->at25()->value(), 3))});
        return;
    }
    if (f.heat->ambient)
        w.note = say("{}; the readings do not settle a rise: too few, too short, or hardly warmer", w.note);
    f.figures.push_back(std::move(w));
}

void addStamps(const Context& c, Finding& f) {
    std::string said;
    for (const Mark& m : c.setup.marks) {
        const char* words = m.what == Mark::What::Plugged     ? "plugged in"
                            : m.what == Mark::What::Unplugged ? "unplugged"
                            : m.what == Mark::What::Trip      ? "tripped"
                            : m.what == Mark::What::Note      ? "noted"
                            : m.what == Mark::What::Stop      ? "stopped"
                                                              : nullptr;
        if (words)
            said += (said.empty() ? "" : "; ") + say("{} at {}{}", words, showDuration(m.at * c.setup.clock.value()),
                                                     (m.text.empty() ? "" : ": " + m.text));
    }
    if (!said.empty()) {
        f.figures.push_back(remark("stamped", said));
        f.figures.back().key = "stamps";
    }
}

namespace {

// What the device said when: stated at the ends, stamped on the way, full where it took no more.
struct DeviceRead {
    double at, percent;
};
std::vector<DeviceRead> deviceReads(const Context& c, const Finding& f, double on, double off) {
    Ends ends;
    resolveDevice(f.seen, ends);
    std::vector<DeviceRead> all;
    const auto exact = [&](const std::optional<KnownState>& known, double at) {
        if (known && known->from != StateFrom::Stamped && known->state.low == known->state.high)
            all.push_back({at, known->state.low});
    };
    exact(ends.deviceBegan, on);
    for (const Mark& m : c.setup.marks) {
        if (m.what == Mark::What::DevicePercent && m.number)
            all.push_back({std::clamp(m.at * c.setup.clock.value(), on, off), *m.number});
    }
    std::stable_sort(all.begin(), all.end(), [](const DeviceRead& a, const DeviceRead& b) { return a.at < b.at; });
    exact(ends.deviceEnded, off);
    return all;
}

// How fast it charged, as a notebook would tell it: its percents were stamped while the meter recorded.
void addPace(const Context& c, Finding& f, double on, double off) {
    std::vector<Look> looks;
    for (const DeviceRead& r : deviceReads(c, f, on, off)) {
        if (!looks.empty() && r.at <= looks.back().at)
            continue;
        Look& look = looks.emplace_back();
        look.at = r.at;
        look.state = State::at(r.percent);
        look.row = looks.size();
    }
    if (looks.size() < 2)
        return;
    const std::string& name = c.setup.device->name;
    const Charging charging = chargingOf(looks, c.setup.run, name);
    const auto add = [&](const char* key, Spoken label, const Measured& value, Unit unit) {
        Working w;
        w.key = key;
        w.label = std::move(label).text();
        w.value = value;
        w.unit = unit;
        w.point = say("device");
        w.note = say("by its own display, each percent good to its last digit");
        f.figures.push_back(std::move(w));
    };
    const std::string from = showNumber(charging.from.value(), 3) + " %";
    if (charging.pace && charging.pace->value() > 0.0)
        add(key::devicePace,
            say("{}: points an hour from {} to {} %", name, showNumber(charging.paceFrom, 3),
                showNumber(charging.paceTo, 3)),
            *charging.pace, Unit::Point);
    if (charging.to80 && tellsMuch(*charging.to80))
        add(key::deviceTo80, say("{} from {} to 80 %", name, from), onTrueClock(c, *charging.to80), Unit::Second);
    if (charging.toFull) {
        const Between& b = *charging.toFull;
        add("device_to_full", say("{} from {} to full", name, from),
            onTrueClock(c, Measured((b.low + b.high) / 2.0, rectangular((b.high - b.low) / 2.0),
                                    ErrorSource::ofRun(c.setup.run, "between the looks at " + name))),
            Unit::Second);
    }
}

void addStored(const Context& c, Finding& f, double on, double off) {
    const auto reads = deviceReads(c, f, on, off);
    const Device& device = *c.setup.device;
    if (reads.size() < 2 || reads.back().percent <= reads.front().percent || !device.batteryWattHours)
        return;
    const DeviceRead &first = reads.front(), &last = reads.back();
    const auto energyAt = [&c](double t) {
        return c.running.upTo(static_cast<std::size_t>(std::lower_bound(c.trace.time.begin(), c.trace.time.end(), t) -
                                                       c.trace.time.begin()));
    };
    const double share = std::clamp((energyAt(last.at) - energyAt(first.at)) / c.totals.wattHours, 0.0, 1.0);
    const Measured given = f.portWattHours * Measured(share);
    Working stored = storedInDevice(device, first.percent, last.percent, c.setup.run);
    if (share < kWholeRun) { // what it said on the way is of that stretch alone
        stored.key = "stored_part_wh";
        stored.note = say("{}, between {} and {} of the run", stored.note, showDuration(first.at - on),
                          showDuration(last.at - on));
    }
    if (given.value() > stored.value.value()) {
        f.figures.push_back(transferShare(stored, given));
        f.figures.push_back(stored);
        if (f.drain->endedBy == trace::EndedBy::CutOff)
            f.figures.push_back(chargesPerBank(f.portWattHours, given, first.percent, last.percent, device.name));
        return;
    }
    f.warnings.push_back(
        {"device_gained_more",
         say("{} gained {} by its display, more than the {} that came out of the port meanwhile: a percent, its battery, or a meter is wrong. No share is told.",
             device.name, showValue(stored.value, Unit::WattHour), showValue(given, Unit::WattHour))});
    f.figures.push_back(stored);
}

} // namespace

void addWhereItWent(const Context& c, Finding& f, double on, double off) {
    const Setup& s = c.setup;
    if (s.device) {
        addPace(c, f, on, off);
        addStored(c, f, on, off);
        if (s.device->inUseWatts) {
            const Measured supply = f.portWattHours * Measured(3600.0 / std::max(1.0, f.drain->activeSeconds));
            f.figures.push_back(balanceInUse(*s.device, supply).working);
        }
    }
    if (s.target && s.target->ratedWattHours && s.rating) {
        const double filled = (s.target->endPercent.value_or(100.0) - s.target->startPercent.value_or(0.0)) / 100.0;
        Working w =
            intoBank(filled, *s.target->ratedWattHours, s.rating->energy.value, s.target->chargingEfficiency, s.run);
        w.note = say("{}; into {}", w.note, s.target->name);
        f.drain->transferred = w.value;
        f.figures.push_back(std::move(w));
    }
}

} // namespace otterstone::kinds
