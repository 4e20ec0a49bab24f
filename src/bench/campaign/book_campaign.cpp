#include "bench/campaign/book_campaign.h"

#include <algorithm>
#include <set>

#include <QDateTime>
#include <nlohmann/json.hpp>

#include "bench/recipes/recipe.h"
#include "book/store/choices.h"
#include "core/kinds/catalogue.h"
#include "core/plan/campaign/files.h"
#include "core/plan/campaign/week.h"
#include "core/quantity/date.h"
#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

namespace campaign = plan::campaign;

constexpr double kMostDays = 400.0 * campaign::kDay; // a week's hours are written out as far
constexpr std::size_t kWithoutZone = 19;             // of "2026-04-02T09:10:00+02:00"
constexpr double kAsFarAsHoursGo = 120.0 * campaign::kDay;

const Recipe* recipeNamed(const std::string& key) {
    for (const RecipeText& r : builtinRecipes()) {
        if (r.recipe.key == key)
            return &r.recipe;
    }
    return nullptr;
}

std::optional<campaign::Course> courseOn(const std::string& key, const label::Label& label,
                                         std::optional<double> wattHours, std::optional<double> inputWatts) {
    const Recipe* r = recipeNamed(key);
    const auto course = r ? courseOf(*r, label, wattHours, inputWatts) : std::nullopt;
    if (!course)
        return std::nullopt;
    campaign::Course all{course->seconds, {}};
    for (const Course::Moment& m : course->hands)
        all.hands.emplace_back(m.at, m.what);
    return all;
}

// The recipe that a live run followed.
std::string recipeOf(const records::Run& run) {
    const auto j = nlohmann::json::parse(run.recipe, nullptr, false);
    return j.is_object() && j.contains("key") && j.at("key").is_string() ? j.at("key").get<std::string>()
                                                                         : std::string();
}

// The constant power that it drew by its recipe.
std::optional<double> wattsOf(const records::Run& run) {
    if (run.recipe.empty())
        return std::nullopt;
    const auto recipe = recipeFromJson(run.recipe, {});
    return recipe ? wattsOf(*recipe) : std::nullopt;
}

std::vector<campaign::RunSeen> runsSeen(const book::Book& book, const std::vector<evidence::Evidence>& banks,
                                        std::optional<double> asOf) {
    std::vector<campaign::RunSeen> seen;
    for (const evidence::Evidence& e : banks) {
        const auto runs = book.runs(e.bank);
        for (const life::Passage& p : e.together.life.passages) {
            const auto run =
                std::find_if(runs.begin(), runs.end(), [&](const records::Run& r) { return r.id == p.run; });
            if (!p.from || run == runs.end())
                continue;
            // As the tester's clock showed it, whatever zone that was in.
            const double from = secondsOf(run->startedAt.substr(0, kWithoutZone)).value_or(*p.from);
            const auto state = [&](const std::optional<kinds::KnownState>& s) {
                return s && !p.silent ? std::optional(s->state) : std::nullopt;
            };
            // A plan as of a moment stands still: what is run meanwhile is begun then.
            const double began = asOf ? std::min(from, *asOf) : from;
            seen.push_back({p.run, e.bank, p.kind, recipeOf(*run), p.title, began,
                            began + p.to.value_or(*p.from) - *p.from, state(p.began), state(p.ended), wattsOf(*run),
                            run->kind == records::Kind::Notebook});
        }
    }
    return seen;
}

} // namespace

double clockNow() {
    const QString text = QDateTime::currentDateTime().toString(QStringLiteral("yyyy-MM-ddTHH:mm:00"));
    return secondsOf(text.toStdString()).value_or(0.0);
}

std::vector<campaign::RunSeen> runsMade(const book::Book& book, const campaign::Kept& kept) {
    std::vector<campaign::RunSeen> made;
    std::set<long long> banks;
    for (const campaign::KeptJob& job : kept.jobs)
        banks.insert(job.job.bank);
    for (const long long bank : banks) {
        for (const records::Run& run : book.runs(bank)) {
            if (const auto from = secondsOf(run.startedAt.substr(0, kWithoutZone)))
                made.push_back({run.id,
                                bank,
                                kinds::servedAs(run),
                                recipeOf(run),
                                run.title,
                                *from,
                                *from,
                                {},
                                {},
                                wattsOf(run),
                                run.kind == records::Kind::Notebook});
        }
    }
    return made;
}

Result<campaign::Wishes> wishesOf(const book::Book& book) {
    return campaign::wishesFromText(book.choice(book::choice::campaign), "the campaign in this book");
}

Result<BookCampaign> drawCampaign(const QString& path, const campaign::Wishes& wishes, double now) {
    BookCampaign c;
    c.wishes = wishes;
    c.begins = secondsOf(wishes.from).value_or(now);
    campaign::Circumstances given;
    given.wishes = wishes;
    given.begins = c.begins;
    given.course = courseOn;
    given.recipeName = [](const std::string& key) {
        const Recipe* r = recipeNamed(key);
        return r ? r->name : std::string();
    };
    if (const auto until = secondsOf(wishes.until)) {
        given.until = *until - c.begins;
        if (*given.until <= 0.0)
            return problem("bad_value", "until",
                           say("the end of the campaign, {}, is not after its beginning, {}.", wishes.until,
                               campaign::isoOf(c.begins)),
                           "Name a later moment.");
    }
    if (!wishes.hours.empty()) {
        const auto week = campaign::parseWeek(wishes.hours, "hours");
        if (!week)
            return tl::unexpected(week.error());
        given.hours = campaign::presenceOf(*week, c.begins, std::min(given.until.value_or(kAsFarAsHoursGo), kMostDays));
    }
    given.midnight = campaign::midnightBefore(c.begins);
    const auto evidence = book::gatherEvidence(path, {}, &c.fresh);
    if (!evidence)
        return tl::unexpected(evidence.error());
    auto book = book::Book::openToRead(path);
    if (!book)
        return tl::unexpected(book.error());
    given.gear = (*book)->gear();
    c.seen = runsSeen(**book, *evidence, secondsOf(wishes.from));
    c.lived = campaign::livedThrough(wishes.kept, c.seen, c.begins);
    for (const records::PlannedRun& p : (*book)->planned()) {
        const auto taken = std::any_of(c.lived.begin(), c.lived.end(), [&](const campaign::Lived& l) {
            const campaign::JobKey& key = wishes.kept.jobs[l.job].job;
            return l.run && key.bank == p.bank && key.kind == p.kind && key.recipe == p.recipe && key.variant.empty();
        });
        if (!p.done && !taken)
            given.own.push_back({p.id, p.bank, p.kind, p.recipe, p.words});
    }
    c.drawn = campaign::drawUp(*evidence, given);
    return c;
}

campaign::Kept agreedOn(const BookCampaign& c, const campaign::Schedule& schedule) {
    campaign::Kept kept;
    kept.at = campaign::isoOf(c.begins);
    for (const campaign::Lived& l : c.lived) {
        if (!l.run)
            continue;
        kept.jobs.push_back(c.wishes.kept.jobs[l.job]);
        std::string& since = kept.jobs.back().since;
        since = since.empty() ? c.wishes.kept.at : since;
    }
    for (const campaign::Placed& placed : schedule.placed) {
        const campaign::Drawn& drawn = c.drawn.jobs[placed.job];
        kept.jobs.push_back({drawn.key,
                             c.drawn.problem.jobs[placed.job].id,
                             campaign::isoOf(c.begins + placed.from),
                             campaign::isoOf(c.begins + placed.to),
                             {},
                             drawn.watts});
    }
    return kept;
}

} // namespace otterstone::bench
