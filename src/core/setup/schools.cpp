#include "core/setup/schools.h"

#include <algorithm>
#include <array>

#include "core/quantity/say.h"

namespace otterstone::setup {

namespace {

// How a question's answer is kept in Schools: by its place in the enumeration.
struct Kept {
    std::string_view question;
    int (*get)(const Schools&);
    void (*set)(Schools&, int);
};

template<auto Member>
constexpr Kept kept(std::string_view question) {
    return {question, [](const Schools& s) { return static_cast<int>(s.*Member); },
            [](Schools& s, int k) { s.*Member = static_cast<std::remove_reference_t<decltype(s.*Member)>>(k); }};
}

constexpr std::array kKept = {kept<&Schools::capacityIn>("capacity_in"), kept<&Schools::reference>("reference"),
                              kept<&Schools::measuredAt>("measured_at"), kept<&Schools::fullWhen>("full_when"),
                              kept<&Schools::speedTo>("speed_to"),       kept<&Schools::against>("against"),
                              kept<&Schools::labelBy>("label_by"),       kept<&Schools::repeating>("repeats"),
                              kept<&Schools::drainBy>("drain_by"),       kept<&Schools::gaps>("gaps")};

const Kept* find(std::string_view question) {
    const auto at = std::find_if(kKept.begin(), kKept.end(), [&](const Kept& k) { return k.question == question; });
    return at == kKept.end() ? nullptr : &*at;
}

// The table's words, in the reader's language.
std::vector<Question> said(std::vector<Question> all) {
    for (Question& q : all) {
        q.words = sayAsItStands(q.words);
        for (Answer& a : q.answers)
            a.words = sayAsItStands(a.words);
    }
    return all;
}

} // namespace

const std::vector<Question>& questions() {
    static const std::vector<Question> kAll =
        said({{"capacity_in",
               "Capacity in",
               {{"wh", "Wh"}, {"mah_cell", "mAh at cell voltage"}, {"mah_output", "mAh at the output"}}},
              {"reference",
               "Reference energy",
               {{"printed", "printed Wh"},
                {"mah_nominal", "mAh × nominal voltage"},
                {"mah_other", "mAh × another nominal"}}},
              {"measured_at",
               "Where it counts",
               {{"port", "the bank's port"},
                {"display", "the bank's display"},
                {"meter", "the first meter"},
                {"load", "the far load"}}},
              {"full_when",
               "Full when",
               {{"power_low", "power stays low"},
                {"gauge_says", "the display says 100 %"},
                {"energy_stops", "energy stops growing"}}},
              {"speed_to", "Charge speed to", {{"80", "80 %"}, {"100", "100 %"}}},
              {"against",
               "Efficiency against",
               {{"label", "the label"}, {"put_in", "the energy put in"}, {"wall", "the energy from the wall"}}},
              {"label_by",
               "The label's Wh by",
               {{"cells", "the cells, between in and out"},
                {"came_out", "what came out of the port"},
                {"rated_output", "the rated output"},
                {"empty_load", "the usable curve's E₀"}}},
              {"repeats",
               "Repeats",
               {{"mean", "mean of all but settling runs"},
                {"once", "the first run alone"},
                {"settled", "all after two settling runs"}}},
              {"drain_by",
               "Usable energy from",
               {{"gentle_and_near_full", "a gentle and a near-full drain"},
                {"gentle", "a gentle drain, 1 A at 5 V"},
                {"near_full", "the top tier near full power"},
                {"constant_power", "constant power"},
                {"devices", "real devices"},
                {"into_bank", "another bank"}}},
              {"gaps",
               "Gaps in a log",
               {{"estimate", "estimated from both sides"}, {"leave_out", "left out: every sum is “at least”"}}}});
    return kAll;
}

const Question& question(std::string_view key) {
    const auto at =
        std::find_if(questions().begin(), questions().end(), [&](const Question& q) { return q.key == key; });
    return at == questions().end() ? questions().front() : *at;
}

std::string answerOf(const Schools& schools, std::string_view key) {
    const Kept* k = find(key);
    return k ? question(key).answers[static_cast<std::size_t>(k->get(schools))].key : std::string();
}

bool setAnswer(Schools& schools, std::string_view key, std::string_view answer) {
    const Kept* k = find(key);
    if (!k)
        return false;
    const auto& answers = question(key).answers;
    const auto at = std::find_if(answers.begin(), answers.end(), [&](const Answer& a) { return a.key == answer; });
    if (at == answers.end())
        return false;
    k->set(schools, static_cast<int>(at - answers.begin()));
    return true;
}

std::string inWords(const Schools& schools) {
    std::string words;
    for (const Question& q : questions()) {
        const std::string chosen = answerOf(schools, q.key);
        for (const Answer& a : q.answers) {
            if (a.key == chosen)
                words += (words.empty() ? "" : "; ") + q.words + ": " + a.words;
        }
    }
    return words;
}

Working ledBy(std::string_view key, const std::string& chosen, std::vector<Working> all) {
    auto at = std::find_if(all.begin(), all.end(), [&](const Working& w) { return w.school == chosen; });
    const bool missing = at == all.end();
    if (missing)
        at = all.begin();
    std::rotate(all.begin(), at, at + 1);
    Working lead = std::move(all.front());
    all.erase(all.begin());
    lead.question = key;
    if (missing) {
        for (const Answer& a : question(key).answers) {
            if (a.key == chosen)
                lead.note += (lead.note.empty() ? "" : "; ") +
                             (say("the house's choice, {}, cannot be worked out for this run", a.words));
        }
    }
    for (Working& w : all)
        w.question = key;
    lead.others = std::move(all);
    return lead;
}

} // namespace otterstone::setup
