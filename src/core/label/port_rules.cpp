#include "core/label/port_rules.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/quantity/parse.h"

namespace otterstone::label {

namespace {

constexpr double kSameVolts = 0.3;
constexpr double kGone = 1.0;

} // namespace

bool sameVolts(double a, double b) { return std::fabs(a - b) <= kSameVolts; }

bool outputGone(double volts) { return !(volts >= kGone); }

bool isAType(std::string_view name) {
    const std::string n = lowered(name);
    return n.starts_with("usb-a") || (n.starts_with("a") && (n.size() == 1 || (n[1] >= '0' && n[1] <= '9')));
}

bool isOther(std::string_view name) {
    const std::string n = lowered(name);
    static constexpr std::array kSockets = {"dc",  "barrel", "12 v",     "12v", "vehicle",
                                            "car", "socket", "terminal", "pad", "ac"};
    return std::any_of(kSockets.begin(), kSockets.end(), [&](const char* word) { return n.starts_with(word); }) ||
           n.find("socket") != std::string::npos || n.find("barrel") != std::string::npos;
}

std::optional<Window> toleranceAt(std::string_view port, double tierVolts) {
    return isOther(port) ? std::nullopt : std::optional(toleranceOf(tierVolts, isAType(port)));
}

std::optional<double> promisedAmps(const Port& port, Way way, double volts) {
    std::optional<double> fixed, range;
    for (const Tier& t : port.tiersFor(way)) {
        if (!t.programmable() && sameVolts(volts, t.high.value))
            fixed = std::max(fixed.value_or(0.0), t.amps.value);
        else if (t.programmable() && (volts >= t.low.value || sameVolts(volts, t.low.value)) &&
                 (volts <= t.high.value || sameVolts(volts, t.high.value)))
            range = std::max(range.value_or(0.0), t.amps.value);
    }
    std::optional<double> amps = fixed ? fixed : range;
    if (const auto watts = port.wattsFor(way); amps && watts && volts > 0.0)
        amps = std::min(*amps, watts->value / volts);
    return amps;
}

std::optional<Watts> mostWatts(const Port& port, Way way) {
    const auto limit = port.wattsFor(way);
    std::optional<Watts> most;
    for (const Tier& t : port.tiersFor(way)) {
        const Watts w = limit ? std::min(t.watts(), *limit) : t.watts();
        most = most ? std::max(*most, w) : w;
    }
    return most ? most : limit;
}

std::optional<Watts> inputNeeded(const Label& label) {
    std::optional<Watts> most;
    for (const Port& p : label.ports) {
        if (const auto takes = mostWatts(p, Way::In); takes && (!most || takes->value > most->value))
            most = takes;
    }
    return most && label.inputWatts ? std::min(*most, *label.inputWatts) : most ? most : label.inputWatts;
}

std::vector<const Port*> portsAt(const Label& label, Way way, double volts) {
    std::vector<const Port*> ports;
    for (const Port& p : label.ports) {
        if (promisedAmps(p, way, volts))
            ports.push_back(&p);
    }
    return ports;
}

} // namespace otterstone::label
