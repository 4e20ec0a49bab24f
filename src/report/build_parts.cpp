#include "report/build_parts.h"
#include "core/setup/method.h"

#include "report/history.h"

#include "core/quantity/say.h"

namespace otterstone::report {

using judgement::Held;
using judgement::Verdict;

Table figuresTable(const std::string& key, const std::vector<Working>& figures) {
    Table t{key, {{"figure", "Figure"}, {"value", "Value", true}, {"point", "Where"}, {"how", "How"}}, {}, {}};
    for (const Working& w : figures)
        t.rows.push_back({Cell::words(w.label), Cell::figure(w), Cell::words(w.point),
                          Cell::words(w.isText ? std::string() : w.formula)});
    return t;
}

Section bankVerdicts(const judgement::Judged& judged) {
    Table t{"verdicts",
            {{"claim", "The label claims"},
             {"condition", "meant"},
             {"value", "Found", true},
             {"verdict", "Verdict"},
             {"chance", "Chance it holds", true},
             {"why", "Because"}},
            {},
            {}};
    for (const Held& row : judged.rows) {
        Cell verdict = Cell::words(judgement::verdictWords(row.verdict));
        verdict.code = judgement::verdictKey(row.verdict);
        verdict.bad = row.verdict == Verdict::FallsShort;
        Cell chance = Cell::words(row.chance ? judgement::chanceWords(*row.chance) : "");
        if (row.chance) {
            chance.value = row.chance;
            chance.unit = "fraction";
        }
        t.rows.push_back({Cell::words(row.claim.words), Cell::words(row.claim.condition),
                          row.finding ? Cell::figure(*row.finding) : Cell::words(""), verdict, chance,
                          Cell::words(row.why)});
    }
    t.note = say(
        "meets: the finding with its whole uncertainty U (k = 2, or Student's t) is on the good side of the claim. falls short: with its whole uncertainty on the other. Between: too close to call. Guard band by JCGM 106.");
    return {"verdicts", "Claims and verdicts", {std::move(t)}};
}

Section notTestedSection(const judgement::Judged& judged) {
    Points p;
    for (const Held& row : judged.rows) {
        if (row.verdict == Verdict::NotTested || row.verdict == Verdict::TooClose)
            p.items.push_back(row.claim.words + ": " + judgement::verdictWords(row.verdict) + " (" + row.why + "). " +
                              row.next.words);
    }
    Section s{"open", "What is not settled, and what would settle it", {}};
    if (p.items.empty())
        s.blocks.emplace_back(Paragraph{"Every claim of the label is settled."});
    else
        s.blocks.emplace_back(std::move(p));
    return s;
}

Section methodSection(const Material& m) {
    Section s{"method", "Method", {}};
    s.blocks.emplace_back(Paragraph{
        "Energies are sums of volts times amperes over the samples as they are, referred to the bank's port where the resistance between is known. Uncertainties follow the GUM (JCGM 100): ± stands for about 95 %."});
    s.blocks.emplace_back(Paragraph{say("Schools followed: {}. Method version {}.", setup::inWords(m.schools),
                                        std::to_string(setup::kMethodVersion))});
    Table gear{"gear", {{"name", "Gear"}, {"kind", "Kind"}, {"accuracy", "As stated"}}, {}, {}};
    for (const GearSaid& g : m.gear)
        gear.rows.push_back({Cell::words(g.name), Cell::words(sayAsItStands(g.kind)), Cell::words(g.accuracy)});
    if (!gear.rows.empty())
        s.blocks.emplace_back(std::move(gear));
    return s;
}

Section cautionSection() {
    return {
        "cautions",
        "Cautions",
        {Points{
            {say("Lithium cells burn. Do not use a bank that is swollen, damaged or smells; stop at smoke, hissing or a smell of hot resin."),
             say("Never open a bank or bridge its cells. Mains work, standards and disposal: local codes and licensed people."),
             say("Flying: rated watt-hours decide, and the carrier's rule stands."),
             say("Medical equipment: only the maker's approved back-up supplies; ask the clinician."),
             say("These findings inform about the specimens tested; they certify nothing.")}}}};
}

Section changesSection(const Material& m, const Content& content) {
    Section s{"changes", "What changed since it was last published", {}};
    if (!m.before)
        return s;
    const Changes c = changesBetween(*m.before, whatIsSaid(m, content));
    s.blocks.emplace_back(Paragraph{
        say("Last published {}, by method version {}.", m.before->at.substr(0, 10), std::to_string(m.before->method))});
    const auto table = [&](const char* key, const char* what, const std::vector<Change>& changes) {
        Table t{key, {{"what", what}, {"before", "before"}, {"now", "now"}}, {}, {}};
        for (const Change& change : changes)
            t.rows.push_back({Cell::words(change.what), Cell::words(change.before), Cell::words(change.after)});
        if (!t.rows.empty())
            s.blocks.emplace_back(std::move(t));
    };
    table("changed_means", "Corrected", c.means);
    table("changed_figures", "Figure", c.figures);
    if (c.means.empty() && c.figures.empty())
        s.blocks.emplace_back(Paragraph{"Nothing reads differently."});
    return s;
}

} // namespace otterstone::report
