// The sheet of one bank.
#include <algorithm>
#include <cmath>

#include "core/judgement/compare.h"
#include "core/label/conflicts.h"
#include "core/label/rating.h"
#include "core/quantity/format.h"
#include "report/build_parts.h"

namespace otterstone::report {

namespace {

using findings::Kind;

std::string id(const char* kind, long long run) { return std::string(kind) + ":" + std::to_string(run); }

constexpr double kGentleWatts = 5.0; // 1 A at 5 V
constexpr double kSameWatts = 0.25;  // repeats are as good as one another: the first counts

// The complete drain and recharge a reader looks at first: nearest to the gentle load, and the first.
const RunSaid* best(const BankMaterial& b, Kind kind) {
    const RunSaid* found = nullptr;
    const auto far = [](const RunSaid& r) { return std::fabs(findings::loadOf(r.finding) - kGentleWatts); };
    for (const RunSaid& r : b.runs) {
        const bool whole = kind == Kind::Drain ? r.finding.drain && r.finding.drain->complete()
                                               : r.finding.recharge && r.finding.recharge->endOfCharge;
        if (r.kind == kind && !r.settling && whole &&
            (!found || (kind == Kind::Drain && far(r) + kSameWatts < far(*found))))
            found = &r;
    }
    return found;
}

std::string tiersAndWatts(const std::vector<label::Tier>& tiers, const std::optional<Watts>& watts) {
    return label::showTiers(tiers) + (watts ? (tiers.empty() ? "" : "; ") + showNumber(watts->value) + " W" : "");
}

Section labelSection(const BankMaterial& b) {
    const label::Label& l = b.evidence.label;
    Table t{"label", {{"what", "Printed"}, {"value", "Figure"}}, {}, {}};
    const auto add = [&](const char* what, const std::string& value) {
        if (!value.empty())
            t.rows.push_back({Cell::words(what), Cell::words(value)});
    };
    if (l.capacity)
        add("capacity", showNumber(l.capacity->value * 1000.0, 6) + " mAh" +
                            (l.cellVolts ? " at " + showNumber(l.cellVolts->value) + " V" : ""));
    if (l.energy)
        add("energy", showNumber(l.energy->value) + " Wh");
    if (l.outputCapacity && l.outputVolts)
        add("rated output",
            showNumber(l.outputCapacity->value * 1000.0, 6) + " mAh at " + showNumber(l.outputVolts->value) + " V");
    for (const label::Port& p : l.ports)
        add(("port " + p.name +
             (p.direction == label::Direction::In    ? ", in"
              : p.direction == label::Direction::Out ? ", out"
                                                     : ", in and out"))
                .c_str(),
            tiersAndWatts(p.tiers, p.watts) +
                (p.inTiers.empty() && !p.inWatts ? "" : "; in: " + tiersAndWatts(p.inTiers, p.inWatts)));
    add("together", label::showShared(l.shared));
    if (l.totalWatts)
        add("in all", showNumber(l.totalWatts->value) + " W");
    if (l.totalAmps)
        add(l.totalWatts ? "in all, current" : "in all", showNumber(l.totalAmps->value) + " A");
    if (l.charges)
        add("charges", label::showCharges(*l.charges));
    if (l.rechargeTime)
        add("recharge", showDuration(l.rechargeTime->value * 3600.0) +
                            (l.inputWatts ? " with " + showNumber(l.inputWatts->value) + " W" : ""));
    if (l.weightGrams)
        add("weight", showNumber(*l.weightGrams) + " g");
    if (l.size)
        add("size", showNumber(l.size->length) + " × " + showNumber(l.size->width) + " × " +
                        showNumber(l.size->height) + " mm");
    if (l.warrantyMonths)
        add("warranty", std::to_string(*l.warrantyMonths) + (*l.warrantyMonths == 1 ? " month" : " months"));
    add("also printed", l.alsoPrinted);
    if (l.price)
        add("price", showNumber(*l.price) + (l.currency.empty() ? "" : " " + l.currency));
    const auto rated = label::ratedEnergy(l);
    add("in an aircraft",
        label::flightSentence(label::flightClass(rated ? std::optional(rated->energy) : std::nullopt)));
    Section s{"label", "The label", {std::move(t)}};
    Points contradictions;
    for (const label::Conflict& c : label::conflicts(l))
        contradictions.items.push_back(c.text);
    if (!contradictions.items.empty()) {
        s.blocks.emplace_back(Paragraph{"It contradicts itself:"});
        s.blocks.emplace_back(std::move(contradictions));
    }
    return s;
}

Section togetherSection(const findings::BankFindings& f) {
    Section s{"together", "All runs together", {}};
    if (f.usableFigure)
        s.blocks.emplace_back(Paragraph{f.usableFigure->shown() + " usable: " + f.usableFigure->note + "."});
    if (f.usable) {
        s.blocks.emplace_back(Picture{
            "usable",
            "Usable energy against load; the band is for about 95 %, dotted beyond the loads that were tried."});
    }
    std::vector<Working> figures;
    if (f.usableFigure)
        figures.push_back(*f.usableFigure);
    if (f.efficiency)
        figures.push_back(*f.efficiency);
    for (const findings::Pair& p : f.pairs) {
        for (Working w : p.figures) {
            w.label += ": " + p.figures.front().note;
            figures.push_back(std::move(w));
        }
    }
    for (const findings::RepeatGroup& g : f.repeats)
        figures.push_back(g.working);
    if (f.cycles)
        figures.push_back(*f.cycles);
    if (!figures.empty())
        s.blocks.emplace_back(figuresTable("together", figures));
    if (!f.missing.empty())
        s.blocks.emplace_back(Points{f.missing});
    return s;
}

Section runSection(const RunSaid& r) {
    Section s{id("run", r.run), r.title, {}};
    std::string when = findings::kindWords(r.kind);
    if (!r.startedAt.empty())
        when += ", " + r.startedAt.substr(0, 10);
    if (!r.path.empty())
        when += ". Path: " + r.path;
    s.blocks.emplace_back(
        Paragraph{when + (r.settling ? ". A settling run: left out of what runs say together." : ".")});
    s.blocks.emplace_back(Paragraph{r.finding.sentence, true});
    if (findings::hasSheet(r.kind))
        s.blocks.emplace_back(Picture{id("behaviour", r.run), r.title + ": " + r.finding.sentence});
    s.blocks.emplace_back(figuresTable("run", r.finding.figures));
    Points warnings;
    for (const Warning& w : r.finding.warnings)
        warnings.items.push_back(w.text);
    if (!warnings.items.empty())
        s.blocks.emplace_back(std::move(warnings));
    return s;
}

} // namespace

Content bankContent(const Material& m) {
    const BankMaterial& b = m.banks.front();
    Content c;
    c.title = b.evidence.name;
    c.at = m.at;
    c.method = findings::kMethodVersion;
    const judgement::Judged judged = judgement::holdClaims(b.evidence);
    const RunSaid* drain = best(b, Kind::Drain);
    const RunSaid* recharge = best(b, Kind::Recharge);
    c.sentence = drain ? drain->finding.sentence : judged.sentence;

    Section first{"summary", "In short", {}};
    if (drain)
        first.blocks.emplace_back(Paragraph{judged.sentence});
    if (!b.notes.empty())
        first.blocks.emplace_back(Paragraph{b.notes});
    if (drain) {
        first.blocks.emplace_back(
            Picture{id("ribbon", drain->run), drain->title + ": the energy's path, its width in watt-hours."});
        first.blocks.emplace_back(
            Picture{id("trace", drain->run), drain->title + ": watts at the " +
                                                 std::string(path::pointName(drain->finding.point)) + " over time."});
    }
    if (recharge)
        first.blocks.emplace_back(Picture{id("trace", recharge->run),
                                          recharge->title + ": watts at the " +
                                              std::string(path::pointName(recharge->finding.point)) + " over time."});
    c.sections.push_back(std::move(first));
    c.sections.push_back(bankVerdicts(judged));
    c.sections.push_back(notTestedSection(judged));
    c.sections.push_back(togetherSection(b.evidence.together));
    for (const RunSaid& r : b.runs)
        c.sections.push_back(runSection(r));
    c.sections.push_back(labelSection(b));
    c.sections.push_back(methodSection(m));
    c.sections.push_back(cautionSection());
    if (Section changes = changesSection(m, c); !changes.blocks.empty())
        c.sections.insert(c.sections.begin() + 1, std::move(changes));
    return c;
}

std::optional<long long> gentlestDrain(const BankMaterial& bank) {
    const RunSaid* r = best(bank, Kind::Drain);
    return r ? std::optional(r->run) : std::nullopt;
}

std::optional<long long> firstRecharge(const BankMaterial& bank) {
    const RunSaid* r = best(bank, Kind::Recharge);
    return r ? std::optional(r->run) : std::nullopt;
}

Content makeContent(const Material& m) { return m.banks.size() == 1 ? bankContent(m) : comparisonContent(m); }

} // namespace otterstone::report
