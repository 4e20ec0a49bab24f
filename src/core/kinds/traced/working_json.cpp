#include "core/kinds/traced/working_json.h"

#include <cmath>
#include <limits>

#include <nlohmann/json.hpp>

namespace otterstone::kinds {

using nlohmann::json;

namespace {

ErrorSource sourceFrom(const json& j) {
    ErrorSource s{Scope::Bench, j.at("id").get<std::string>(), j.at("what").get<std::string>(),
                  j.at("near").get<std::string>()};
    for (const Scope scope : {Scope::Run, Scope::Instrument, Scope::Bench, Scope::Bank}) {
        if (scopeKey(scope) == j.at("scope").get<std::string>())
            s.scope = scope;
    }
    return s;
}

} // namespace

json measuredJson(const Measured& m) {
    json parts = json::array();
    for (const Contribution& c : m.contributions())
        parts.push_back({{"scope", scopeKey(c.source.scope)},
                         {"id", c.source.id},
                         {"what", c.source.what},
                         {"near", c.source.near},
                         {"u", c.u},
                         {"dof", std::isfinite(c.dof) ? json(c.dof) : json(nullptr)}});
    return {{"value", m.value()}, {"parts", parts}};
}

Measured measuredFrom(const json& j) {
    Measured m(j.at("value").get<double>());
    for (const json& part : j.at("parts")) {
        const json& dof = part.at("dof");
        m = m.with(sourceFrom(part), part.at("u").get<double>(),
                   dof.is_null() ? std::numeric_limits<double>::infinity() : dof.get<double>());
    }
    return m;
}

json workingJson(const Working& w) {
    json parts = json::array(), others = json::array();
    for (const Working& p : w.parts)
        parts.push_back(workingJson(p));
    for (const Working& o : w.others)
        others.push_back(workingJson(o));
    return {{"key", w.key},
            {"label", w.label},
            {"formula", w.formula},
            {"value", measuredJson(w.value)},
            {"unit", w.unit},
            {"point", w.point},
            {"note", w.note},
            {"text", w.isText},
            {"partial", w.partialDoubt},
            {"question", w.question},
            {"school", w.school},
            {"others", others},
            {"parts", parts},
            {"shown", w.shown()}};
}

Working workingFrom(const json& j) {
    Working w;
    j.at("key").get_to(w.key);
    j.at("label").get_to(w.label);
    j.at("formula").get_to(w.formula);
    w.value = measuredFrom(j.at("value"));
    w.unit = j.at("unit").get<Unit>();
    j.at("point").get_to(w.point);
    j.at("note").get_to(w.note);
    j.at("text").get_to(w.isText);
    j.at("partial").get_to(w.partialDoubt);
    j.at("question").get_to(w.question);
    j.at("school").get_to(w.school);
    for (const json& p : j.at("parts"))
        w.parts.push_back(workingFrom(p));
    for (const json& o : j.at("others"))
        w.others.push_back(workingFrom(o));
    return w;
}

} // namespace otterstone::kinds
