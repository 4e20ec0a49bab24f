#include "book/json_records.h"

#include <nlohmann/json.hpp>

namespace otterstone::book {

using nlohmann::json;

namespace {

template<class T>
void put(json& j, const char* key, const std::optional<T>& value) {
    if (!value)
        return;
    if constexpr (requires { value->value; })
        j[key] = value->value;
    else
        j[key] = *value;
}

template<class T>
void get(const json& j, const char* key, std::optional<T>& value) {
    const auto at = j.find(key);
    if (at == j.end() || at->is_null())
        return;
    if constexpr (requires { value->value; })
        value = T(at->template get<double>());
    else
        value = at->template get<T>();
}

template<class T>
void getOr(const json& j, const char* key, T& value) {
    if (const auto at = j.find(key); at != j.end() && !at->is_null())
        at->get_to(value);
}

json portJson(const label::Port& p) {
    json j{{"name", p.name}, {"direction", directionKey(p.direction)}, {"tiers", json::array()}};
    put(j, "watts", p.watts);
    put(j, "shared_watts", p.sharedWatts);
    for (const label::Tier& t : p.tiers)
        j["tiers"].push_back({{"low_volts", t.low.value}, {"high_volts", t.high.value}, {"amps", t.amps.value}});
    return j;
}

label::Port portFromJson(const json& j) {
    label::Port p;
    j.at("name").get_to(p.name);
    p.direction = directionFromKey(j.at("direction").get<std::string>());
    get(j, "watts", p.watts);
    get(j, "shared_watts", p.sharedWatts);
    for (const json& t : j.at("tiers"))
        p.tiers.push_back({Volts(t.at("low_volts").get<double>()), Volts(t.at("high_volts").get<double>()),
                           Amps(t.at("amps").get<double>())});
    return p;
}

json markJson(const findings::Mark& m) {
    json j{{"at_s", m.at}, {"what", findings::markKey(m.what)}, {"text", m.text}};
    put(j, "number", m.number);
    return j;
}

findings::Mark markFromJson(const json& j) {
    findings::Mark m;
    j.at("at_s").get_to(m.at);
    m.what = findings::markFromKey(j.at("what").get<std::string>()).value_or(findings::Mark::What::Note);
    get(j, "number", m.number);
    getOr(j, "text", m.text);
    return m;
}

} // namespace

std::string directionKey(label::Direction d) {
    return d == label::Direction::In ? "in" : d == label::Direction::Out ? "out" : "both";
}

label::Direction directionFromKey(std::string_view key) {
    return key == "in" ? label::Direction::In : key == "out" ? label::Direction::Out : label::Direction::Both;
}

json toJson(const Bank& b) {
    const label::Label& l = b.label;
    json j{{"id", b.id}, {"name", b.name}, {"notes", b.notes}};
    json& label = j["label"] = json::object();
    put(label, "capacity_ah", l.capacity);
    put(label, "cell_volts", l.cellVolts);
    put(label, "energy_wh", l.energy);
    put(label, "output_capacity_ah", l.outputCapacity);
    put(label, "output_volts", l.outputVolts);
    label["also_printed"] = l.alsoPrinted;
    put(label, "total_watts", l.totalWatts);
    put(label, "total_amps", l.totalAmps);
    put(label, "weight_g", l.weightGrams);
    if (l.size)
        label["size_mm"] = {l.size->length, l.size->width, l.size->height};
    put(label, "recharge_h", l.rechargeTime);
    put(label, "input_watts", l.inputWatts);
    put(label, "price", l.price);
    label["currency"] = l.currency;
    put(label, "warranty_months", l.warrantyMonths);
    label["claims_pass_through"] = l.claimsPassThrough;
    label["claims_low_current"] = l.claimsLowCurrentMode;
    label["ports"] = json::array();
    for (const label::Port& p : l.ports)
        label["ports"].push_back(portJson(p));
    return j;
}

Bank bankFromJson(const json& j) {
    Bank b;
    j.at("id").get_to(b.id);
    j.at("name").get_to(b.name);
    getOr(j, "notes", b.notes);
    const json& label = j.at("label");
    label::Label& l = b.label;
    get(label, "capacity_ah", l.capacity);
    get(label, "cell_volts", l.cellVolts);
    get(label, "energy_wh", l.energy);
    get(label, "output_capacity_ah", l.outputCapacity);
    get(label, "output_volts", l.outputVolts);
    getOr(label, "also_printed", l.alsoPrinted);
    get(label, "total_watts", l.totalWatts);
    get(label, "total_amps", l.totalAmps);
    get(label, "weight_g", l.weightGrams);
    if (label.contains("size_mm")) {
        const json& s = label.at("size_mm");
        l.size = label::SizeMm{s.at(0).get<double>(), s.at(1).get<double>(), s.at(2).get<double>()};
    }
    get(label, "recharge_h", l.rechargeTime);
    get(label, "input_watts", l.inputWatts);
    get(label, "price", l.price);
    getOr(label, "currency", l.currency);
    get(label, "warranty_months", l.warrantyMonths);
    getOr(label, "claims_pass_through", l.claimsPassThrough);
    getOr(label, "claims_low_current", l.claimsLowCurrentMode);
    for (const json& p : label.at("ports"))
        l.ports.push_back(portFromJson(p));
    return b;
}

json toJson(const Gear& g) {
    json j{{"id", g.id}, {"kind", gearKey(g.kind)}, {"name", g.name}};
    put(j, "watts", g.watts);
    put(j, "ohms", g.ohms);
    put(j, "ohms_expanded", g.ohmsExpanded);
    if (g.kind == GearKind::Meter) {
        j["accuracy"] = path::showMeter(g.meter);
        j["clock_factor"] = g.clockFactor;
        put(j, "clock_expanded", g.clockExpanded);
    }
    return j;
}

Gear gearFromJson(const json& j) {
    Gear g;
    j.at("id").get_to(g.id);
    g.kind = gearFromKey(j.at("kind").get<std::string>()).value_or(GearKind::Meter);
    j.at("name").get_to(g.name);
    get(j, "watts", g.watts);
    get(j, "ohms", g.ohms);
    get(j, "ohms_expanded", g.ohmsExpanded);
    std::string accuracy;
    getOr(j, "accuracy", accuracy);
    g.meter = path::parseMeter(accuracy, g.name).value_or(path::Meter{});
    if (g.kind == GearKind::Meter)
        g.meter.name = g.name;
    getOr(j, "clock_factor", g.clockFactor);
    get(j, "clock_expanded", g.clockExpanded);
    return g;
}

json toJson(const Run& r) {
    json j{{"id", r.id}, {"bank", r.bank}, {"kind", findings::kindKey(r.kind)}, {"title", r.title}, {"started_at", r.startedAt},
           {"log_name", r.logName}, {"skipped_lines", r.skippedLines}, {"notes", r.notes}};
    put(j, "charger", r.charger);
    put(j, "cable", r.cable);
    put(j, "meter", r.meter);
    put(j, "load", r.load);
    put(j, "from_s", r.from);
    put(j, "to_s", r.to);
    put(j, "counter_wh", r.counterWattHours);
    put(j, "counter_ah", r.counterAmpHours);
    j["marks"] = json::array();
    for (const findings::Mark& m : r.marks)
        j["marks"].push_back(markJson(m));
    j["log_warnings"] = json::array();
    for (const auto& [code, words] : r.logWarnings)
        j["log_warnings"].push_back({{"code", code}, {"text", words}});
    return j;
}

Run runFromJson(const json& j) {
    Run r;
    j.at("id").get_to(r.id);
    j.at("bank").get_to(r.bank);
    const auto kind = findings::kindFromKey(j.at("kind").get<std::string>());
    if (!kind)
        throw json::other_error::create(501, "unknown kind of run", &j);
    r.kind = *kind;
    getOr(j, "title", r.title);
    getOr(j, "started_at", r.startedAt);
    getOr(j, "log_name", r.logName);
    getOr(j, "skipped_lines", r.skippedLines);
    getOr(j, "notes", r.notes);
    get(j, "charger", r.charger);
    get(j, "cable", r.cable);
    get(j, "meter", r.meter);
    get(j, "load", r.load);
    get(j, "from_s", r.from);
    get(j, "to_s", r.to);
    get(j, "counter_wh", r.counterWattHours);
    get(j, "counter_ah", r.counterAmpHours);
    for (const json& m : j.at("marks"))
        r.marks.push_back(markFromJson(m));
    for (const json& w : j.value("log_warnings", json::array()))
        r.logWarnings.emplace_back(w.at("code").get<std::string>(), w.at("text").get<std::string>());
    return r;
}

json toJson(const logs::Mapping& mapping) {
    json j{{"columns", json::object()}, {"units", json::object()}};
    for (const auto& [role, name] : mapping.columns)
        j["columns"][logs::roleKey(role)] = name;
    for (const auto& [role, unit] : mapping.units)
        j["units"][logs::roleKey(role)] = unit;
    return j;
}

std::optional<logs::Mapping> mappingFromJson(const json& j) try {
    logs::Mapping mapping;
    for (const auto& [key, name] : j.at("columns").items())
        mapping.columns[logs::roleFromKey(key).value()] = name.get<std::string>();
    for (const auto& [key, unit] : j.at("units").items())
        mapping.units[logs::roleFromKey(key).value()] = unit.get<std::string>();
    return mapping;
} catch (const std::exception&) {
    return std::nullopt;
}

} // namespace otterstone::book
