// What stamps and columns say near the ends of a run.
#include <algorithm>
#include <cmath>

#include "core/kinds/traced/context.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

constexpr double kNear = 120.0;        // s: what is stamped so near an end is of that end,
constexpr double kNearShare = 0.02;    // or with so little of the energy between
constexpr double kLately = 600.0;      // s before the end in which a device says that it is full
constexpr double kFadeSeconds = 600.0; // a device that fills takes less and less
constexpr double kFaded = 0.5;         // of the plateau

// So near the end that the bank's state cannot have changed much.
bool isNear(const Context& c, double at, double moment) {
    const auto energyAt = [&c](double t) {
        return c.running.upTo(static_cast<std::size_t>(std::lower_bound(c.trace.time.begin(), c.trace.time.end(), t) -
                                                       c.trace.time.begin()));
    };
    // Readings by hand lie half an hour apart: two of those are no moment.
    return std::fabs(at - moment) <= (c.setup.hand ? kNear : std::max(kNear, 2.0 * c.step)) ||
           std::fabs(energyAt(at) - energyAt(moment)) <= kNearShare * c.totals.wattHours;
}

Sign percentSign(double percent) {
    return {State::at(std::clamp(percent, 0.0, 100.0)), say("the display said {} %", showNumber(percent, 3))};
}

Sign ledSign(const Mark& m) {
    const int all = ledsInAll(m);
    const std::string lit = showNumber(*m.number, 2);
    return {litLeds(*m.number, all),
            say("{} of {} LEDs {}", lit, std::to_string(all), (*m.number == 1.0 ? say("was lit") : say("were lit")))};
}

bool hasWord(const std::string& text, std::initializer_list<const char*> words) {
    const std::string all = lowered(text);
    return std::any_of(words.begin(), words.end(), [&](const char* w) { return all.find(w) != std::string::npos; });
}

std::optional<Ending> endingOf(const Mark& m) {
    if (m.what == Mark::What::Unplugged)
        return hasWord(m.text, {"full", "100 %", "100%"}) && !hasWord(m.text, {"not ", "before", "almost", "nearly"})
                   ? Ending::DeviceFull
                   : Ending::Unplugged;
    if (m.what != Mark::What::Trip)
        return std::nullopt;
    if (hasWord(m.text, {"heat", "hot", "temperature", "thermal"}))
        return Ending::Heat;
    if (hasWord(m.text, {"over-current", "overcurrent", "over current", "ocp", "short circuit", "shorted"}))
        return Ending::OverCurrent;
    if (hasWord(m.text, {"charger", "error", "source", "supply"}))
        return Ending::ChargerError;
    return std::nullopt;
}

} // namespace

// The percent column, or the stamp that lies nearest.
std::optional<Sign> signNear(const Context& c, double moment, bool end) {
    std::optional<Sign> sign;
    const trace::Readings& p = c.trace.percent;
    const auto from = static_cast<std::size_t>(std::lower_bound(c.trace.time.begin(), c.trace.time.end(), moment) -
                                               c.trace.time.begin());
    std::size_t at = std::min(from, p.size());
    if (end) { // the last that it said, or the first
        while (at > 0 && (at == p.size() || std::isnan(p[at]) || c.trace.time[at] > moment))
            --at;
    } else {
        while (at < p.size() && std::isnan(p[at]))
            ++at;
    }
    if (at < p.size() && !std::isnan(p[at]) && isNear(c, c.trace.time[at], moment))
        sign = percentSign(p[at]);
    double nearest = HUGE_VAL;
    for (const Mark& m : c.setup.marks) {
        const bool says = m.number && (m.what == Mark::What::Percent || m.what == Mark::What::Leds);
        const double stamped = m.at * c.setup.clock.value();
        // What was read before the power came is of the beginning, and what was read after it went of the end, however
        // long before or after.
        const double off = (end ? stamped > moment : stamped < moment) ? 0.0 : std::fabs(stamped - moment);
        if (!says || off > nearest || (off > 0.0 && !isNear(c, stamped, moment)))
            continue;
        sign = m.what == Mark::What::Percent ? percentSign(*m.number) : ledSign(m);
        nearest = off;
    }
    return sign;
}

std::optional<Sign> deviceNear(const Context& c, double moment, bool end) {
    std::optional<Sign> sign;
    double nearest = HUGE_VAL;
    for (const Mark& m : c.setup.marks) {
        const double stamped = m.at * c.setup.clock.value();
        const double off = (end ? stamped > moment : stamped < moment) ? 0.0 : std::fabs(stamped - moment);
        if (m.what != Mark::What::DevicePercent || !m.number || off > nearest ||
            (off > 0.0 && !isNear(c, stamped, moment)))
            continue;
        sign = Sign{State::at(std::clamp(*m.number, 0.0, 100.0)), say("it said {} %", showNumber(*m.number, 3))};
        nearest = off;
    }
    return sign;
}

std::optional<Ending> stampedEnding(const Context& c, double moment) {
    const double reach = std::max(60.0, 2.0 * c.step);
    std::optional<Ending> ending;
    for (const Mark& m : c.setup.marks) {
        if (std::fabs(m.at * c.setup.clock.value() - moment) > reach)
            continue;
        if (const auto said = endingOf(m))
            ending = !ending || m.what == Mark::What::Trip ? said : ending;
    }
    return ending;
}

Ending endingOfDrain(const Context& c, const trace::DrainPhases& phases) {
    switch (phases.endedBy) {
    case trace::EndedBy::CutOff: return Ending::CutOff;
    case trace::EndedBy::OverCurrent: return Ending::OverCurrent;
    case trace::EndedBy::Heat: return Ending::Heat;
    case trace::EndedBy::Unknown: return phases.off ? Ending::Unknown : Ending::LogEnds;
    case trace::EndedBy::User: break;
    }
    // The volts stood: a device that fills takes less and less, a load is switched off.
    const double off = phases.off.value_or(c.trace.time.back());
    for (const Mark& m : c.setup.marks) {
        if (m.what == Mark::What::DevicePercent && m.number && *m.number >= 99.5 &&
            m.at * c.setup.clock.value() >= off - kLately)
            return Ending::DeviceFull;
    }
    double sum = 0.0;
    std::size_t count = 0;
    for (std::size_t k = 0; k < c.trace.size() && c.trace.time[k] < off; ++k) {
        if (c.trace.time[k] >= off - kFadeSeconds) {
            sum += c.trace.power(k);
            ++count;
        }
    }
    const bool long_ = phases.on && off - *phases.on > 2.0 * kFadeSeconds;
    return count > 1 && long_ && sum / static_cast<double>(count) < kFaded * c.plateau.watts ? Ending::DeviceFull
                                                                                             : Ending::LoadStopped;
}

std::string restartOf(const Context& c, const trace::Stretch& off) {
    for (const Mark& m : c.setup.marks) {
        const double at = m.at * c.setup.clock.value();
        if (at < off.from - 1.0 || at > off.to + 60.0)
            continue;
        if (m.what == Mark::What::Plugged)
            return m.text.empty() ? "replug" : m.text;
        if ((m.what == Mark::What::Note || m.what == Mark::What::Trip) && !m.text.empty())
            return m.text;
    }
    return {};
}

bool pulledOut(const Context& c, const trace::Stretch& off) {
    return std::any_of(c.setup.marks.begin(), c.setup.marks.end(), [&](const Mark& m) {
        const double at = m.at * c.setup.clock.value();
        return m.what == Mark::What::Unplugged && at >= off.from - 60.0 && at <= off.to;
    });
}

} // namespace otterstone::kinds
