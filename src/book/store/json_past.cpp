#include "book/store/json_put.h"
#include "book/store/json_records.h"
#include "core/quantity/date.h"

namespace otterstone::book {

namespace {

std::string day(const json& j, const char* key = "on") {
    std::string on;
    getOr(j, key, on);
    if (!on.empty() && !isDay(on))
        throw Damage(key, "this should be a day like 2026-04-02");
    return on;
}

// Its texts by their keys.
constexpr std::pair<const char*, std::string records::Bought::*> kBought[] = {
    {"model", &records::Bought::model},
    {"where", &records::Bought::where},
    {"ordered_on", &records::Bought::orderedOn},
    {"currency", &records::Bought::currency},
    {"markings", &records::Bought::markings}};

json boughtJson(const records::Bought& b) {
    json j = json::object();
    for (const auto& [key, member] : kBought) {
        if (!(b.*member).empty())
            j[key] = b.*member;
    }
    put(j, "paid", b.paid);
    for (const records::Content& c : b.contents) {
        json content{{"what", c.what}};
        put(content, "grams", c.grams);
        j["contents"].push_back(std::move(content));
    }
    return j;
}

records::Bought boughtFrom(const json& j) {
    records::Bought b;
    for (const auto& [key, member] : kBought)
        getOr(j, key, b.*member);
    (void)day(j, "ordered_on");
    get(j, "paid", b.paid);
    for (const json& c : list(j, "contents")) {
        records::Content& content = b.contents.emplace_back();
        getOr(c, "what", content.what);
        get(c, "grams", content.grams);
    }
    return b;
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
    if (p.bought != records::Bought())
        j["bought"] = boughtJson(p.bought);
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
    if (has(j, "bought"))
        p.bought = boughtFrom(j.at("bought"));
    return p;
}

} // namespace otterstone::book
