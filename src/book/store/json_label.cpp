// A bank with its label as JSON: the bundle's keys are the list of members' (core/label/members.h).
#include "book/store/json_put.h"
#include "book/store/json_records.h"
#include "core/label/members.h"

namespace otterstone::book {

namespace {

using book::get;
using book::put;

void put(json& j, const char* key, const std::optional<label::SizeMm>& size) {
    if (size)
        j[key] = {size->length, size->width, size->height};
}

void get(const json& j, const char* key, std::optional<label::SizeMm>& size) {
    if (!has(j, key))
        return;
    const json& s = list(j, key);
    if (s.size() != 3)
        throw Damage(key, "this should be length, width and height");
    size = label::SizeMm{as<double>(s[0], key), as<double>(s[1], key), as<double>(s[2], key)};
}

void put(json& j, const char* key, const std::vector<label::SharedLimit>& shared) {
    put(j, key, label::showShared(shared));
}

void get(const json& j, const char* key, std::vector<label::SharedLimit>& shared) {
    std::string line;
    get(j, key, line);
    readLine(line, key, label::parseShared, shared);
}

void put(json& j, const char* key, const std::vector<label::ChargesClaim>& charges) {
    put(j, key, label::showCharges(charges));
}

void get(const json& j, const char* key, std::vector<label::ChargesClaim>& charges) {
    std::string line;
    get(j, key, line);
    readLine(line, key, label::parseCharges, charges);
}

json portJson(const label::Port& p) {
    json j{{"name", p.name}, {"direction", directionKey(p.direction)}, {"tiers", tiersJson(p.tiers)}};
    label::eachMember(p, [&](const char* key, const auto& member) { put(j, key, member); });
    return j;
}

label::Port portFromJson(const json& j) {
    label::Port p;
    p.name = need<std::string>(j, "name");
    p.direction = directionFromKey(need<std::string>(j, "direction"));
    get(j, "tiers", p.tiers);
    label::eachMember(p, [&](const char* key, auto& member) { get(j, key, member); });
    return p;
}

} // namespace

std::string directionKey(label::Direction d) {
    return d == label::Direction::In ? "in" : d == label::Direction::Out ? "out" : "both";
}

label::Direction directionFromKey(std::string_view key) {
    return key == "in" ? label::Direction::In : key == "out" ? label::Direction::Out : label::Direction::Both;
}

json labelJson(const label::Label& l) {
    json j = json::object();
    label::eachMember(l, [&](const char* key, const auto& member) { put(j, key, member); });
    json& ports = j["ports"] = json::array();
    for (const label::Port& p : l.ports)
        ports.push_back(portJson(p));
    return j;
}

label::Label labelFromJson(const json& j) {
    label::Label l;
    label::eachMember(l, [&](const char* key, auto& member) { get(j, key, member); });
    for (const json& p : list(j, "ports"))
        l.ports.push_back(portFromJson(p));
    return l;
}

json toJson(const Bank& b) {
    json j{{"id", b.id}, {"name", b.name}, {"notes", b.notes}, {"label", labelJson(b.label)}};
    if (b.scale != records::OnScale{}) {
        json& measured = j["measured"] = json::object();
        put(measured, "weight_g", b.scale.grams);
        put(measured, "size_mm", b.scale.size);
    }
    if (!b.tags.empty())
        j["tags"] = b.tags;
    if (b.past != records::Past{})
        j["past"] = pastJson(b.past);
    return j;
}

Bank bankFromJson(const json& j) {
    Bank b;
    b.id = need<Id>(j, "id");
    b.name = need<std::string>(j, "name");
    get(j, "notes", b.notes);
    b.label = labelFromJson(part(j, "label"));
    if (has(j, "measured")) {
        get(j.at("measured"), "weight_g", b.scale.grams);
        get(j.at("measured"), "size_mm", b.scale.size);
    }
    for (const json& tag : list(j, "tags"))
        b.tags.push_back(as<std::string>(tag, "tags"));
    if (has(j, "past"))
        b.past = pastFrom(j.at("past"));
    return b;
}

} // namespace otterstone::book
