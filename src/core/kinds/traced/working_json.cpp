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

std::size_t WorkingsOut::sourceOf(const ErrorSource& s) {
    const auto [at, fresh] = sourceNumbers_.emplace(s, sources_.size());
    if (fresh)
        sources_.push_back(json{static_cast<int>(s.scope), s.id, s.what, s.near});
    return at->second;
}

// The parts come before what holds them, so that they are there when it is read.
std::size_t WorkingsOut::add(const Working& w) {
    json parts = json::array(), others = json::array(), doubt = json::array();
    for (const Working& p : w.parts)
        parts.push_back(add(p));
    for (const Working& o : w.others)
        others.push_back(add(o));
    for (const Contribution& c : w.value.contributions()) {
        json one{sourceOf(c.source), c.u};
        if (std::isfinite(c.dof))
            one.push_back(c.dof);
        doubt.push_back(std::move(one));
    }
    json node{w.key,  w.label,  w.formula,      w.value.value(), doubt,    w.unit, w.point,
              w.note, w.isText, w.partialDoubt, w.question,      w.school, parts,  others};
    const std::size_t hash = std::hash<json>{}(node);
    for (auto [at, end] = numbers_.equal_range(hash); at != end; ++at) {
        if (nodes_[at->second] == node)
            return at->second;
    }
    numbers_.emplace(hash, nodes_.size());
    nodes_.push_back(std::move(node));
    return nodes_.size() - 1;
}

json WorkingsOut::all() const { return {{"sources", sources_}, {"nodes", nodes_}}; }

WorkingsIn::WorkingsIn(const json& all) {
    std::vector<ErrorSource> sources;
    for (const json& s : all.at("sources"))
        sources.push_back(
            {s.at(0).get<Scope>(), s.at(1).get<std::string>(), s.at(2).get<std::string>(), s.at(3).get<std::string>()});
    nodes_.reserve(all.at("nodes").size());
    for (const json& n : all.at("nodes")) {
        Working w;
        n.at(0).get_to(w.key);
        n.at(1).get_to(w.label);
        n.at(2).get_to(w.formula);
        w.value = Measured(n.at(3).get<double>());
        for (const json& c : n.at(4))
            w.value =
                std::move(w.value).with(sources.at(c.at(0).get<std::size_t>()), c.at(1).get<double>(),
                                        c.size() > 2 ? c.at(2).get<double>() : std::numeric_limits<double>::infinity());
        w.unit = n.at(5).get<Unit>();
        n.at(6).get_to(w.point);
        n.at(7).get_to(w.note);
        n.at(8).get_to(w.isText);
        n.at(9).get_to(w.partialDoubt);
        n.at(10).get_to(w.question);
        n.at(11).get_to(w.school);
        for (const json& p : n.at(12))
            w.parts.push_back(at(p));
        for (const json& o : n.at(13))
            w.others.push_back(at(o));
        nodes_.push_back(std::move(w));
    }
}

const Working& WorkingsIn::at(const json& number) const { return nodes_.at(number.get<std::size_t>()); }

} // namespace otterstone::kinds
