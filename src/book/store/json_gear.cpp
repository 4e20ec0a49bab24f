// Gear as JSON: its table's details and the bundle have the same keys.
#include "book/store/json_put.h"
#include "book/store/json_records.h"
#include "core/records/members.h"
#include "core/trace/clock.h"

namespace otterstone::book {

namespace {

using book::get;
using book::put;

void put(json& j, const char* name, const std::optional<path::OwnDraw>& draw) {
    if (!draw)
        return;
    const std::string key = name;
    j[key + "_amps"] = draw->amps;
    j[key + "_at_volts"] = draw->volts;
}

void get(const json& j, const char* name, std::optional<path::OwnDraw>& draw) {
    const std::string key = name;
    std::optional<double> amps;
    get(j, (key + "_amps").c_str(), amps);
    double volts = path::OwnDraw{}.volts;
    getOr(j, (key + "_at_volts").c_str(), volts);
    if (amps)
        draw = path::OwnDraw{*amps, volts};
}

} // namespace

json toJson(const Gear& g) {
    json j{{"id", g.id}, {"kind", gearKey(g.kind)}, {"name", g.name}};
    records::eachMember(g, [&](const char* key, const auto& member) { put(j, key, member); });
    if (g.reads()) {
        j["accuracy"] = path::showMeter(g.meter);
        put(j, "clock_factor", std::optional(g.clock));
    }
    return j;
}

Gear gearFromJson(const json& j) {
    Gear g;
    getOr(j, "id", g.id);
    const auto kind = gearFromKey(need<std::string>(j, "kind"));
    if (!kind)
        throw Damage("kind", "there is no such kind of gear");
    g.kind = *kind;
    g.name = need<std::string>(j, "name");
    records::eachMember(g, [&](const char* key, auto& member) { get(j, key, member); });
    if (!g.reads())
        return g; // what is foreign to its kind is left out here as it is in writing
    std::string accuracy;
    get(j, "accuracy", accuracy);
    g.meter = path::parseMeter(accuracy, g.name).value_or(path::Meter{});
    g.meter.name = g.name;
    std::optional<Stated> clock;
    get(j, "clock_factor", clock);
    get(j, "clock_expanded",
        clock ? clock->expanded : g.clock.expanded); // its name in books of version 2 and older bundles
    g.clock = clock.value_or(Stated(1.0));
    if (!(g.clock.value >= trace::kSlowestClock && g.clock.value <= trace::kFastestClock))
        throw Damage("clock_factor", "no clock runs so");
    return g;
}

} // namespace otterstone::book
