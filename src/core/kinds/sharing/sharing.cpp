#include "core/kinds/sharing/sharing.h"

#include <algorithm>
#include <cmath>

#include "core/kinds/parts.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

constexpr double kFive = 5.8;       // V: up to here it is the 5 V tier
constexpr double kStarved = 0.10;   // of what it gives alone
constexpr double kKeeps = 0.90;     // from here on it keeps what it gave
constexpr double kShort = 0.95;     // of a promise, for a load's own steps
constexpr double kEvenly = 0.05;    // currents within this of each other are alike
constexpr double kOtherwise = 0.15; // of the watts: another order gave something else

std::string flowWords(double volts, double watts) { return tierAndWatts(volts, watts); }

void conclude(Round& r, const Facts& facts) {
    std::vector<std::string> inUse;
    for (const SharedPort& p : r.ports)
        inUse.push_back(p.port);
    std::vector<double> kept;
    for (SharedPort& p : r.ports) {
        if (const auto watts = label::promisedTogether(facts.label, p.port, inUse))
            p.promisedWatts = watts->value;
        r.togetherWatts += p.togetherWatts.value_or(0.0);
        r.aloneWatts += p.aloneWatts.value_or(0.0);
        if (p.kept())
            kept.push_back(*p.kept());
        if (p.togetherWatts && p.togetherVolts && *p.togetherVolts > 0.5) {
            const double amps = *p.togetherWatts / *p.togetherVolts;
            r.fewestAmps = std::min(r.fewestAmps.value_or(amps), amps);
            r.mostAmps = std::max(r.mostAmps.value_or(amps), amps);
        }
    }
    if (kept.size() == r.ports.size() && kept.size() >= 2)
        r.fairness = jainIndex(kept);
}

// What happened to one port, as the sentence has it.
std::string changeWords(const SharedPort& p) {
    const std::string before = flowWords(*p.aloneVolts, *p.aloneWatts);
    if (p.starved())
        return otterstone::say("{} went off ({} alone)", p.port, before);
    const std::string after = flowWords(*p.togetherVolts, *p.togetherWatts);
    if (p.kept().value_or(1.0) >= kKeeps && !p.fellToFive())
        return otterstone::say("{} kept {}", p.port, after);
    return otterstone::say("{} fell from {} to {}", p.port, before, after);
}

bool isWhole(const SharedPort& p) { return p.aloneVolts && p.aloneWatts && p.togetherVolts && p.togetherWatts; }

void say(const Round& r, const Facts& facts, bool twice, Said& said) {
    std::vector<std::string> names, changes;
    for (const SharedPort& p : r.ports) {
        names.push_back(p.port);
        if (isWhole(p))
            changes.push_back(changeWords(p));
    }
    const auto outputs = std::count_if(facts.label.ports.begin(), facts.label.ports.end(),
                                       [](const label::Port& p) { return p.gives(); });
    const std::string with = otterstone::say(
        "{} in use{}", (names.size() == 2 && outputs <= 2 ? otterstone::say("both outputs") : listed(names)),
        (twice ? otterstone::say(" ({} first)", names.front()) : ""));
    if (!changes.empty())
        said.sentence += (said.sentence.empty() ? "" : " ") + otterstone::say("With {}, {}.", with, listed(changes));
    const std::string title = names.empty() ? r.name : listed(names);
    Working total = figure("shared_watts:" + r.name, otterstone::say("{} together", title), "",
                           Measured(r.togetherWatts), Unit::Watt, "bank out");
    for (const SharedPort& p : r.ports) {
        if (!p.togetherWatts)
            continue;
        total.formula += (total.formula.empty() ? "" : " + ") + showNumber(*p.togetherWatts, 3) + " W";
        Working w = figure("kept:" + r.name + ":" + p.port, otterstone::say("{} keeps ({})", p.port, title), "",
                           Measured(0.0), Unit::Share, "bank out");
        if (p.kept()) {
            w.value = Measured(*p.kept());
            w.formula = otterstone::say("{} W together ÷ {} W alone", showNumber(*p.togetherWatts, 3),
                                        showNumber(*p.aloneWatts, 3));
            w.note = p.fellToFive() ? otterstone::say("fell back to 5 V")
                     : p.starved()  ? otterstone::say("gets next to nothing")
                                    : "";
            said.figures.push_back(std::move(w));
        }
        // A load that asks no more alone either says nothing about the promise.
        if (p.promisedWatts && *p.togetherWatts < kShort * *p.promisedWatts && p.kept().value_or(0.0) < kShort)
            said.warnings.push_back(
                {"below_promise",
                 otterstone::say("{} gave {} W beside {}; the label promises {} W for that.", p.port,
                                 showNumber(*p.togetherWatts, 3), listed(names), showNumber(*p.promisedWatts, 3))});
    }
    if (facts.label.totalWatts) {
        total.parts.push_back(remark("the label's total", showNumber(facts.label.totalWatts->value, 3) + " W"));
        if (r.togetherWatts > 1.05 * facts.label.totalWatts->value)
            said.warnings.push_back(
                {"above_total",
                 otterstone::say("{} gave {} W together, more than the printed total of {} W.", listed(names),
                                 showNumber(r.togetherWatts, 3), showNumber(facts.label.totalWatts->value, 3))});
    }
    // A total of some of the ports is none.
    if (std::all_of(r.ports.begin(), r.ports.end(), [](const SharedPort& p) { return p.togetherWatts.has_value(); }))
        said.figures.insert(said.figures.begin(), std::move(total));
    if (r.fairness)
        said.figures.push_back(figure("fairness:" + r.name, otterstone::say("evenness ({})", title),
                                      "(Σ kept)² ÷ (n Σ kept²)", Measured(*r.fairness), Unit::None, "bank out",
                                      "Jain's index: 1 when all keep the same share, 1/n when one keeps all"));
}

