// The sheet of one bank.
#include <algorithm>
#include <cctype>
#include <cmath>

#include "core/judgement/compare.h"
#include "core/judgement/figure_keys.h"
#include "core/judgement/figures.h"
#include "core/label/conflicts.h"
#include "core/label/rating.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"
#include "core/setup/method.h"
#include "report/build_parts.h"

namespace otterstone::report {

namespace {

using records::Kind;

std::string id(const char* kind, long long run) { return std::string(kind) + ":" + std::to_string(run); }

constexpr double kGentleWatts = 5.0; // 1 A at 5 V
constexpr double kSameWatts = 0.25;  // repeats are as good as one another: the first counts

// The complete drain and recharge a reader looks at first: nearest to the gentle load, and the first.
const RunSaid* best(const BankMaterial& b, Kind kind) {
    const RunSaid* found = nullptr;
    const auto far = [](const RunSaid& r) { return std::fabs(kinds::loadOf(r.finding) - kGentleWatts); };
    for (const RunSaid& r : b.runs) {
        const bool whole =
            kind == Kind::Drain ? kinds::answers(r.finding, key::usableWh) : kinds::answers(r.finding, key::putInWh);
        if (r.finding.kind == kind && !r.settling && whole &&
            (!found || (kind == Kind::Drain && far(r) + kSameWatts < far(*found))))
            found = &r;
    }
    return found;
}

std::string tiersAndWatts(const std::vector<label::Tier>& tiers, const std::optional<Watts>& watts) {
    return label::showTiers(tiers) + (watts ? (tiers.empty() ? "" : "; ") + showNumber(watts->value) + " W" : "");
}

// "39 USD (35.88 EUR at 0.92 EUR for 1 USD)"
std::string priceWords(double amount, const std::string& own, const setup::Prices& prices) {
    const std::string plain = showNumber(amount, 7) + (own.empty() ? "" : " " + own);
    const auto price = prices.inHouse(amount, own);
    return price && !price->exchange.empty()
               ? say("{} ({} {} {})", plain, showNumber(price->amount, 4), price->currency, price->exchange)
               : plain;
}

Section labelSection(const BankMaterial& b) {
    const label::Label& l = b.evidence.label;
    Table t{"label", {{"what", "Printed"}, {"value", "Figure"}}, {}, {}};
    const auto add = [&](Spoken what, const std::string& value) {
        if (!value.empty())
            t.rows.push_back({Cell::words(std::move(what)), Cell::words(value)});
    };
    if (l.capacity)
        add("capacity", say("{} mAh{}", showNumber(l.capacity->value * 1000.0, 6),
                            (l.cellVolts ? say(" at {} V", showNumber(l.cellVolts->value)) : "")));
    if (l.energy)
        add("energy", say("{} Wh", showNumber(l.energy->value)));
    if (l.outputCapacity && l.outputVolts)
        add("rated output",
            say("{} mAh at {} V", showNumber(l.outputCapacity->value * 1000.0, 6), showNumber(l.outputVolts->value)));
    for (const label::Port& p : l.ports)
        add(say("port {}{}", p.name,
                p.direction == label::Direction::In    ? say(", in")
                : p.direction == label::Direction::Out ? say(", out")
                                                       : say(", in and out")),
            tiersAndWatts(p.tiers, p.watts) +
                (p.inTiers.empty() && !p.inWatts ? "" : say("; in: {}", tiersAndWatts(p.inTiers, p.inWatts))));
    add("together", label::showShared(l.shared));
    if (l.totalWatts)
        add("in all", showNumber(l.totalWatts->value) + " W");
    if (l.totalAmps)
        add(l.totalWatts ? say("in all, current") : say("in all"), showNumber(l.totalAmps->value) + " A");
    if (!l.charges.empty())
        add("charges", label::showCharges(l.charges));
    if (l.rechargeTime)
        add("recharge", showDuration(l.rechargeTime->value * 3600.0) +
                            (l.inputWatts ? say(" with {} W", showNumber(l.inputWatts->value)) : ""));
    if (l.weightGrams)
        add("weight", showNumber(*l.weightGrams) + " g");
    if (l.size)
        add("size",
            say("{} × {} × {} mm", showNumber(l.size->length), showNumber(l.size->width), showNumber(l.size->height)));
    if (l.warrantyMonths)
        add("warranty", *l.warrantyMonths == 1 ? say("1 month") : say("{} months", std::to_string(*l.warrantyMonths)));
    add("also printed", l.alsoPrinted);
    if (l.price)
        add("price", priceWords(*l.price, l.currency, b.evidence.prices));
    const auto rated = label::ratedEnergy(l);
    add("in an aircraft",
        label::flightSentence(label::flightClass(rated ? std::optional(rated->energy) : std::nullopt)));
    const records::Bought& bought = b.past.bought;
    add("model number", bought.model);
    add("markings", bought.markings);
    std::string came = records::boughtWords(bought);
    if (!b.past.cameOn.empty() || b.past.cameAt)
        came += (came.empty() ? say("came") : say(", came")) +
                (b.past.cameOn.empty() ? "" : say(" on {}", b.past.cameOn)) +
                (b.past.cameAt ? (b.past.cameOn.empty() ? " " : ", ") + records::stateWords(*b.past.cameAt) : "");
    add("bought", came);
    if (!bought.contents.empty()) {
        const std::string weight = records::contentsWeight(bought.contents);
        add("in the box", records::showContents(bought.contents) + (weight.empty() ? "" : " (" + weight + ")"));
    }
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

Section photoSection(const BankMaterial& b) {
    Section s{"photographs", "Photographs", {}};
    for (const PhotoSaid& p : b.photos)
        s.blocks.emplace_back(Picture{id("photo", p.id), p.caption});
    return s;
}

Section togetherSection(const together::BankFindings& f) {
    Section s{"together", "All runs together", {}};
    if (f.usableFigure)
        s.blocks.emplace_back(Paragraph{say("{} usable: {}.", f.usableFigure->shown(), f.usableFigure->note)});
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
    for (const together::Pair& p : f.pairs) {
        for (Working w : p.figures) {
            w.label += ": " + p.figures.front().note;
            figures.push_back(std::move(w));
        }
    }
    for (const together::RepeatGroup& g : f.repeats)
        figures.push_back(g.working);
    if (f.cycles)
        figures.push_back(*f.cycles);
    figures.insert(figures.end(), f.life.figures.begin(), f.life.figures.end());
    Points life{f.life.sentences};
    for (const life::SideBySide& beside : f.specimens) {
        life.items.push_back(beside.sentence);
        if (!beside.figures.empty())
            figures.push_back(beside.figures.back());
    }
    if (!figures.empty())
        s.blocks.emplace_back(figuresTable("together", figures));
    if (!life.items.empty())
        s.blocks.emplace_back(std::move(life));
    if (!f.missing.empty())
        s.blocks.emplace_back(Points{f.missing});
    return s;
}

// Each figure once, and none that means nothing there: heat does not settle while a recharge tapers.
std::vector<Working> figuresOnce(const kinds::Finding& f) {
    std::vector<Working> all;
    for (const Working& w : f.figures) {
        const bool stands = std::any_of(all.begin(), all.end(), [&w](const Working& before) {
            return !w.isText && !w.formula.empty() && before.shown() == w.shown() && before.formula == w.formula &&
                   before.point == w.point;
        });
        const bool settled = w.key == key::heatRiseK || w.key == key::heatAt25C;
        if (!stands && !(settled && f.recharge && f.recharge->taperSeconds > 0.0))
            all.push_back(w);
    }
    return all;
}

// `curve`: its power over time is shown, too.
Section runSection(const RunSaid& r, bool curve) {
    Section s{id("run", r.run), r.title, {}};
    std::string when = records::kindWords(r.kind);
    if (!r.startedAt.empty())
        when += ", " + r.startedAt.substr(0, 10);
    if (!r.where.empty())
        when += ", " + r.where;
    if (!r.path.empty())
        when = say("{}. Path: {}", when, r.path);
    s.blocks.emplace_back(
        Paragraph{when + (r.settling ? say(". A settling run: left out of what runs say together.") : ".")});
    s.blocks.emplace_back(Paragraph{r.finding.sentence, true});
    if (records::hasSheet(r.kind) && !r.finding.figures.empty())
        s.blocks.emplace_back(Picture{id("behaviour", r.run), r.title + ": " + r.finding.sentence});
    if (curve)
        s.blocks.emplace_back(Picture{
            id("trace", r.run), say("{}: watts at the {} over time.", r.title, path::pointWords(r.finding.point))});
    if (!r.finding.figures.empty())
        s.blocks.emplace_back(figuresTable("run", figuresOnce(r.finding)));
    Points remarks;
    for (const Warning& w : r.finding.warnings)
        remarks.items.push_back(w.text);
    for (const std::string& note : r.notes)
        remarks.items.push_back(say("Note: {}", note));
    if (!remarks.items.empty())
        s.blocks.emplace_back(std::move(remarks));
    return s;
}

// The six that are asked for first, of those that are known.
Table figuresInShort(const evidence::Evidence& e) {
    constexpr std::size_t kShown = 6;
    constexpr double kMinutesFrom = 1200.0; // s
    Table t{"short", {{"figure", "Figure"}, {"value", "Value", true}, {"condition", "Found"}}, {}, {}};
    const auto figures = judgement::figuresOf(e);
    for (const char* key : {fig::usableGentle, fig::deliveredShare, fig::roundTrip, fig::recharge80, fig::recharge100,
                            fig::wattsAlone, fig::wattsShared, fig::heat25, fig::gaugeError}) {
        const auto at = figures.find(key);
        if (t.rows.size() == kShown || at == figures.end() || !at->second.known())
            continue;
        const judgement::Cell& c = at->second;
        Cell value = Cell::figure(*c.value);
        if (c.value->unit == Unit::Second && c.value->value.value() >= kMinutesFrom)
            value.text = showDuration(c.value->value.value()); // its seconds stand with its run
        if (c.atLeast)
            value.text = "≥ " + value.text;
        t.rows.push_back({Cell::words(judgement::figureKind(key)->words), std::move(value), Cell::words(c.condition)});
    }
    return t;
}

// Which claims are met and which fall short, a line each.
Points verdictsInShort(const judgement::Judged& judged) {
    Points p;
    for (const auto verdict :
         {judgement::Verdict::FallsShort, judgement::Verdict::Meets, judgement::Verdict::TooClose}) {
        std::string claims;
        for (const judgement::Held& row : judged.rows) {
            if (row.verdict == verdict)
                claims += (claims.empty() ? "" : "; ") + row.claim.words;
        }
        if (claims.empty())
            continue;
        std::string words = judgement::verdictWords(verdict);
        words.front() = static_cast<char>(std::toupper(static_cast<unsigned char>(words.front())));
        p.items.push_back(say("{}: {}.", words, claims));
    }
    return p;
}

// By how many runs, when, and with what.
std::string howMeasured(const Material& m) {
    const BankMaterial& b = m.banks.front();
    std::string from, to;
    for (const RunSaid& r : b.runs) {
        const std::string day = r.startedAt.substr(0, 10);
        if (day.empty())
            continue;
        from = from.empty() ? day : std::min(from, day);
        to = std::max(to, day);
    }
    std::string s = b.runs.size() == 1 ? say("1 run") : say("{} runs", std::to_string(b.runs.size()));
    if (!from.empty())
        s += from == to ? say(" on {}", from) : say(" from {} to {}", from, to);
    std::string read;
    for (const GearSaid& g : m.gear) {
        if (g.reads)
            read += (read.empty() ? "" : "; ") + g.name + " (" + g.accuracy + ")";
    }
    return say("How it was measured: {}{}. ± stands for about 95 %.", s,
               (read.empty() ? "" : say(", read with {}", read)));
}

// What runs still ask their tester, and which cannot both be right.
Points openQuestions(const BankMaterial& b) {
    Points p;
    for (const RunSaid& r : b.runs) {
        for (const kinds::Question& q : r.finding.ends.questions)
            p.items.push_back(say("Not settled: “{}”: {}", r.title, q.sentence));
    }
    for (const together::Contradiction& c : b.evidence.together.contradictions)
        p.items.push_back(say("Not settled: {}", c.sentence));
    return p;
}

// What a reader needs who turns no page.
Section summarySection(const Material& m, const judgement::Judged& judged, const RunSaid* drain) {
    const BankMaterial& b = m.banks.front();
    Section s{"summary", "In short", {}};
    if (drain)
        s.blocks.emplace_back(Paragraph{judged.sentence});
    if (!b.notes.empty())
        s.blocks.emplace_back(Paragraph{b.notes});
    if (Points p = verdictsInShort(judged); !p.items.empty())
        s.blocks.emplace_back(std::move(p));
    if (drain)
        s.blocks.emplace_back(
            Picture{id("ribbon", drain->run), say("{}: the energy's path, its width in watt-hours.", drain->title)});
    if (Table t = figuresInShort(b.evidence); !t.rows.empty())
        s.blocks.emplace_back(std::move(t));
    if (!b.runs.empty())
        s.blocks.emplace_back(Paragraph{howMeasured(m)});
    if (const std::string open = judged.untested(); !open.empty())
        s.blocks.emplace_back(Paragraph{open});
    if (Points asked = openQuestions(b); !asked.items.empty())
        s.blocks.emplace_back(std::move(asked));
    return s;
}

} // namespace

Content bankContent(const Material& m) {
    const BankMaterial& b = m.banks.front();
    Content c;
    c.title = b.evidence.name;
    c.at = m.at;
    c.method = setup::kMethodVersion;
    const judgement::Judged judged = judgement::holdClaims(b.evidence);
    const RunSaid* drain = best(b, Kind::Drain);
    const RunSaid* recharge = best(b, Kind::Recharge);
    c.sentence = drain ? drain->finding.sentence : judged.sentence;

    c.sections.push_back(summarySection(m, judged, drain));
    const std::size_t appendix = c.sections.size();
    c.sections.push_back(bankVerdicts(judged));
    c.sections.push_back(notTestedSection(judged));
    c.sections.push_back(togetherSection(b.evidence.together));
    for (const RunSaid& r : b.runs)
        c.sections.push_back(runSection(r, &r == drain || &r == recharge));
    c.sections.push_back(labelSection(b));
    if (!b.photos.empty())
        c.sections.push_back(photoSection(b));
    c.sections.push_back(methodSection(m));
    c.sections.push_back(cautionSection());
    if (Section changes = changesSection(m, c); !changes.blocks.empty())
        c.sections.insert(c.sections.begin() + 1, std::move(changes));
    c.sections[appendix].newPage = true;
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
