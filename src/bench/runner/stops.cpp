#include "bench/runner/stops.h"

#include <algorithm>
#include <cmath>

#include "bench/runner/seen.h"
#include "core/label/port_rules.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

constexpr double kLeastTellingAmps = 0.05; // smaller expected currents drown in a meter's offset
constexpr double kStillThere = 0.8;        // of the volts before, as the finding has it: only the load went away
constexpr double kSettleAfterSwitch = 2.0; // seconds in which instruments may still show what was
constexpr double kLeastPeakWatts = 0.5;    // a taper begins from something
constexpr std::size_t kWarmths = 200;

std::string celsius(double v) { return showNumber(v, 4) + " °C"; }

} // namespace

bool isOrderly(StopKind kind) {
    return kind == StopKind::CutOff || kind == StopKind::TaperEnd || kind == StopKind::StepTime ||
           kind == StopKind::Settled || kind == StopKind::Done || kind == StopKind::Tester;
}

void Stops::start(double now) { startedAt_ = lastReading_ = now; }

void Stops::askedFor(const Limits& limits, double now) {
    highBefore_ = limits_.highVolts;
    limitsSince_ = now;
    limits_ = limits;
}

void Stops::expect(double amps, double now) {
    // A load that is raised until it trips has flowed before; one that was off must show that it does.
    flowed_ = flowed_ && expected_ > 0.0;
    expected_ = amps;
    expectedSince_ = now;
    goneSince_.reset();
}

void Stops::watchFor(bool cutOff, bool taper, bool settled, double now) {
    cutOff_ = cutOff;
    taper_ = taper;
    settled_ = settled;
    peakWatts_ = 0.0;
    lowSince_.reset();
    warmth_.clear();
    expectedSince_ = std::max(expectedSince_, now - kSettleAfterSwitch);
}

std::optional<Stop> Stops::temperature(double c, double at) { return heard(kThermometer, c, at); }

std::optional<Stop> Stops::heard(const std::string& source, double c, double at) {
    const bool believed = heat_.believable(source, c, at);
    if (c >= limits_.celsius) // believed or not
        return Stop{StopKind::Temperature,
                    say("the temperature reached {}, the limit is {}", celsius(c), celsius(limits_.celsius))};
    if (!believed || !settled_ || (source == kMeterHeat && heat_.expects(kThermometer)))
        return std::nullopt;
    if (warmth_.empty() || at - warmth_.back().at >= limits_.settledSeconds / kWarmths)
        warmth_.push_back({at, c});
    while (warmth_.size() > 2 && at - warmth_[1].at >= limits_.settledSeconds)
        warmth_.pop_front();
    const auto [low, high] = std::minmax_element(
        warmth_.begin(), warmth_.end(), [](const Warmth& a, const Warmth& b) { return a.celsius < b.celsius; });
    if (at - warmth_.front().at >= limits_.settledSeconds && high->celsius - low->celsius <= limits_.settledKelvin)
        return Stop{StopKind::Settled, say("the temperature has settled at {}", celsius(c))};
    return std::nullopt;
}

std::optional<Stop> Stops::reading(const Seen& seen, double at) {
    lastReading_ = at;
    if (seen.celsius) {
        if (auto stop = heard(kMeterHeat, *seen.celsius, at))
            return stop;
    }
    heat_.flowing(std::fabs(seen.volts * seen.amps), at);
    const bool judged = expected_ > 0.0 && at - expectedSince_ >= kSettleAfterSwitch;
    const bool off = label::outputGone(seen.volts);
    const double high =
        at - limitsSince_ < kSettleAfterSwitch ? std::max(limits_.highVolts, highBefore_) : limits_.highVolts;
    if (seen.volts > high)
        return Stop{StopKind::VoltageWindow,
                    say("{} V stand at the meter, the limit is {} V", showNumber(seen.volts, 4), showNumber(high, 4))};
    if (judged && !off && seen.volts < limits_.lowVolts)
        return Stop{StopKind::VoltageWindow, say("only {} V are left under load, the limit is {} V",
                                                 showNumber(seen.volts, 4), showNumber(limits_.lowVolts, 4))};
    if (expected_ > 0.0 && !off && seen.amps >= kGoneShare * expected_) {
        flowed_ = true;
        carriedVolts_ = seen.volts;
    }
    const bool gone = judged && (off || (expected_ >= kLeastTellingAmps && seen.amps < kGoneShare * expected_));
    if (!gone) {
        goneSince_.reset();
    } else {
        goneSince_ = goneSince_.value_or(at);
        if (cutOff_ && at - *goneSince_ >= kGoneSeconds) {
            if (!flowed_)
                return Stop{StopKind::InstrumentLost,
                            say("the load draws nothing; is it connected, and the right way round")};
            if (!off && seen.volts >= kStillThere * carriedVolts_) // invariant 4
                return Stop{
                    StopKind::InstrumentLost,
                    say("the load draws nothing any more, while the output still holds {} V: did the load switch itself off, or a plug come loose",
                        showNumber(seen.volts, 3))};
            return Stop{StopKind::CutOff, goneMeans_ == "trip" ? say("the output tripped")
                                          : goneMeans_ == "auto-off"
                                              ? say("the output switched itself off at this small load")
                                              : say("the bank switched its output off")};
        }
    }
    if (taper_) {
        const double watts = seen.volts * seen.amps;
        peakWatts_ = std::max(peakWatts_, watts);
        const bool low = peakWatts_ >= kLeastPeakWatts && watts < limits_.fullShare * peakWatts_;
        lowSince_ = low ? lowSince_.value_or(at) : std::optional<double>();
        if (lowSince_ && at - *lowSince_ >= limits_.fullSeconds)
            return Stop{StopKind::TaperEnd,
                        say("the power stayed below {} % of its peak for {}", showNumber(100.0 * limits_.fullShare),
                            showDuration(limits_.fullSeconds))};
    }
    return std::nullopt;
}

std::optional<Stop> Stops::tick(double now) {
    if (now - lastReading_ >= limits_.silentSeconds)
        return Stop{StopKind::Silent, say("the meter was silent for {}", showDuration(now - lastReading_))};
    if (const auto broken = heat_.broken(now))
        return Stop{StopKind::SensorLost,
                    say("{}, and the limit of {} cannot be kept without it", *broken, celsius(limits_.celsius))};
    if (now - startedAt_ >= limits_.seconds)
        return Stop{StopKind::Time, say("the time limit of {} was reached", showDuration(limits_.seconds))};
    return std::nullopt;
}

} // namespace otterstone::bench
