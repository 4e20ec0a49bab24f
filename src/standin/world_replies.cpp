// What the sockets of the stand-in's bench answer: its loads, triggers and thermometer, and the one through which
// hands, faults and the truth go.
#include <cmath>
#include <locale>
#include <sstream>

#include <nlohmann/json.hpp>

#include "standin/scpi_words.h"
#include "standin/world.h"

namespace otterstone::standin {

std::string World::peek(const std::string& question) {
    const double heard = loads_[0].heardAt;
    std::string answer = load(0, question);
    loads_[0].heardAt = heard;
    return answer;
}

double World::wallWatts() const {
    // Of an ordinary charger; no published source.
    constexpr double kIdle = 0.08, kShare = 0.87;
    const model::Flow& in = bench_.flow(chargerPort_);
    return charger_ && in.in ? kIdle + std::fabs(in.farVolts * in.amps) / kShare : charger_ ? kIdle : 0.0;
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
    // An input that is off carries nothing, also while the bench's time stands.
    const double amps = out && l.set.on ? flow.amps : 0.0;
    if (parameterOf(line, "MEASure:CURRent?"))
        return number(amps, 4);
    if (parameterOf(line, "MEASure:POWer?"))
        return number(flow.farVolts * amps, 4);
    if (parameterOf(line, "INPut?"))
        return l.set.on ? "1" : "0";
    if (parameterOf(line, "SYSTem:ERRor?"))
        return std::exchange(l.error, "0,\"No error\"");
    using Mode = model::Load::Mode;
    const std::pair<const char*, Mode> modes[] = {
        {"CURRent", Mode::ConstantCurrent}, {"POWer", Mode::ConstantPower}, {"RESistance", Mode::ConstantResistance}};
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
        std::istringstream words{std::string(*what)}; // of the classic locale
        words.imbue(std::locale::classic());
        std::string key;
        double seconds = 0.0;
        double value = 0.0;
        words >> key >> seconds >> value;
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
    begun_ = true;
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
