// The subcommand that plans a campaign.
#include <algorithm>
#include <chrono>
#include <functional>
#include <iostream>

#include <CLI/CLI.hpp>
#include <QDateTime>
#include <QSaveFile>
#include <nlohmann/json.hpp>

#include "bench/recipes/recipe.h"
#include "book/store/together.h"
#include "cli/bench_options.h"
#include "cli/commands.h"
#include "cli/named.h"
#include "cli/options.h"
#include "core/plan/campaign/draw_up.h"
#include "core/plan/campaign/files.h"
#include "core/plan/campaign/told.h"
#include "core/plan/campaign/week.h"
#include "core/quantity/date.h"
#include "core/quantity/format.h"

namespace otterstone::cli {

namespace {

namespace campaign = plan::campaign;

constexpr double kOneMoreShare = 0.1; // of the time to search is spent on each piece that might be added

struct PlanOptions {
    bool json = false;
    std::string problem, seconds = "10";
    std::string book, aim = "claims", from, until, hours, unattended, ics, csv;
    std::vector<std::string> banks;
};

struct Unwritten {
    Problem problem;
};

// The core knows no clock: its search asks this one.
campaign::GoOn within(double seconds) {
    const auto end = std::chrono::steady_clock::now() + std::chrono::duration<double>(seconds);
    return [end](const campaign::Answer&) { return std::chrono::steady_clock::now() < end; };
}

// What stands where a plan is told: seconds of a problem, days and hours of a book's.
using When = std::function<std::string(double)>;

void printPlan(const campaign::Problem& p, const campaign::Told& told, const When& when) {
    std::cout << sentenceOf(p, told) << "\n";
    for (const campaign::Placed& placed : told.answer.schedule.placed) {
        const campaign::Job& j = p.jobs[placed.job];
        std::cout << when(placed.from) << " to " << when(placed.to) << "\t" << j.id;
        if (j.bank) {
            const std::string& bank = p.banks[*j.bank].id;
            std::cout << (j.id.starts_with(bank) ? "" : ", " + bank) << ": " << campaign::stateTold(placed.begin)
                      << " → " << campaign::stateTold(placed.end);
        }
        for (std::size_t n = 0; n < placed.pieces.size(); ++n)
            std::cout << (n == 0 ? ", on " : ", ") << p.pieces[placed.pieces[n]].id;
        const std::string why = whyThen(p, told.answer.schedule, placed);
        std::cout << (why.empty() ? "" : ", " + why) << "\n";
    }
    for (const campaign::LeftOut& l : told.answer.schedule.leftOut)
        std::cout << "Left out: " << p.jobs[l.job].id << ": " << l.why << "\n";
    constexpr std::size_t kNamed = 3;
    for (std::size_t k = 0; k < std::min(kNamed, told.scarce.size()); ++k)
        std::cout << (k == 0 ? "Busiest: " : ", ") << (told.scarce[k].piece.empty() ? "hands" : told.scarce[k].piece)
                  << " " << showNumber(told.scarce[k].share * 100.0, 2) << " %"
                  << (k + 1 == std::min(kNamed, told.scarce.size()) ? " of the time\n" : "");
    for (const campaign::OneMore& o : told.oneMore)
        std::cout << "One more " << o.piece << ": "
                  << (o.gains > 0.0   ? "more of it fits"
                      : o.saves > 0.0 ? showDuration(o.saves) + " earlier"
                                      : "nothing found that it would save")
                  << "\n";
    for (const std::string& caution : campaign::cautionsOf(p, told.answer.schedule))
        std::cout << caution << "\n";
}

campaign::Told solved(const campaign::Problem& p, double seconds) {
    campaign::Told told;
    told.answer = campaign::solve(p, within(seconds));
    told.sure = campaign::howSure(p, told.answer.schedule);
    told.scarce = campaign::scarceOf(p, told.answer.schedule);
    told.oneMore = campaign::oneMoreOf(p, told.answer, [&] { return within(seconds * kOneMoreShare); });
    return told;
}

double moment(const std::string& text, const char* option) {
    const auto at = secondsOf(text);
    if (!at)
        throw Wrong{{"bad_option", option, "“" + text + "” is not a moment.", "Write it like 2026-04-02T09:10:00."}};
    return *at;
}

void writeFile(const std::string& path, const std::string& text) {
    QSaveFile file(QString::fromStdString(path));
    if (!file.open(QIODevice::WriteOnly) || file.write(text.data(), static_cast<qint64>(text.size())) < 0 ||
        !file.commit())
        throw Unwritten{{"not_written", path, "it could not be written: " + file.errorString().toStdString() + ".",
                         "Check the folder and the room in it."}};
}

// The same names for the same jobs in each plan of the book: calendars know their events by them.
std::vector<std::string> namesOf(const campaign::DrawnUp& d) {
    std::vector<std::string> names;
    for (std::size_t k = 0; k < d.jobs.size(); ++k) {
        const campaign::Drawn& j = d.jobs[k];
        std::string name = "bank" + std::to_string(j.bank) + "-" + records::kindKey(j.kind) +
                           (d.problem.jobs[k].asNeeded ? "-as-needed" : "") + (j.recipe.empty() ? "" : "-" + j.recipe);
        std::replace(name.begin(), name.end(), ' ', '-');
        names.push_back(std::move(name));
    }
    return names;
}

int planBook(const PlanOptions& o) {
    constexpr double kAsFarAsHoursGo = 120.0 * campaign::kDay;
    const double seconds = positive(o.seconds, "--seconds");
    const double begins =
        o.from.empty()
            ? moment(QDateTime::currentDateTime().toString(QStringLiteral("yyyy-MM-ddTHH:mm:00")).toStdString(),
                     "--from")
            : moment(o.from, "--from");
    campaign::Circumstances given;
    if (!o.until.empty()) {
        given.until = moment(o.until, "--until") - begins;
        if (*given.until <= 0.0)
            throw Wrong{{"bad_option", "--until", "that is not after the beginning.", ""}};
    }
    given.unattended = campaign::unattendedFromKey(o.unattended).value_or(given.unattended);
    if (!o.hours.empty())
        given.hours = campaign::presenceOf(orWrong(campaign::parseWeek(o.hours, "--hours")), begins,
                                           given.until.value_or(kAsFarAsHoursGo));
    given.midnight = campaign::midnightBefore(begins);
    given.estimate = [](const std::string& key, const label::Label& label, std::optional<double> wattHours,
                        std::optional<double> inputWatts) -> std::optional<double> {
        for (const bench::RecipeText& r : bench::builtinRecipes()) {
            if (r.recipe.key == key)
                return bench::estimateSeconds(bench::expand(r.recipe, label), label, wattHours, inputWatts);
        }
        return std::nullopt;
    };
    std::vector<records::Id> ids;
    {
        auto book = book::Book::openToRead(QString::fromStdString(o.book));
        if (!book)
            return complain(book.error());
        given.gear = (*book)->gear();
        const auto banks = (*book)->banks();
        for (const std::string& name : o.banks) {
            const records::Bank* bank = named(banks, name);
            if (!bank)
                return complain(noBank(o.book, name));
            ids.push_back(bank->id);
        }
    }
    const auto evidence = book::gatherEvidence(QString::fromStdString(o.book), ids);
    if (!evidence)
        return complain(evidence.error());
    const campaign::DrawnUp d = campaign::drawUp(*evidence, given);
    const campaign::Told told = solved(d.problem, seconds);
    const campaign::Schedule& s = told.answer.schedule;
    if (!o.ics.empty())
        writeFile(o.ics, campaign::calendarOf(d.problem, s, namesOf(d), begins,
                                              static_cast<double>(QDateTime::currentSecsSinceEpoch())));
    if (!o.csv.empty())
        writeFile(o.csv, campaign::csvOf(d.problem, s, begins));
    const auto when = [&](double at) { return campaign::isoOf(begins + at); };
    if (!o.json) {
        printPlan(d.problem, told, [&](double at) {
            std::string text = when(at).substr(0, 16);
            text[10] = ' ';
            return text;
        });
        for (const std::string& warning : d.warnings)
            std::cout << warning << "\n";
        return finish(kDone);
    }
    nlohmann::json j = toldJson(d.problem, told);
    for (std::size_t k = 0; k < s.placed.size(); ++k) {
        nlohmann::json& job = j["jobs"][k];
        const campaign::Drawn& drawn = d.jobs[s.placed[k].job];
        job["starts"] = when(s.placed[k].from);
        job["ends"] = when(s.placed[k].to);
        for (auto& at : job["ends_between"])
            at = when(at.get<double>());
        for (auto& h : job["hands"]) {
            h["from"] = when(h["from"].get<double>());
            h["to"] = when(h["to"].get<double>());
        }
        job["recipe"] = drawn.recipe;
        job["claims"] = drawn.claims;
    }
    for (std::size_t k = 0; k < s.leftOut.size(); ++k) {
        j["left_out"][k]["recipe"] = d.jobs[s.leftOut[k].job].recipe;
        j["left_out"][k]["claims"] = d.jobs[s.leftOut[k].job].claims;
    }
    for (const char* key : {"0.5", "0.9"})
        j["chance_by"][key] = when(j["chance_by"][key].get<double>());
    for (const std::string& warning : d.warnings)
        j["warnings"].push_back(warning);
    return print(j);
}

int planProblem(const PlanOptions& o) {
    for (const auto& [given, option] : {std::pair(!o.banks.empty(), "--bank"),
                                        {!o.from.empty(), "--from"},
                                        {!o.until.empty(), "--until"},
                                        {!o.hours.empty(), "--hours"},
                                        {!o.unattended.empty(), "--unattended"},
                                        {!o.ics.empty(), "--ics"},
                                        {!o.csv.empty(), "--csv"}}) {
        if (given)
            throw Wrong{{"bad_option", option, "a problem says that itself, or has no days.", "Leave the option out."}};
    }
    const double seconds = positive(o.seconds, "--seconds");
    const auto text = contentsOf(o.problem);
    if (!text)
        throw Wrong{{"no_file", o.problem, "the file cannot be opened.", "Check its name."}};
    const auto p = campaign::problemFromText(*text, o.problem);
    if (!p)
        return complain(p.error());
    const campaign::Told told = solved(*p, seconds);
    if (o.json)
        return print(toldJson(*p, told));
    printPlan(*p, told, [](double at) { return showDuration(at); });
    return finish(kDone);
}

int planIt(const PlanOptions& o) {
    return guard([&] {
        if (o.book.empty() == o.problem.empty())
            throw Wrong{{"bad_option", "plan", "name a book, or a problem with --problem.", ""}};
        try {
            return o.book.empty() ? planProblem(o) : planBook(o);
        } catch (const Unwritten& u) {
            return complain(u.problem, kOutput);
        }
    });
}

} // namespace

void addPlanCommand(CLI::App& app, int& code) {
    static PlanOptions o;
    auto* sub = app.add_subcommand("plan", "Plan a campaign: which job when, on which gear, and what to leave out");
    sub->add_option("book", o.book, "the book: the runs that would settle what its labels claim are planned");
    sub->add_option("--bank", o.banks, "a bank, by name or number; may be repeated; all where none is named");
    sub->add_option("--for", o.aim, "what is to be known")->check(CLI::IsMember({"claims"}))->capture_default_str();
    sub->add_option("--from", o.from, "when it begins, e.g. 2026-04-02T09:00:00; now where nothing is said");
    sub->add_option("--until", o.until, "when all must have ended");
    sub->add_option("--hours", o.hours, "when somebody is there, e.g. \"mon-fri 9-17; sat 10-14 2 people\"");
    sub->add_option("--unattended", o.unattended,
                    "what goes on alone: never (where nothing is said), stop (between begin and end), night")
        ->check(CLI::IsMember({"never", "stop", "night"}));
    sub->add_option("--ics", o.ics, "write the moments that want hands as a calendar");
    sub->add_option("--csv", o.csv, "write the plan as a table");
    sub->add_option("--problem", o.problem, "instead of a book: jobs, pieces, hours and window, as a JSON file");
    sub->add_option("--seconds", o.seconds, "to search for, at most")->capture_default_str();
    sub->add_flag("--json", o.json, "print one JSON object");
    sub->callback([&code] { code = planIt(o); });
}

} // namespace otterstone::cli
