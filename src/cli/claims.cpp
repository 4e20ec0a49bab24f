// claims and observations: what a label promises, and what was seen of it.
#include <iostream>

#include "cli/commands.h"
#include "cli/judgement_options.h"
#include "core/evidence/observe.h"
#include "core/judgement/hold.h"
#include "core/kinds/observation.h"
#include "terminal/busy.h"

namespace otterstone::cli {

int claims(const JudgementOptions& o) {
    return withBook(o, {o.bank}, [&](book::Book& book, const std::vector<records::Id>& ids) {
        auto evidence = terminal::busyWith(terminal::kJudging, [&] { return book::gatherEvidence(book.path(), ids); });
        if (!evidence)
            return complain(evidence.error());
        if (!o.labelBy.empty() && !setup::setAnswer(evidence->front().schools, "label_by", o.labelBy))
            throw Wrong{{"bad_option", "--label-by", "“" + o.labelBy + "” is none of its schools.",
                         "Write cells, came_out, rated_output or empty_load."}};
        const judgement::Judged judged = judgement::holdClaims(evidence->front());
        if (!o.json) {
            std::cout << judged.sentence << "\n";
            // Settled first; what is not tested in one line, unless all is wanted.
            for (const judgement::Held* held : judged.inOrder()) {
                const judgement::Held& row = *held;
                if (row.verdict == judgement::Verdict::NotTested && !o.all && !o.working)
                    break;
                std::cout << "  " << row.claim.words << ": " << judgement::verdictWords(row.verdict) << " (" << row.why
                          << ")\n";
                if (o.working && row.finding)
                    std::cout << kinds::asText(*row.finding, 2);
                for (const std::string& seen : row.seen) {
                    if (o.working && !row.finding)
                        std::cout << "    seen: " << seen << "\n";
                }
                if (!row.next.words.empty())
                    std::cout << "    " << row.next.words << "\n";
            }
            if (!o.all && !o.working && !judged.untested().empty())
                std::cout << "  " << judged.untested() << " (--all lists them)\n";
        }
        json rows = json::array();
        for (const judgement::Held& row : judged.rows) {
            rows.push_back({{"key", row.claim.key},
                            {"claim", row.claim.words},
                            {"condition", row.claim.condition},
                            {"verdict", judgement::verdictKey(row.verdict)},
                            {"why", row.why},
                            {"finding", maybe(row.finding)},
                            {"chance", row.chance ? json(*row.chance) : json(nullptr)},
                            {"runs", row.runs},
                            {"seen", row.seen},
                            {"next", row.next.words},
                            {"recipe", row.next.recipe.empty() ? json(nullptr) : json(row.next.recipe)}});
        }
        return o.json ? print({{"bank", evidence->front().name},
                               {"sentence", judged.sentence},
                               {"untested", judged.untested()},
                               {"claims", rows}})
                      : finish(kDone);
    });
}

int observations(const JudgementOptions& o) {
    const std::vector<std::string> names = o.bank.empty() ? std::vector<std::string>{} : std::vector{o.bank};
    return withBook(o, names, [&](book::Book& book, const std::vector<records::Id>& ids) {
        const auto evidence =
            terminal::busyWith(terminal::kJudging, [&] { return book::gatherEvidence(book.path(), ids); });
        if (!evidence)
            return complain(evidence.error());
        json banks = json::array();
        for (const evidence::Evidence& e : *evidence) {
            json all = json::array();
            if (!o.json)
                std::cout << e.name << "\n";
            for (const kinds::Observation& s : evidence::observe(e)) {
                const std::string limited = kinds::limitedWords(s.limited);
                if (!o.json) {
                    std::cout << "  " << s.where() << ": " << s.said() << (limited.empty() ? "" : "; " + limited)
                              << (s.note.empty() ? "" : " (" + s.note + ")") << "\n";
                    continue;
                }
                const auto figure = [](const std::optional<double>& v) { return v ? json(*v) : json(nullptr); };
                all.push_back({{"what", kinds::whatKey(s.what)},
                               {"said", s.said()},
                               {"way", s.way == label::Way::In ? "in" : "out"},
                               {"port", s.port.empty() ? json(nullptr) : json(s.port)},
                               {"tier_volts", s.tierVolts > 0.0 ? json(s.tierVolts) : json(nullptr)},
                               {"volts", figure(s.volts)},
                               {"amps", figure(s.amps)},
                               {"value", maybe(s.value)},
                               {"at_least", s.atLeast},
                               {"limited_by", limited.empty() ? json(nullptr) : json(limited)},
                               {"asked", figure(s.asked)},
                               {"yes", s.yes ? json(*s.yes) : json(nullptr)},
                               {"others", s.others},
                               {"while_charging", s.charging},
                               {"source_watts", figure(s.sourceWatts)},
                               {"charger", s.charger.empty() ? json(nullptr) : json(s.charger)},
                               {"cable", s.cable.empty() ? json(nullptr) : json(s.cable)},
                               {"run", s.run},
                               {"title", s.title},
                               {"row", s.row ? json(*s.row + 1) : json(nullptr)},
                               {"note", s.note}});
            }
            banks.push_back({{"bank", e.name}, {"observations", all}});
        }
        return o.json ? print({{"banks", banks}}) : finish(kDone);
    });
}

} // namespace otterstone::cli
