// The sheet that compares banks.
#include <algorithm>
#include <cmath>

#include "core/quantity/format.h"
#include "core/quantity/say.h"
#include "core/setup/method.h"
#include "report/build_parts.h"

namespace otterstone::report {

namespace {

using judgement::Comparison;
using judgement::FigureRow;

Section figuresSection(const Comparison& comparison) {
    Table t{"figures", {{"figure", "Figure"}}, {}, {}};
    for (std::size_t k = 0; k < comparison.banks.size(); ++k)
        t.columns.push_back({"bank" + std::to_string(k + 1), comparison.banks[k], true});
    Points unlike;
    for (const FigureRow& row : comparison.rows) {
        std::vector<Cell> cells{Cell::words(row.kind.words)};
        for (const judgement::Cell& c : row.cells) {
            Cell cell = c.value ? Cell::figure(*c.value) : Cell::words(c.shown());
            cell.text = c.shown(); // as the window has it: a bound is one, a price has its currency
            if (!c.behind.empty())
                cell.unit = c.behind;
            cell.code = c.code;
            if (c.unlike) {
                cell.text += " *";
                cell.marked = true;
            }
            cells.push_back(std::move(cell));
        }
        t.rows.push_back(std::move(cells));
        if (std::string words = judgement::unlikeWords(row, comparison.banks); !words.empty())
            unlike.items.push_back(std::move(words));
    }
    Section s{"figures", "Side by side", {}};
    if (!unlike.items.empty())
        t.note = say(
            "* found under another condition than the others of its row; told below, and not to be compared as it stands.");
    s.blocks.emplace_back(std::move(t));
    if (!unlike.items.empty())
        s.blocks.emplace_back(std::move(unlike));
    return s;
}

Section choiceSection(const Choice& choice) {
    const auto& [comparison, purpose, ranking, use] = choice;
    Section s{"choice", say("Choice: {}", purpose.words), {}};
    s.blocks.emplace_back(Paragraph{ranking.sentence, true});
    s.blocks.emplace_back(Picture{"choice", say("Scores for “{}”, and what makes them up.", purpose.words)});
    Table t{"ranking",
            {{"bank", "Bank"},
             {"score", "Score", true},
             {"chance", "Chance of being the best", true},
             {"leads", "Leads under other weights", true},
             {"gates", "Gates"}},
            {},
            {}};
    Table parts{"contributions", {{"scale", "Scale"}, {"weight", "Weight", true}, {"anchors", "0 to 1"}}, {}, {}};
    for (std::size_t k = 0; k < ranking.banks.size(); ++k) {
        const judgement::Ranked& r = ranking.banks[k];
        const auto share = [](double x) {
            Cell c = Cell::words(judgement::chanceWords(x));
            c.value = x;
            c.unit = "fraction";
            return c;
        };
        std::string gates;
        for (const std::string& g : r.stoppedBy)
            gates += (gates.empty() ? "" : "; ") + g;
        for (const std::string& g : r.notKnown)
            gates += (gates.empty() ? say("not known: ") : say("; not known: ")) + g;
        t.rows.push_back({Cell::words(comparison.banks[r.bank]), Cell::figure(ranking.working(k, comparison, purpose)),
                          r.passes() ? share(r.chanceBest) : Cell::words(""),
                          r.passes() ? share(r.leadsUnderWeights) : Cell::words(""),
                          Cell::words(gates.empty() ? say("passes") : gates)});
        parts.columns.push_back({"bank" + std::to_string(r.bank + 1), comparison.banks[r.bank], true});
    }
    for (std::size_t k = 0; k < purpose.scales.size(); ++k) {
        const judgement::Scale& scale = purpose.scales[k];
        const judgement::FigureKind& kind = *judgement::figureKind(scale.figure);
        std::vector<Cell> row{Cell::words(kind.words), Cell::words(showNumber(scale.weight, 3)),
                              Cell::words(say("{} to {}", show(Measured(scale.worst), kind.unit),
                                              show(Measured(scale.best), kind.unit)))};
        for (const judgement::Ranked& r : ranking.banks) {
            Cell c = Cell::words(showNumber(std::round(r.parts[k].points() * 10.0) / 10.0, 3) +
                                 (r.parts[k].unknown  ? say(" (not known)")
                                  : r.parts[k].unlike ? " *"
                                                      : ""));
            c.value = r.parts[k].points();
            c.marked = r.parts[k].unlike;
            c.unit = "points";
            row.push_back(std::move(c));
        }
        parts.rows.push_back(std::move(row));
    }
    s.blocks.emplace_back(std::move(t));
    parts.note = say("* from a figure that was found under another condition than most of its row.");
    s.blocks.emplace_back(std::move(parts));
    Points turns;
    for (const judgement::Turning& turn : ranking.turnings) {
        const std::string words = judgement::figureKind(turn.figure)->words;
        if (turn.below)
            turns.items.push_back(say("With the weight of “{}” at {} times, {} would lead.", words,
                                      showNumber(*turn.below, 2), turn.leaderBelow));
        if (turn.above)
            turns.items.push_back(say("With the weight of “{}” at {} times, {} would lead.", words,
                                      showNumber(*turn.above, 2), turn.leaderAbove));
    }
    if (turns.items.empty())
        turns.items.push_back(say("No single weight, from none to ten times, would put another bank first."));
    s.blocks.emplace_back(std::move(turns));
    return s;
}

Section useSection(const Material& m, plan::UsePlan& use) {
    std::vector<evidence::Evidence> banks;
    for (const BankMaterial& b : m.banks)
        banks.push_back(b.evidence);
    use = plan::planUse(banks, m.needs, m.days);
    Section s{"use", "In use", {}};
    Points needs;
    for (const plan::Need& n : m.needs)
        needs.items.push_back(plan::showNeed(n));
    s.blocks.emplace_back(std::move(needs));
    s.blocks.emplace_back(Paragraph{use.sentence, true});
    s.blocks.emplace_back(Picture{"use", "What is left in each bank, day by day, and when the devices draw."});
    Table t{"use",
            {{"bank", "Bank"},
             {"days", "Lasts", true},
             {"days_empty", "Devices empty at the start", true},
             {"words", "So"}},
            {},
            {}};
    for (const plan::BankUse& b : use.banks)
        t.rows.push_back(
            {Cell::words(b.bank),
             b.days ? Cell::figure(*b.days) : Cell::words(b.cannot.empty() ? say("not known") : say("does not run it")),
             b.daysEmpty ? Cell::figure(*b.daysEmpty) : Cell::words(""), Cell::words(b.sentence)});
    s.blocks.emplace_back(std::move(t));
    for (const Warning& w : use.warnings)
        s.blocks.emplace_back(Paragraph{w.text});
    return s;
}

} // namespace

Content comparisonContent(const Material& m) {
    std::vector<evidence::Evidence> banks;
    for (const BankMaterial& b : m.banks)
        banks.push_back(b.evidence);
    auto chosen = std::make_shared<Choice>();
    chosen->comparison = judgement::compare(banks);
    chosen->purpose = m.purpose ? *m.purpose : judgement::purposes().front();
    chosen->ranking = judgement::rank(chosen->comparison, chosen->purpose);
    Content c;
    c.title = say("{} banks side by side", std::to_string(banks.size()));
    c.at = m.at;
    c.method = setup::kMethodVersion;
    Section choice = choiceSection(*chosen);
    c.sentence = std::get<Paragraph>(choice.blocks.front()).text;
    choice.blocks.erase(choice.blocks.begin());
    c.sections.push_back(std::move(choice));
    c.sections.push_back(figuresSection(chosen->comparison));
    c.sections.push_back({"curves",
                          "Curves",
                          {Picture{"overlay:recharge", "Recharges from empty, watts over time, aligned at the start."},
                           Picture{"overlay:drain", "Gentle drains, watts over time, aligned at the start."}}});
    if (!m.needs.empty())
        c.sections.push_back(useSection(m, chosen->use));
    c.choice = std::move(chosen);
    Table verdicts{"verdicts",
                   {{"bank", "Bank"},
                    {"meets", "meets", true},
                    {"falls_short", "falls short", true},
                    {"too_close", "too close to call", true},
                    {"not_tested", "not tested", true},
                    {"broken", "Falls short of"}},
                   {},
                   {}};
    for (const evidence::Evidence& e : banks) {
        const judgement::Judged j = judgement::holdClaims(e);
        std::string broken;
        for (const judgement::Held& row : j.rows) {
            if (row.verdict == judgement::Verdict::FallsShort)
                broken += (broken.empty() ? "" : "; ") + row.claim.words;
        }
        std::vector<Cell> row{Cell::words(e.name)};
        for (const auto v : {judgement::Verdict::Meets, judgement::Verdict::FallsShort, judgement::Verdict::TooClose,
                             judgement::Verdict::NotTested}) {
            row.push_back(Cell::words(std::to_string(j.count(v))));
            row.back().value = static_cast<double>(j.count(v));
        }
        row.push_back(Cell::words(broken));
        verdicts.rows.push_back(std::move(row));
    }
    c.sections.push_back({"verdicts", "Claims kept and broken", {std::move(verdicts)}});
    c.sections.push_back(methodSection(m));
    c.sections.push_back(cautionSection());
    if (Section changes = changesSection(m, c); !changes.blocks.empty())
        c.sections.insert(c.sections.begin() + 1, std::move(changes));
    return c;
}

} // namespace otterstone::report