bool sameWatts(const SharedPort& a, const SharedPort& b) {
    return !a.togetherWatts || !b.togetherWatts ||
           std::fabs(*a.togetherWatts - *b.togetherWatts) <= kOtherwise * std::max(*a.togetherWatts, *b.togetherWatts);
}

// The same ports in another order.
bool hasTwin(const std::vector<Round>& rounds, const Round& r) {
    return std::any_of(rounds.begin(), rounds.end(), [&](const Round& o) {
        return &o != &r && o.ports.size() == r.ports.size() &&
               std::all_of(o.ports.begin(), o.ports.end(), [&](const SharedPort& p) {
                   return std::any_of(r.ports.begin(), r.ports.end(),
                                      [&](const SharedPort& q) { return q.port == p.port; });
               });
    });
}

void compareOrders(SharingFinding& f) {
    for (std::size_t a = 0; a < f.rounds.size(); ++a) {
        for (std::size_t b = a + 1; b < f.rounds.size(); ++b) {
            const auto& one = f.rounds[a].ports;
            const auto& other = f.rounds[b].ports;
            if (one.size() != other.size())
                continue;
            bool samePorts = true, sameOrder = true, alike = true;
            for (std::size_t k = 0; k < one.size(); ++k) {
                const auto at = std::find_if(other.begin(), other.end(),
                                             [&](const SharedPort& p) { return p.port == one[k].port; });
                samePorts = samePorts && at != other.end();
                sameOrder = sameOrder && one[k].port == other[k].port;
                alike = alike && at != other.end() && sameWatts(one[k], *at);
            }
            if (samePorts && !sameOrder && !alike && !f.orderMatters) {
                f.orderMatters = true;
                f.said.sentence = otterstone::say("{} The order of plugging in matters.", f.said.sentence);
            }
        }
    }
}

// Rounds whose 5 V currents are all one share of one total.
void lookForSplit(SharingFinding& f) {
    std::optional<double> total;
    for (const Round& r : f.rounds) {
        const bool five = std::all_of(r.ports.begin(), r.ports.end(), [](const SharedPort& p) {
            return p.togetherVolts && *p.togetherVolts <= kFive && *p.togetherVolts > 1.0;
        });
        if (!five || r.ports.size() < 2 || !r.mostAmps || *r.mostAmps - *r.fewestAmps > kEvenly * *r.mostAmps)
            return;
        const bool squeezed = std::any_of(r.ports.begin(), r.ports.end(),
                                          [](const SharedPort& p) { return p.kept().value_or(1.0) < kKeeps; });
        const double sum = *r.mostAmps * static_cast<double>(r.ports.size());
        if (!squeezed || (total && std::fabs(*total - sum) > kEvenly * sum))
            return;
        total = sum;
    }
    f.splitAmps = total;
    if (total)
        f.said.figures.push_back(figure("split_amps", "total current, divided evenly", "n × amps of each",
                                        Measured(*total), Unit::Amp, "bank out"));
}

} // namespace

double jainIndex(const std::vector<double>& x) {
    double sum = 0.0, squares = 0.0;
    for (const double v : x) {
        sum += v;
        squares += v * v;
    }
    return squares > 0.0 ? sum * sum / (static_cast<double>(x.size()) * squares) : 1.0;
}

std::optional<double> SharedPort::kept() const {
    return aloneWatts && togetherWatts && *aloneWatts > 0.0 ? std::optional(*togetherWatts / *aloneWatts)
                                                            : std::nullopt;
}
bool SharedPort::fellToFive() const {
    return aloneVolts && togetherVolts && *aloneVolts > kFive && *togetherVolts <= kFive && *togetherVolts > 1.0;
}
bool SharedPort::starved() const { return kept().value_or(1.0) < kStarved; }

SharingFinding sharing(const Sheet& sheet, const Facts& facts) {
    SharingFinding f;
    Rows rows(sheet, f.said.remarks);
    while (rows.next()) {
        const std::string port = rows.text("port");
        if (port.empty()) {
            rows.remark("port", "no_port", "the row does not say which port it is about.");
            continue;
        }
        const std::string name = rows.text("round").empty() ? "1" : rows.text("round");
        auto at = std::find_if(f.rounds.begin(), f.rounds.end(), [&](const Round& r) { return r.name == name; });
        if (at == f.rounds.end()) {
            f.rounds.emplace_back().name = name;
            at = f.rounds.end() - 1;
        }
        SharedPort p;
        const label::Port* named = label::portNamed(facts.label, port);
        p.port = named ? named->name : port;
        const auto pair = [&](const char* volts, const char* amps, std::optional<double>& v, std::optional<double>& w) {
            v = rows.number(volts);
            const auto a = rows.number(amps);
            if (v && a)
                w = *v * *a;
        };
        pair("alone_v", "alone_a", p.aloneVolts, p.aloneWatts);
        pair("together_v", "together_a", p.togetherVolts, p.togetherWatts);
        at->ports.push_back(std::move(p));
    }
    for (Round& r : f.rounds) {
        conclude(r, facts);
        say(r, facts, hasTwin(f.rounds, r), f.said);
    }
    compareOrders(f);
    lookForSplit(f);
    return f;
}

} // namespace otterstone::kinds
