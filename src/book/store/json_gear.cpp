// Gear as JSON: its table's details and the bundle have the same keys.
#include "book/store/json_put.h"
#include "book/store/json_records.h"
#include "core/trace/clock.h"

namespace otterstone::book {

json toJson(const Gear& g) {
    json j{{"id", g.id}, {"kind", gearKey(g.kind)}, {"name", g.name}};
    if (!g.notes.empty())
        j["notes"] = g.notes;
    put(j, "price", g.price);
    put(j, "watts", g.watts);
    if (!g.tiers.empty())
        j["tiers"] = tiersJson(g.tiers);
    put(j, "efficiency", g.efficiency);
    put(j, "ohms", g.ohms);
    put(j, "metres", g.metres);
    put(j, "awg", g.awg);
    if (g.marked)
        j["marked"] = true;
    if (!g.ends.empty())
        j["ends"] = g.ends;
    if (g.reads()) {
        j["accuracy"] = path::showMeter(g.meter);
        put(j, "clock_factor", std::optional(g.clock));
    }
    if (g.ownDraw) {
        j["own_draw_amps"] = g.ownDraw->amps;
        j["own_draw_at_volts"] = g.ownDraw->volts;
    }
    if (!g.clockComparison.empty())
        j["clock_comparison"] = g.clockComparison;
    if (!g.modes.empty())
        j["modes"] = g.modes;
    put(j, "max_volts", g.maxVolts);
    put(j, "max_amps", g.maxAmps);
    put(j, "kelvin", g.kelvin);
    put(j, "battery_wh", g.battery);
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
    getOr(j, "notes", g.notes);
    get(j, "price", g.price);
    get(j, "watts", g.watts);
    g.tiers = tiersFromJson(j);
    get(j, "efficiency", g.efficiency);
    get(j, "ohms", g.ohms);
    get(j, "metres", g.metres);
    get(j, "awg", g.awg);
    getOr(j, "marked", g.marked);
    getOr(j, "ends", g.ends);
    std::string accuracy;
    getOr(j, "accuracy", accuracy);
    g.meter = path::parseMeter(accuracy, g.name).value_or(path::Meter{});
    if (g.reads())
        g.meter.name = g.name;
    std::optional<Stated> clock;
    get(j, "clock_factor", clock);
    get(j, "clock_expanded",
        clock ? clock->expanded : g.clock.expanded); // its name in books of version 2 and older bundles
    g.clock = clock.value_or(Stated(1.0));
    if (!(g.clock.value >= trace::kSlowestClock && g.clock.value <= trace::kFastestClock))
        throw Damage("clock_factor", "no clock runs so");
    std::optional<double> amps;
    get(j, "own_draw_amps", amps);
    double atVolts = 5.0;
    getOr(j, "own_draw_at_volts", atVolts);
    if (amps)
        g.ownDraw = path::OwnDraw{*amps, atVolts};
    getOr(j, "clock_comparison", g.clockComparison);
    getOr(j, "modes", g.modes);
    get(j, "max_volts", g.maxVolts);
    get(j, "max_amps", g.maxAmps);
    get(j, "kelvin", g.kelvin);
    get(j, "battery_wh", g.battery);
    return g;
}

} // namespace otterstone::book
