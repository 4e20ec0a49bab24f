#include "standin/world.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstdio>

#include <nlohmann/json.hpp>

#include "standin/scpi_words.h"

namespace otterstone::standin {

namespace {

constexpr double kLongestStep = 0.1;
constexpr double kForEver = 1e12;

std::string number(double v, int decimals) {
    char text[48];
    (void)std::snprintf(text, sizeof text, "%.*f", decimals, v);
    return text;
}

std::optional<double> numberIn(std::string_view text) {
    double v = 0.0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), v);
    return error == std::errc() && end == text.data() + text.size() ? std::optional(v) : std::nullopt;
}

bool isOn(std::string_view text) { return text == "1" || text == "ON" || text == "on" || text == "IN" || text == "in"; }

} // namespace

const std::map<std::string, Fault>& faults() {
    static const std::map<std::string, Fault> kFaults = {{"noise", Fault::Noise},   {"silence", Fault::Silence},      {"nan", Fault::NotANumber}, {"partial", Fault::Partial},
                                                         {"unplug", Fault::Unplug}, {"slow-clock", Fault::SlowClock}, {"restart", Fault::Restart}, {"wrong-baud", Fault::WrongBaud}};
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
    : scene_(std::move(scene)), bench_(scene_.bank, scene_.stateOfCharge, scene_.ambient), out_(scene_.meter, {0.0001, 0.0001, 0.0003, 0.0003}, scene_.seed),
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
    if (loads_[which].plugged)
        bench_.setLoad(loadPort(which), loads_[which].set);
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

void World::advance(double seconds) {
    const double step = std::min(kLongestStep, 1.0 / scene_.samplesPerSecond);
    const double end = bench_.seconds() + seconds;
    while (bench_.seconds() < end - 1e-9) {
        const double due = printedAt_ + 1.0 / scene_.samplesPerSecond;
        const double dt = std::max(1e-9, std::min({step, end - bench_.seconds(), due - bench_.seconds()}));
        for (int which = 0; which < 2; ++which) {
            if (scene_.watchdogSeconds > 0.0 && loads_[which].set.on && bench_.seconds() - loads_[which].heardAt > scene_.watchdogSeconds)
                switchOff(which);
            loads_[which].onFor += loads_[which].set.on ? dt : 0.0;
        }
        bench_.step(dt);
        if (bench_.seconds() >= due - 1e-9) {
            printedAt_ = due;
            print();
        }
    }
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
    const bool gone = which == 0 && has(Fault::NotANumber);
    const int digits = scene_.samplesPerSecond > 10.0 ? 4 : 2;
    std::string line = number(clock, digits) + "," + (gone ? "nan" : number(shown.volts, 4)) + "," + (gone ? "nan" : number(shown.amps, 4)) + "," +
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
    printOne(1, there ? std::max(in.in ? in.farVolts : 0.0, scene_.charger.tiers.empty() ? scene_.charger.volts : 5.0) : 0.0, in.in ? in.amps : 0.0);
}

std::string World::load(int which, const std::string& line) {
    LoadState& l = loads_[which];
    l.heardAt = bench_.seconds();
    const model::Flow& flow = bench_.flow(loadPort(which));
    const bool out = !flow.in && l.plugged;
    if (parameterOf(line, "*IDN?"))
        return "Otterstone,Stand-in load,0,1";
    if (parameterOf(line, "MEASure:VOLTage?"))
        return number(out ? flow.farVolts : 0.0, 4);
    if (parameterOf(line, "MEASure:CURRent?"))
        return number(out ? flow.amps : 0.0, 4);
    if (parameterOf(line, "MEASure:POWer?"))
        return number(out ? flow.farVolts * flow.amps : 0.0, 4);
    if (parameterOf(line, "INPut?"))
        return l.set.on ? "1" : "0";
    if (parameterOf(line, "SYSTem:ERRor?"))
        return std::exchange(l.error, "0,\"No error\"");
    using Mode = model::Load::Mode;
    const std::pair<const char*, Mode> modes[] = {{"CURRent", Mode::ConstantCurrent}, {"POWer", Mode::ConstantPower}, {"RESistance", Mode::ConstantResistance}};
    if (const auto to = parameterOf(line, "INPut")) {
        if (isOn(*to)) {
            l.set.on = true;
            applyLoad(which);
        } else {
            switchOff(which);
        }
        return {};
    }
    if (const auto what = parameterOf(line, "SOURce:FUNCtion")) {
        for (const auto& [word, mode] : modes) {
            if (parameterOf(*what, word)) {
                l.set.mode = mode;
                applyLoad(which);
                return {};
            }
        }
    }
    for (const auto& [word, mode] : modes) {
        const auto level = parameterOf(line, std::string("SOURce:") + word);
        const auto value = level ? numberIn(*level) : std::nullopt;
        if (value && *value >= 0.0) {
            if (l.set.mode == mode)
                l.set.level = *value;
            applyLoad(which);
            return {};
        }
    }
    if (const auto s = parameterOf(line, "SYSTem:WATChdog"); s && numberIn(*s)) {
        scene_.watchdogSeconds = std::max(0.0, *numberIn(*s));
        return {};
    }
    if (parameterOf(line, "*RST")) {
        switchOff(which);
        l.set = {};
        return {};
    }
    l.error = "-113,\"Undefined header\"";
    return {};
}

std::string World::trigger(int which, const std::string& line) {
    model::Ask& ask = asks_[which];
    if (parameterOf(line, "*IDN?"))
        return "Otterstone,Stand-in trigger,0,1";
    if (const auto v = parameterOf(line, "SOURce:VOLTage"); v && numberIn(*v))
        ask.volts = *numberIn(*v);
    else if (const auto a = parameterOf(line, "SOURce:CURRent"); a && numberIn(*a))
        ask.amps = *numberIn(*a);
    else if (parameterOf(line, "MEASure:VOLTage?"))
        return number(bench_.flow(loadPort(which)).tierVolts, 3);
    else
        return parameterOf(line, "SYSTem:ERRor?") ? "0,\"No error\"" : "";
    if (loads_[which].plugged)
        bench_.ask(loadPort(which), ask);
    return {};
}

std::string World::thermometer(const std::string& line) {
    if (parameterOf(line, "*IDN?"))
        return "Otterstone,Stand-in thermometer,0,1";
    return parameterOf(line, "MEASure:TEMPerature?") ? number(bench_.bank().heat().caseCelsius(), 1) : std::string();
}

std::string World::control(const std::string& line) {
    if (parameterOf(line, "TIME?"))
        return number(bench_.seconds(), 4);
    if (parameterOf(line, "TRUTh?"))
        return truth();
    if (const auto what = parameterOf(line, "FAULt")) {
        char key[32] = {};
        double seconds = 0.0;
        double value = 0.0;
        (void)std::sscanf(std::string(*what).c_str(), "%31s %lf %lf", key, &seconds, &value);
        const auto fault = faultFromKey(key);
        if (!fault)
            return "there is no such fault";
        put(*fault, seconds, value);
        faultAt_ = bench_.seconds();
        return "done";
    }
    return hands(line);
}

// What a person at the bench does. A port is named as on the bank.
std::string World::hands(const std::string& line) {
    const auto portNamed = [this](std::string_view name) -> std::optional<std::size_t> {
        for (std::size_t k = 0; k < scene_.bank.ports.size(); ++k) {
            if (scene_.bank.ports[k].name == name)
                return k;
        }
        return std::nullopt;
    };
    if (const auto what = parameterOf(line, "HANDs:LOAD")) { // "1 C1", "2 OUT"
        const int which = what->starts_with("2") ? 1 : 0;
        const std::string_view name = what->size() > 2 ? what->substr(2) : std::string_view();
        if (name == "OUT")
            pullLoad(which);
        else if (const auto port = portNamed(name))
            plugLoad(which, *port);
        else
            return "there is no such port";
        return "done";
    }
    if (const auto to = parameterOf(line, "HANDs:CHARger")) {
        charger_ = isOn(*to);
        if (charger_) {
            // A socket that is needed for the charger: the load moves to another one.
            chargerPort_ = scene_.inPort;
            if (loads_[0].plugged && scene_.inPort == scene_.outPort && scene_.secondPort != scene_.outPort)
                plugLoad(0, scene_.secondPort);
            else if (loads_[1].plugged && scene_.inPort == scene_.secondPort)
                pullLoad(1);
            bench_.plugCharger(chargerPort_, scene_.charger, {scene_.inOhms, 5.0});
        } else {
            bench_.unplug(chargerPort_);
            if (chargerPort_ == scene_.outPort)
                plugLoad(0, scene_.outPort);
        }
        return "done";
    }
    if (const auto json = parameterOf(line, "HANDs:SOURce")) {
        source(std::string(*json));
        return "done";
    }
    if (const auto to = parameterOf(line, "HANDs:DEVice")) {
        device_ = isOn(*to);
        if (device_) {
            loads_[0].plugged = false;
            bench_.plugDevice(scene_.outPort, scene_.device, scene_.deviceSoc, {scene_.outOhms, 5.0}, true);
        } else {
            plugLoad(0, scene_.outPort);
        }
        return "done";
    }
    if (parameterOf(line, "HANDs:REPLug")) { // in the order in which they were
        for (const int which : {0, 1}) {
            if (loads_[which].plugged)
                plugLoad(which, loadPort(which));
        }
        return "done";
    }
    if (parameterOf(line, "HANDs:BUTTon")) {
        bench_.pressButton();
        return "done";
    }
    if (const auto to = parameterOf(line, "HANDs:LOWMode")) {
        bench_.setLowCurrentMode(isOn(*to));
        if (loads_[0].plugged)
            plugLoad(0, scene_.outPort);
        return "done";
    }
    return "unknown command";
}

// Another charger and cable: {"tiers": "5 V 3 A", "watts": 15, "ohms": 0.06, "amps": 3, "port": "C1"}.
void World::source(const std::string& text) {
    const auto j = nlohmann::json::parse(text, nullptr, false);
    if (!j.is_object())
        return;
    model::Charger c;
    c.tiers = label::parseTiers(j.value("tiers", ""), "tiers").value_or(std::vector<label::Tier>{});
    c.watts = j.value("watts", 18.0);
    if (charger_)
        bench_.unplug(chargerPort_);
    chargerPort_ = scene_.inPort;
    for (std::size_t k = 0; k < scene_.bank.ports.size(); ++k) {
        if (scene_.bank.ports[k].name == j.value("port", ""))
            chargerPort_ = k;
    }
    for (const int which : {0, 1}) {
        if (loads_[which].plugged && loadPort(which) == chargerPort_)
            pullLoad(which);
    }
    charger_ = true;
    bench_.plugCharger(chargerPort_, c, {j.value("ohms", 0.06), j.value("amps", 3.0)});
}

std::string World::truth() const {
    const model::Ledger& l = bench_.ledger();
    return nlohmann::json{{"seconds", bench_.seconds()},
                          {"out_wh", l.outOfPorts},
                          {"in_wh", l.intoPorts},
                          {"soc", bench_.bank().pack().stateOfCharge()},
                          {"says", bench_.bank().saysPercent()},
                          {"core_celsius", bench_.bank().heat().coreCelsius()},
                          {"case_celsius", bench_.bank().heat().caseCelsius()},
                          {"amps", bench_.flow(scene_.outPort).amps},
                          {"load_on", loads_[0].set.on},
                          {"load_off_at", loads_[0].offAt},
                          {"fault_at", faultAt_},
                          {"load_on_for", loads_[0].onFor},
                          {"second_load_on", loads_[1].set.on}}
        .dump();
}

} // namespace otterstone::standin
