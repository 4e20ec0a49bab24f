#include "core/plan/campaign/problem.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/quantity/json_fields.h"
#include "core/quantity/json_text.h"
#include "core/quantity/say.h"

namespace otterstone::plan::campaign {

namespace {

constexpr std::pair<Unattended, const char*> kUnattended[] = {
    {Unattended::Never, "never"}, {Unattended::Stop, "stop"}, {Unattended::Night, "night"}};
constexpr std::size_t kMostJobs = 5000;
constexpr int kMostOfAPiece = 100;
constexpr double kShortest = 1e-3, kLongest = 3.2e9; // s, to a century
constexpr double kMostValue = 1e9;

using Names = std::map<std::string, std::size_t>;

std::size_t named(const Names& names, const std::string& name, Fields& in, const char* key, const char* what) {
    const auto at = names.find(name);
    if (at != names.end())
        return at->second;
    in.wrong(key, say("there is no {} “{}”.", sayAsItStands(what), name));
    return 0;
}
void addName(Names& names, const std::string& id, Fields& in) {
    if (id.empty())
        in.wrong("id", "a name is needed here.");
    else if (!names.emplace(id, names.size()).second)
        in.wrong("id", say("“{}” is there twice.", id));
}

State stateOf(Fields& in, const char* key) {
    const auto given = in.typed(key);
    if (!given)
        return {};
    const auto state = records::parseState(*given, key);
    if (!state)
        in.wrong(key, state.error().text, state.error().mend);
    return state.value_or(State());
}

std::optional<Unattended> unattendedOf(Fields& in) {
    std::vector<std::string> words;
    for (const auto& [unattended, key] : kUnattended)
        words.emplace_back(key);
    const std::string given = in.word("unattended", words, "");
    return given.empty() ? std::nullopt : unattendedFromKey(given);
}

int wholeNumber(Fields& in, const char* key, int most) {
    const double given = in.number(key, 1.0, most, 1.0);
    if (given != std::floor(given))
        in.wrong(key, "this is counted in whole numbers.");
    return static_cast<int>(given);
}

Need needFrom(Fields in, const Problem& p, const Names& pieces) {
    Need need;
    need.kind = in.text("kind", "");
    if (in.has("any_of")) {
        for (const std::string& name : in.texts("any_of"))
            need.anyOf.push_back(named(pieces, name, in, "any_of", "piece"));
    } else { // any of its kind
        for (std::size_t k = 0; k < p.pieces.size(); ++k) {
            if (!need.kind.empty() && p.pieces[k].kind == need.kind)
                need.anyOf.push_back(k);
        }
    }
    in.finish();
    return need;
}

Job jobFrom(Fields& in, const Problem& p, const Names& pieces, const Names& banks) {
    Job job;
    job.id = in.text("id");
    job.kind = in.text("kind", "");
    job.seconds = in.number("seconds", kShortest, kLongest);
    job.spread = in.number("spread", 0.0, kLongest, 0.0);
    job.rest = in.number("rest", 0.0, kLongest, 0.0);
    job.value = in.number("value", 0.0, kMostValue, 1.0);
    for (Fields& need : in.list("needs"))
        job.needs.push_back(needFrom(need, p, pieces));
    if (const std::string bank = in.text("bank", ""); !bank.empty())
        job.bank = named(banks, bank, in, "bank", "bank");
    if (!job.bank && (in.has("begin") || in.has("end") || in.has("uses")))
        in.wrong("bank", "what it wants, leaves or uses is that of a bank: name it.");
    job.begin = stateOf(in, "begin");
    if (in.has("end"))
        job.end = stateOf(in, "end");
    job.uses = in.number("uses", 0.0, 100.0, 0.0);
    job.unattended = unattendedOf(in);
    job.pin = in.maybeNumber("pin", 0.0, kLongest);
    job.asNeeded = in.yes("as_needed");
    if (job.asNeeded && (!job.bank || !job.end || job.pin || in.has("after")))
        in.wrong("as_needed",
                 "what is run as needed has a bank and the state that it leaves it in, and neither pin nor after.");
    for (Fields& h : in.list("hands")) {
        const Hands& hands = job.hands.emplace_back(
            Hands{h.number("at", -kLongest, kLongest), h.number("seconds", 0.0, kLongest, 0.0), h.text("what", "")});
        if (const Span s = hands.within(job.seconds); s.from < 0.0 || s.to > job.seconds)
            h.wrong("at", "that is before the job begins or after it has ended.");
        h.finish();
    }
    return job;
}

// A job that waits for itself, over others or at once.
std::optional<std::size_t> circle(const Problem& p) {
    std::vector<std::size_t> waits(p.jobs.size());
    std::vector<std::size_t> ready;
    for (std::size_t k = 0; k < p.jobs.size(); ++k) {
        waits[k] = p.jobs[k].after.size();
        if (waits[k] == 0)
            ready.push_back(k);
    }
    for (std::size_t n = 0; n < ready.size(); ++n) {
        for (std::size_t k = 0; k < p.jobs.size(); ++k) {
            const auto times = std::count(p.jobs[k].after.begin(), p.jobs[k].after.end(), ready[n]);
            if (times > 0 && (waits[k] -= static_cast<std::size_t>(times)) == 0)
                ready.push_back(k);
        }
    }
    for (std::size_t k = 0; k < p.jobs.size(); ++k) {
        if (std::find(ready.begin(), ready.end(), k) == ready.end())
            return k;
    }
    return std::nullopt;
}

Problem problemFrom(Fields& in) {
    Problem p;
    Names pieces, banks, jobs;
    for (Fields& piece : in.list("pieces")) {
        p.pieces.push_back({piece.text("id"), piece.text("kind", ""), wholeNumber(piece, "count", kMostOfAPiece)});
        addName(pieces, p.pieces.back().id, piece);
        piece.finish();
    }
    for (Fields& bank : in.list("banks")) {
        p.banks.push_back({bank.text("id"), stateOf(bank, "state")});
        addName(banks, p.banks.back().id, bank);
        bank.finish();
    }
    std::vector<Fields> given = in.list("jobs");
    if (given.size() > kMostJobs) {
        in.wrong("jobs", say("more than {} jobs are no campaign.", std::to_string(kMostJobs)));
        return p;
    }
    for (Fields& job : given) { // what others may name
        addName(jobs, job.text("id"), job);
        // A bank may be named by its jobs alone: then nothing is known of its state.
        if (const std::string bank = job.text("bank", ""); !bank.empty() && banks.emplace(bank, banks.size()).second)
            p.banks.push_back({bank, State()});
    }
    for (Fields& job : given)
        p.jobs.push_back(jobFrom(job, p, pieces, banks));
    for (std::size_t k = 0; k < given.size(); ++k) {
        for (const std::string& name : given[k].texts("after")) {
            const std::size_t before = named(jobs, name, given[k], "after", "job");
            p.jobs[k].after.push_back(before);
            if (p.jobs[before].asNeeded)
                given[k].wrong("after", say("“{}” is run as needed: nothing can wait for it.", name));
        }
        given[k].finish();
    }
    if (const auto k = circle(p))
        in.wrong("jobs", say("“{}” waits for itself.", p.jobs[*k].id));
    if (in.has("hours")) {
        std::vector<Presence>& hours = p.hours.emplace();
        for (Fields& h : in.list("hours")) {
            const Presence presence{{h.number("from", 0.0, kLongest), h.number("to", 0.0, kLongest)},
                                    wholeNumber(h, "people", kMostPeople)};
            if (presence.span.to <= presence.span.from)
                h.wrong("to", "hours end after they begin.");
            if (!hours.empty() && presence.span.from < hours.back().span.to)
                h.wrong("from", "hours stand in the order of time and do not overlap.");
            hours.push_back(presence);
            h.finish();
        }
    }
    p.unattended = unattendedOf(in).value_or(p.unattended);
    Fields window = in.part("window");
    p.until = window.maybeNumber("until", 0.0, kLongest);
    window.finish();
    for (Fields& pair : in.list("apart")) {
        const std::string one = pair.text("one"), other = pair.text("other");
        p.apart.emplace_back(named(jobs, one, pair, "one", "job"), named(jobs, other, pair, "other", "job"));
        if (one == other)
            pair.wrong("other", "a job shares its day with itself.");
        pair.finish();
    }
    p.midnight = in.number("midnight", -kLongest, kLongest, 0.0);
    in.finish();
    return p;
}

} // namespace

State leftBy(const Job& job, const State& is) {
    return job.end.value_or(State{std::max(0.0, is.low - job.uses), is.high});
}

const char* unattendedKey(Unattended unattended) {
    return std::find_if(std::begin(kUnattended), std::end(kUnattended),
                        [=](const auto& u) { return u.first == unattended; })
        ->second;
}

std::optional<Unattended> unattendedFromKey(const std::string& key) {
    for (const auto& [unattended, name] : kUnattended) {
        if (key == name)
            return unattended;
    }
    return std::nullopt;
}

Result<Problem> problemFromText(const std::string& text, const std::string& place) {
    const auto json = parseJson(text, place);
    if (!json)
        return tl::unexpected(json.error());
    std::optional<otterstone::Problem> wrong;
    Fields in(*json, place + ": ", wrong);
    Problem p = problemFrom(in);
    if (wrong)
        return tl::unexpected(*wrong);
    return p;
}

} // namespace otterstone::plan::campaign
