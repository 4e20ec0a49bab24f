// Recipes that are written for one output, pair or source, done for all of a bank.
#include <algorithm>

#include "bench/recipes/recipe.h"
#include "core/label/port_rules.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

constexpr double kUnpromisedAmps = 1.0;
constexpr std::size_t kMostPairs = 12;

std::vector<const label::Port*> outputs(const label::Label& label) {
    std::vector<const label::Port*> all;
    for (const label::Port& p : label.ports) {
        if (p.gives() && !p.tiers.empty())
            all.push_back(&p);
    }
    return all;
}

// Words for people have the port's name where the recipe says {port}, {first} or {second}.
std::string named(std::string text, const char* place, const std::string& name) {
    for (std::size_t at = text.find(place); at != std::string::npos; at = text.find(place, at + name.size()))
        text.replace(at, std::string_view(place).size(), name);
    return text;
}

// What stands for a port in a step: its own name, or one of the places.
Step forPorts(Step s, const std::vector<std::pair<const char*, std::string>>& names) {
    for (const auto& [place, name] : names) {
        s.text = named(std::move(s.text), place, name);
        s.port = named(std::move(s.port), place, name);
    }
    return s;
}

void tiers(const Recipe& r, const label::Label& label, std::vector<Step>& out) {
    for (const label::Port* port : outputs(label)) {
        Step plug;
        plug.what = Step::Do::Tell;
        plug.text = say("Plug trigger and load into {}.", port->name);
        plug.hands = Hands::Load;
        plug.port = port->name;
        out.push_back(plug);
        const auto standard = label::standardTierVolts(); // a tier that is not printed is tried as well
        std::vector<double> asked(standard.begin(), standard.end());
        for (const label::Tier& t : port->tiers) {
            if (std::none_of(asked.begin(), asked.end(), [&](double v) { return label::sameVolts(v, t.high.value); }))
                asked.push_back(t.high.value);
        }
        std::sort(asked.begin(), asked.end());
        for (const double volts : asked) {
            const bool printed = label::promisedAmps(*port, label::Way::Out, volts).has_value();
            for (const Step& s : r.steps) {
                Step one = forPorts(s, {{"{port}", port->name}});
                one.port = port->name;
                if (one.what == Step::Do::Ask) {
                    one.volts = volts;
                    one.top = false;
                } else if (one.what == Step::Do::Load && one.ofTier &&
                           !printed) { // of nothing promised there is no share
                    one.ofTier = false;
                    one.mode = Mode::Current;
                    one.level = kUnpromisedAmps;
                }
                out.push_back(one);
            }
        }
    }
}

void pairs(const Recipe& r, const label::Label& label, std::vector<Step>& out) {
    const auto ports = outputs(label);
    const auto isAlone = [](const Step& s) { return s.port != "{first}" && s.port != "{second}"; };
    // Each alone first: a pair need not be parted for that again and again.
    for (const label::Port* p : ports) {
        for (const Step& s : r.steps) {
            if (isAlone(s))
                out.push_back(forPorts(s, {{"{port}", p->name}}));
        }
    }
    std::size_t count = 0;
    for (const label::Port* first : ports) {
        for (const label::Port* second : ports) {
            if (first == second || ++count > kMostPairs)
                continue;
            for (const Step& s : r.steps) {
                if (!isAlone(s))
                    out.push_back(forPorts(s, {{"{first}", first->name}, {"{second}", second->name}}));
            }
        }
    }
}

} // namespace

Recipe expand(const Recipe& recipe, const label::Label& label, const std::vector<Source>& sources) {
    Recipe r = recipe;
    r.forEach.clear();
    if (recipe.forEach == "tier" || recipe.forEach == "pair") {
        r.steps.clear();
        recipe.forEach == "tier" ? tiers(recipe, label, r.steps) : pairs(recipe, label, r.steps);
    } else if (recipe.forEach == "source") {
        r.steps.clear();
        for (std::size_t k = 0; k < sources.size(); ++k) {
            for (const Step& s : recipe.steps) {
                Step one = forPorts(
                    s, {{"{charger}", sources[k].charger}, {"{cable}", sources[k].cable}, {"{port}", sources[k].port}});
                one.source = static_cast<int>(k);
                r.steps.push_back(one);
            }
        }
    } else {
        // The strongest output; one that is not also the only input where there is such a one.
        const auto all = outputs(label);
        const auto best = [&](bool apart) {
            const label::Port* found = nullptr;
            for (const label::Port* p : all) {
                const auto inputs = std::count_if(label.ports.begin(), label.ports.end(),
                                                  [](const label::Port& o) { return o.takes(); });
                if (apart && p->takes() && inputs == 1)
                    continue;
                if (!found || label::bestTier(p->tiers)->watts() > label::bestTier(found->tiers)->watts())
                    found = p;
            }
            return found;
        };
        const bool apart = recipe.kind == records::Kind::PassThrough;
        const label::Port* out = best(apart) ? best(apart) : best(false);
        if (out) {
            for (auto* steps : {&r.steps, &r.afterGone}) {
                for (Step& s : *steps)
                    s = forPorts(s, {{"{output}", out->name}});
            }
        }
    }
    if (r.steps.empty())
        r.steps = recipe.steps;
    return r;
}

} // namespace otterstone::bench
