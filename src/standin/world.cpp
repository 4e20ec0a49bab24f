#include "standin/world.h"

#include <algorithm>
#include <cmath>
#include <utility>

#include "standin/scpi_words.h"

namespace otterstone::standin {

namespace {

constexpr double kLongestStep = 0.1;
constexpr double kForEver = 1e12;
constexpr double kStartling = 0.2;                    // of the greater of two readings
constexpr double kLeastVolts = 0.5, kLeastAmps = 0.1; // smaller changes startle nobody

bool differ(double a, double b, double least) {
    return std::fabs(a - b) > std::max(least, kStartling * std::max(std::fabs(a), std::fabs(b)));
}

} // namespace

const std::map<std::string, Fault>& faults() {
    static const std::map<std::string, Fault> kFaults = {{"noise", Fault::Noise},     {"silence", Fault::Silence},
                                                         {"nan", Fault::NotANumber},  {"partial", Fault::Partial},
                                                         {"unplug", Fault::Unplug},   {"slow-clock", Fault::SlowClock},
                                                         {"restart", Fault::Restart}, {"wrong-baud", Fault::WrongBaud}};
    return kFaults;
}

std::optional<Fault> faultFromKey(std::string_view key) {
    const auto at = faults().find(std::string(key));
    return at == faults().end() ? std::nullopt : std::optional(at->second);
}

void Scene::choosePorts() {
    const auto& ports = bank.ports;
    const auto watts = [&](std::size_t k) {
        const auto best = label::bestTier(ports[k].gives);
        return best ? best->watts().value : 0.0;
    };
    const auto gives = [&](std::size_t k) { return ports[k].direction != label::Direction::In; };
    const auto takes = [&](std::size_t k) { return ports[k].direction != label::Direction::Out; };
    // The strongest output; an input of its own where there is one; and another output, rather not the input.
    std::optional<std::size_t> out, in, second;
    for (std::size_t k = 0; k < ports.size(); ++k) {
        if (gives(k) && (!out || watts(k) > watts(*out)))
            out = k;
    }
    for (std::size_t k = 0; k < ports.size(); ++k) {
        if (takes(k) && (!in || *in == out))
            in = k;
    }
    for (std::size_t k = 0; k < ports.size(); ++k) {
        if (gives(k) && k != out && (!second || *second == in))
            second = k;
    }
    outPort = out.value_or(0);
    inPort = in.value_or(0);
    secondPort = second.value_or(outPort);
}

World::World(Scene scene)
    : scene_(std::move(scene)), bench_(scene_.bank, scene_.stateOfCharge, scene_.ambient),
      out_(scene_.meter, {0.0001, 0.0001, 0.0003, 0.0003}, scene_.seed),
      in_(scene_.meter, {0.0001, 0.0001, 0.0003, 0.0003}, scene_.seed + 7919), random_(scene_.seed + 104729) {
    plugLoad(0, scene_.outPort);
    if (scene_.secondPort != scene_.outPort && scene_.secondPort != scene_.inPort)
        plugLoad(1, scene_.secondPort);
}

void World::plugLoad(int which, std::size_t port) {
    const int other = 1 - which;
    if (loads_[other].plugged && loadPort(other) == port)
        pullLoad(other);
    if (loads_[which].plugged && loadPort(which) != port)
        pullLoad(which);
    if (charger_ && chargerPort_ == port)
        charger_ = false; // pulled out to make room
    (which == 0 ? scene_.outPort : scene_.secondPort) = port;
    loads_[which].plugged = true;
    bench_.plugLoad(port, {scene_.outOhms, 5.0}, asks_[which]);
    applyLoad(which);
}

void World::pullLoad(int which) {
    if (!std::exchange(loads_[which].plugged, false))
        return;
    bench_.setLoad(loadPort(which), {});
    bench_.unplug(loadPort(which));
}

bool World::has(Fault fault) const {
    const auto at = until_.find(fault);
    return at != until_.end() && bench_.seconds() < at->second;
}

void World::put(Fault fault, double seconds, double value) {
    if (fault == Fault::SlowClock || fault == Fault::Restart) {
        const double now = clockBase_ + (bench_.seconds() - clockFrom_) * clockRuns_;
        clockBase_ = fault == Fault::Restart ? 0.0 : now;
        clockFrom_ = bench_.seconds();
        if (fault == Fault::SlowClock)
            clockRuns_ = value > 0.0 ? value : 0.94;
        return;
    }
    until_[fault] = bench_.seconds() + (seconds > 0.0 ? seconds : kForEver);
}

void World::applyLoad(int which) {
    begun_ = begun_ || loads_[which].set.on;
    if (loads_[which].plugged)
        bench_.setLoad(loadPort(which), loads_[which].set);
}

void World::keepAwake() {
    constexpr double kNowAndThen = 5.0;
    if (bench_.seconds() - wokenAt_ < kNowAndThen)
        return;
    wokenAt_ = bench_.seconds();
    bench_.pressButton();
}

void World::switchOff(int which) {
    LoadState& l = loads_[which];
    if (!l.set.on)
        return;
    l.set.on = false;
    l.offAt = bench_.seconds();
    applyLoad(which);
}

void World::loadLeftAlone(int which) {
    // The watchdog of a load with nobody at the other end: what it would do after its time, it does at once.
    if (scene_.watchdogSeconds > 0.0)
        switchOff(which);
}

bool World::advance(double seconds, bool untilStartled) {
    const double step = std::min(kLongestStep, 1.0 / scene_.samplesPerSecond);
    const double end = bench_.seconds() + seconds;
    while (bench_.seconds() < end - 1e-9) {
        const double due = printedAt_ + 1.0 / scene_.samplesPerSecond;
        const double dt = std::max(1e-9, std::min({step, end - bench_.seconds(), due - bench_.seconds()}));
        for (int which = 0; which < 2; ++which) {
            if (scene_.watchdogSeconds > 0.0 && loads_[which].set.on &&
                bench_.seconds() - loads_[which].heardAt > scene_.watchdogSeconds)
                switchOff(which);
            loads_[which].onFor += loads_[which].set.on ? dt : 0.0;
        }
        bench_.step(dt);
        if (bench_.seconds() >= due - 1e-9) {
            printedAt_ = due;
            print();
            if (std::exchange(startled_, false) && untilStartled)
                return false;
        }
    }
    return true;
}

std::string World::spoiled(std::string line) {
    std::uniform_int_distribution<int> dice(0, 99);
    if (has(Fault::Noise) && dice(random_) < 60) {
        const int count = 1 + dice(random_) % 6;
        for (int k = 0; k < count; ++k) {
            const auto at = static_cast<std::size_t>(dice(random_)) * line.size() / 100;
            line.insert(line.begin() + static_cast<std::ptrdiff_t>(at), static_cast<char>(0x80 + dice(random_)));
        }
    }
    if (has(Fault::Partial) && dice(random_) < 60) {
        const auto cut = static_cast<std::size_t>(dice(random_)) * line.size() / 100;
        line = dice(random_) < 50 ? line.substr(0, cut) : line.substr(cut);
    }
    return line;
}

void World::printOne(int which, double volts, double amps) {
    const double clock = clockBase_ + (bench_.seconds() - clockFrom_) * clockRuns_;
    const auto shown = (which == 0 ? out_ : in_).read(volts, amps);
    Shown& before = shown_[which];
    startled_ |= differ(shown.volts, before.volts, kLeastVolts) || differ(shown.amps, before.amps, kLeastAmps);
    before = {shown.volts, shown.amps};
    const bool gone = which == 0 && has(Fault::NotANumber);
    const int digits = scene_.samplesPerSecond > 10.0 ? 4 : 2;
    std::string line = number(clock, digits) + "," + (gone ? "nan" : number(shown.volts, 4)) + "," +
                       (gone ? "nan" : number(shown.amps, 4)) + "," +
                       number(model::rounded(bench_.bank().heat().caseCelsius(), 0.1), 1);
    printed(which, which == 0 ? spoiled(std::move(line)) : line);
}

void World::print() {
    if (!printed)
        return;
    // The meter sits between cable and load, or between charger and cable.
    if (!has(Fault::Silence)) {
        const model::Flow& out = bench_.flow(scene_.outPort);
        const bool ours = !out.in && (loads_[0].plugged || device_);
        printOne(0, ours ? out.farVolts : 0.0, ours ? out.amps : 0.0);
    }
    const model::Flow& in = bench_.flow(charger_ ? chargerPort_ : scene_.inPort);
    const bool there = charger_;
    printOne(
        1, there ? std::max(in.in ? in.farVolts : 0.0, scene_.charger.tiers.empty() ? scene_.charger.volts : 5.0) : 0.0,
        in.in ? in.amps : 0.0);
}

} // namespace otterstone::standin
