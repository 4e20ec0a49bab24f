#include "core/kinds/traced/working_json.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <concepts>
#include <limits>
#include <stdexcept>

#include <nlohmann/json.hpp>

#include "core/quantity/json_text.h"

namespace otterstone::kinds {

using nlohmann::json;

namespace {

ErrorSource sourceFrom(const CacheJson& j) {
    ErrorSource s{Scope::Bench, j.at("id").get<std::string>(), j.at("what").get<std::string>(),
                  j.at("near").get<std::string>()};
    for (const Scope scope : {Scope::Run, Scope::Instrument, Scope::Bench, Scope::Bank}) {
        if (scopeKey(scope) == j.at("scope").get<std::string>())
            s.scope = scope;
    }
    return s;
}

// The largest finding of the demo walks through some 130 nodes.
constexpr std::size_t kMostNodes = 100'000, kDeepest = 64;

template<class Enum>
Enum oneOf(const CacheJson& j, Enum last) {
    const int number = j.get<int>();
    if (number < 0 || number > static_cast<int>(last))
        throw std::out_of_range("none of these");
    return static_cast<Enum>(number);
}

// At the end of a text of JSON; a number that is none is null, as it is everywhere.
void put(std::string& text, double value) {
    char digits[32];
    const auto [end, error] = std::to_chars(digits, digits + sizeof digits, value);
    text += std::isfinite(value) ? std::string_view(digits, static_cast<std::size_t>(end - digits)) : "null";
}
template<std::integral T>
void put(std::string& text, T value) {
    text += std::to_string(value);
}
void put(std::string& text, const std::string& words) {
    const bool plain = std::all_of(words.begin(), words.end(), [](char c) {
        return static_cast<unsigned char>(c) >= 0x20 && static_cast<unsigned char>(c) < 0x80 && c != '"' && c != '\\';
    });
    text += plain ? '"' + words + '"' : jsonText(words);
}

} // namespace

json measuredJson(const Measured& m) {
    json parts = json::array();
    for (const Contribution& c : m.contributions())
        parts.push_back({{"scope", scopeKey(c.source->scope)},
                         {"id", c.source->id},
                         {"what", c.source->what},
                         {"near", c.source->near},
                         {"u", c.u},
                         {"dof", std::isfinite(c.dof) ? json(c.dof) : json(nullptr)}});
    return {{"value", m.value()}, {"parts", parts}};
}

Measured measuredFrom(const CacheJson& j) {
    Measured m(j.at("value").get<double>());
    for (const CacheJson part : j.at("parts").list()) {
        const CacheJson dof = part.at("dof");
        m = m.with(sourceFrom(part), part.at("u").get<double>(),
                   dof.isNull() ? std::numeric_limits<double>::infinity() : dof.get<double>());
    }
    return m;
}

std::size_t WorkingsOut::sourceOf(const ErrorSource& s) {
    if (const auto known = sourcesAt_.find(&s); known != sourcesAt_.end())
        return known->second;
    const auto [at, fresh] = sourceNumbers_.emplace(s, sourceNumbers_.size());
    if (fresh) {
        sources_ += sources_.empty() ? "[" : ",[";
        put(sources_, static_cast<int>(s.scope));
        for (const std::string* words : {&s.id, &s.what, &s.near})
            put(sources_ += ',', *words);
        sources_ += ']';
    }
    sourcesAt_.emplace(&s, at->second);
    return at->second;
}

namespace {

// A copy of one working, of which it holds the lists; what says the same in lists of its own is found by its text.
bool isCopyOf(const Working& a, const Working& b) {
    return a.value.value() == b.value.value() && a.value.contributions().data() == b.value.contributions().data() &&
           a.parts.list().data() == b.parts.list().data() && a.others.list().data() == b.others.list().data() &&
           a.key == b.key && a.label == b.label && a.formula == b.formula && a.unit == b.unit && a.point == b.point &&
           a.note == b.note && a.isText == b.isText && a.partialDoubt == b.partialDoubt && a.question == b.question &&
           a.school == b.school;
}

} // namespace

std::size_t WorkingsOut::add(const Working& w) {
    const auto [first, last] = added_.equal_range(w.value.contributions().data());
    const auto same = std::find_if(first, last, [&](const auto& one) { return isCopyOf(*one.second.first, w); });
    if (same != last)
        return same->second.second;
    const std::size_t number = written(w);
    added_.emplace(w.value.contributions().data(), std::pair(&w, number));
    return number;
}

// The parts come before what holds them, so that they are there when it is read.
std::size_t WorkingsOut::written(const Working& w) {
    std::string parts = "[", others = "[";
    for (const Working& p : w.parts)
        put(parts += parts.size() > 1 ? "," : "", add(p));
    for (const Working& o : w.others)
        put(others += others.size() > 1 ? "," : "", add(o));
    std::string node = "[";
    for (const std::string* words : {&w.key, &w.label, &w.formula}) {
        put(node, *words);
        node += ',';
    }
    put(node, w.value.value());
    node += ",[";
    for (const Contribution& c : w.value.contributions()) {
        put(node += node.back() == '[' ? "[" : ",[", sourceOf(*c.source));
        put(node += ',', c.u);
        if (std::isfinite(c.dof))
            put(node += ',', c.dof);
        node += ']';
    }
    put(node += "],", static_cast<int>(w.unit));
    for (const std::string* words : {&w.point, &w.note})
        put(node += ',', *words);
    node += w.isText ? ",true" : ",false";
    node += w.partialDoubt ? ",true" : ",false";
    for (const std::string* words : {&w.question, &w.school})
        put(node += ',', *words);
    node += "," + parts + "]," + others + "]]";
    const auto [at, fresh] = numbers_.emplace(std::move(node), numbers_.size());
    if (fresh)
        nodes_ += (nodes_.empty() ? "" : ",") + at->first;
    return at->second;
}

std::string WorkingsOut::addedTo(std::string object) const {
    object.pop_back();
    return object + R"(,"workings":{"sources":[)" + sources_ + R"(],"nodes":[)" + nodes_ + "]}}";
}

WorkingsIn::WorkingsIn(const CacheJson& all) {
    std::vector<SharedSource> sources;
    for (const CacheJson s : all.at("sources").list())
        sources.emplace_back(ErrorSource{oneOf(s.at(0), Scope::Bank), s.at(1).get<std::string>(),
                                         s.at(2).get<std::string>(), s.at(3).get<std::string>()});
    nodes_.reserve(all.at("nodes").size());
    for (const CacheJson n : all.at("nodes").list()) {
        Working w;
        n.at(0).getTo(w.key);
        n.at(1).getTo(w.label);
        n.at(2).getTo(w.formula);
        w.value = Measured(n.at(3).get<double>());
        for (const CacheJson c : n.at(4).list())
            w.value =
                std::move(w.value).with(sources.at(c.at(0).get<std::size_t>()), c.at(1).get<double>(),
                                        c.size() > 2 ? c.at(2).get<double>() : std::numeric_limits<double>::infinity());
        if (!std::isfinite(w.value.u()))
            throw std::out_of_range("no doubt of ours");
        w.unit = oneOf(n.at(5), Unit::Point);
        n.at(6).getTo(w.point);
        n.at(7).getTo(w.note);
        n.at(8).getTo(w.isText);
        n.at(9).getTo(w.partialDoubt);
        n.at(10).getTo(w.question);
        n.at(11).getTo(w.school);
        Extent extent;
        const auto nodesOf = [&](const CacheJson& numbers) {
            std::vector<Working> nodes;
            nodes.reserve(numbers.size());
            for (const CacheJson number : numbers.list()) {
                const Extent& of = extents_.at(number.get<std::size_t>());
                extent = {extent.nodes + of.nodes, std::max(extent.depth, of.depth + 1)};
                if (extent.nodes > kMostNodes || extent.depth > kDeepest)
                    throw std::out_of_range("more than any working holds");
                nodes.push_back(at(number));
            }
            return nodes;
        };
        w.parts = nodesOf(n.at(12));
        w.others = nodesOf(n.at(13));
        nodes_.push_back(std::move(w));
        extents_.push_back(extent);
    }
}

const Working& WorkingsIn::at(const CacheJson& number) const { return nodes_.at(number.get<std::size_t>()); }

} // namespace otterstone::kinds
