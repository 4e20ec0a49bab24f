#include "book/store/json_put.h"
#include "book/store/json_records.h"
#include "core/quantity/date.h"

namespace otterstone::book {

namespace {

std::string day(const json& j) {
    std::string on;
    getOr(j, "on", on);
    if (!on.empty() && !isDay(on))
        throw Damage("on", "this should be a day like 2026-04-02");
    return on;
}

} // namespace

void putState(json& j, const records::State& s) {
    j["low"] = s.low;
    j["high"] = s.high;
}

std::optional<records::State> stateFrom(const json& j, const char* key) {
    std::optional<double> low, high;
    get(j, "low", low);
    get(j, "high", high);
    if (!low || !high)
        return std::nullopt;
    if (!(*low >= 0.0 && *high <= 100.0 && *low <= *high))
        throw Damage(key, "a state lies between 0 and 100 %");
    return records::State{*low, *high};
}

json pastJson(const records::Past& p) {
    json j = json::object();
    if (!p.cameOn.empty() || p.cameAt) {
        j["came"] = json::object();
        if (!p.cameOn.empty())
            j["came"]["on"] = p.cameOn;
        if (p.cameAt)
            putState(j["came"], *p.cameAt);
    }
    for (const records::OwnCount& c : p.counts) {
        json counted{{"on", c.on}};
        put(counted, "out_wh", c.outWattHours);
        put(counted, "in_wh", c.inWattHours);
        put(counted, "cycles", c.cycles);
        put(counted, "health_percent", c.health);
        j["own_counts"].push_back(std::move(counted));
    }
    if (p.specimenOf)
        j["specimen_of"] = *p.specimenOf;
    return j;
}

records::Past pastFrom(const json& j) {
    records::Past p;
    if (has(j, "came")) {
        p.cameOn = day(j.at("came"));
        p.cameAt = stateFrom(j.at("came"), "came");
    }
    for (const json& c : list(j, "own_counts")) {
        records::OwnCount& count = p.counts.emplace_back();
        count.on = day(c);
        if (count.on.empty())
            throw Damage("own_counts", "a count needs its day");
        get(c, "out_wh", count.outWattHours);
        get(c, "in_wh", count.inWattHours);
        get(c, "cycles", count.cycles);
        get(c, "health_percent", count.health);
    }
    get(j, "specimen_of", p.specimenOf);
    return p;
}

} // namespace otterstone::book
