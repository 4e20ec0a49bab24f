// What stamps and columns say near the ends of a run.
#include <algorithm>
#include <cmath>

#include "core/kinds/traced/context.h"
#include "core/quantity/parse.h"

namespace otterstone::kinds {

namespace {

constexpr double kNear = 120.0;        // s: what is stamped so near an end is of that end
constexpr double kNearShare = 0.02;    // or of the run's length,
constexpr double kNearMost = 600.0;    // up to so much
constexpr double kFadeSeconds = 600.0; // a device that fills takes less and less
constexpr double kFaded = 0.5;         // of the plateau

double nearOf(const Context& c) {
    return std::max({kNear, 2.0 * c.step, std::min(kNearShare * c.trace.span(), kNearMost)});
}

Sign percentSign(double percent) {
    return {State::at(std::clamp(percent, 0.0, 100.0)), "the display said " + showNumber(percent, 3) + " %"};
}

Sign ledSign(const Mark& m) {
    const int all = ledsInAll(m);
    const std::string lit = showNumber(*m.number, 2);
    return {litLeds(*m.number, all),
            lit + " of " + std::to_string(all) + " LEDs " + (*m.number == 1.0 ? "was lit" : "were lit")};
}

bool hasWord(const std::string& text, std::initializer_list<const char*> words) {
    const std::string all = lowered(text);
    return std::any_of(words.begin(), words.end(), [&](const char* w) { return all.find(w) != std::string::npos; });
}

std::optional<Ending> endingOf(const Mark& m) {
    if (m.what == Mark::What::Unplugged)
        return hasWord(m.text, {"full", "100"}) ? Ending::DeviceFull : Ending::Unplugged;
    if (m.what != Mark::What::Trip)
        return std::nullopt;
    if (hasWord(m.text, {"heat", "hot", "temperature", "thermal"}))
        return Ending::Heat;
    if (hasWord(m.text, {"over-current", "overcurrent", "over current", "ocp", "short"}))
        return Ending::OverCurrent;
    if (hasWord(m.text, {"charger", "error", "source", "supply"}))
        return Ending::ChargerError;
    return std::nullopt;
}

} // namespace

// The percent column, or the stamp that lies nearest.
std::optional<Sign> signNear(const Context& c, double moment, bool end) {
    const double reach = nearOf(c);
    std::optional<Sign> sign;
    double nearest = reach;
    const trace::Column& p = c.trace.percent;
    for (std::size_t k = 0; k < p.size(); ++k) {
        const double off = std::fabs(c.trace.time[k] - moment);
        if (std::isnan(p[k]) || off > nearest || (end && c.trace.time[k] > moment))
            continue;
        sign = percentSign(p[k]);
        nearest = off;
    }
    nearest = reach;
    for (const Mark& m : c.setup.marks) {
        const bool says = m.number && (m.what == Mark::What::Percent || m.what == Mark::What::Leds);
        const double at = m.at * c.setup.clock.value();
        // What was read before the power came is of the beginning, and what was read after it went of the end, however
        // long before or after.
        const double off = (end ? at > moment : at < moment) ? 0.0 : std::fabs(at - moment);
        if (!says || off > nearest)
            continue;
        sign = m.what == Mark::What::Percent ? percentSign(*m.number) : ledSign(m);
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
            m.at * c.setup.clock.value() >= off - kNearMost)
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
