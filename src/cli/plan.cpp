// The subcommand that plans a campaign.
#include <algorithm>
#include <chrono>
#include <cmath>
#include <functional>
#include <iostream>
#include <tuple>

#include <CLI/CLI.hpp>
#include <QDateTime>
#include <QSaveFile>
#include <nlohmann/json.hpp>

#include "bench/campaign/book_campaign.h"
#include "cli/bench_options.h"
#include "cli/commands.h"
#include "cli/named.h"
#include "cli/options.h"
#include "core/judgement/purpose.h"
#include "core/plan/campaign/day_sheet.h"
#include "core/plan/campaign/files.h"
#include "core/plan/campaign/told.h"
#include "core/plan/campaign/week.h"
#include "core/quantity/date.h"
#include "core/quantity/format.h"
#include "terminal/busy.h"

namespace otterstone::cli {

namespace {

namespace campaign = plan::campaign;

constexpr const char* kClaims = "claims";

struct PlanOptions {
    bool json = false;
    std::string problem, seconds = "10";
    std::string book, aim, loads, repeats, from, until, hours, unattended, ics, csv, sheet;
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
        std::cout << "Left out: " << p.jobs[l.job].id << ": " << whyLeftOut(p, l) << "\n";
    constexpr std::size_t kNamed = 3;
    for (std::size_t k = 0; k < std::min(kNamed, told.scarce.size()); ++k)
        std::cout << (k == 0 ? "Busiest: " : ", ") << (told.scarce[k].piece.empty() ? "hands" : told.scarce[k].piece)
                  << " " << showNumber(told.scarce[k].share * 100.0, 2) << " %"
                  << (k + 1 == std::min(kNamed, told.scarce.size()) ? " of the time\n" : "");
    for (const campaign::OneMore& o : told.oneMore)
        std::cout << "With " << oneMoreWords(o) << "\n";
    for (const std::string& caution : campaign::cautionsOf(p, told.answer.schedule))
        std::cout << caution << "\n";
}

campaign::Told solved(const campaign::Problem& p, double seconds) {
    campaign::Answer answer;
    {
        const terminal::Busy busy("Searching for a plan", seconds);
        answer = campaign::solve(p, within(seconds));
    }
    return terminal::busyWith("Trying what one more piece would save", [&] {
        campaign::Told told = campaign::tell(p, std::move(answer));
        told.oneMore = campaign::oneMoreOf(p, told.answer, [&] { return within(seconds * campaign::kOneMoreShare); });
        return told;
    });
}

int whole(const std::string& text, const char* option, int least, int most) {
    const double value = number(text, option);
    if (value != std::floor(value) || value < least || value > most)
        throw Wrong{{"bad_option", option,
                     "this is a whole number from " + std::to_string(least) + " to " + std::to_string(most) + ".", ""}};
    return static_cast<int>(value);
}

void writeFile(const std::string& path, const std::string& text) {
    QSaveFile file(QString::fromStdString(path));
    if (!file.open(QIODevice::WriteOnly) || file.write(text.data(), static_cast<qint64>(text.size())) < 0 ||
        !file.commit())
        throw Unwritten{{"not_written", path, "it could not be written: " + file.errorString().toStdString() + ".",
                         "Check the folder and the room in it."}};
}

std::vector<std::string> namesOf(const campaign::DrawnUp& d) {
    std::vector<std::string> names;
    for (const campaign::Drawn& j : d.jobs)
        names.push_back(nameOf(j.key));
    return names;
}

// What the book wishes, but for what is said here.
Result<campaign::Wishes> wishesFor(const PlanOptions& o) {
    auto book = book::Book::openToRead(QString::fromStdString(o.book));
    if (!book)
        return tl::unexpected(book.error());
    auto read = bench::wishesOf(**book);
    if (!read)
        return read;
    campaign::Wishes& w = *read;
    const auto banks = (*book)->banks();
    if (!o.banks.empty())
        w.banks.clear();
    for (const std::string& name : o.banks) {
        const records::Bank* bank = named(banks, name);
        if (!bank)
            return tl::unexpected(noBank(o.book, name));
        w.banks.push_back(bank->id);
    }
    for (const auto& [given, option, into] :
         {std::tuple(&o.from, "--from", &w.from), {&o.until, "--until", &w.until}}) {
        if (given->empty())
            continue;
        *into = campaign::isoOf(orWrong(campaign::parseMoment(*given, bench::clockNow(), option)));
    }
    if (!o.from.empty() && o.until.empty() && secondsOf(w.until).value_or(HUGE_VAL) <= *secondsOf(w.from))
        w.until.clear(); // that of another campaign
    if (!o.hours.empty()) {
        (void)orWrong(campaign::parseWeek(o.hours, "--hours"));
        w.hours = o.hours;
    }
    w.unattended = campaign::unattendedFromKey(o.unattended).value_or(w.unattended);
    if (!o.aim.empty()) {
        w.claims = o.aim == kClaims;
        w.purpose = w.claims ? "" : o.aim;
    }
    if (!o.loads.empty())
        w.loads = whole(o.loads, "--loads", 0, campaign::Wishes::kMostLoads);
    if (!o.repeats.empty())
        w.repeats = whole(o.repeats, "--repeats", 1, campaign::Wishes::kMostRepeats);
    return read;
}

int planBook(const PlanOptions& o) {
    const double seconds = positive(o.seconds, "--seconds");
    const auto wishes = wishesFor(o);
    if (!wishes)
        return complain(wishes.error());
    const auto drawn = bench::drawCampaign(QString::fromStdString(o.book), *wishes, bench::clockNow());
    if (!drawn)
        return complain(drawn.error());
    const campaign::DrawnUp& d = drawn->drawn;
    const double begins = drawn->begins;
    const campaign::Told told = solved(d.problem, seconds);
    const campaign::Schedule& s = told.answer.schedule;
    if (!o.ics.empty())
        writeFile(o.ics, campaign::calendarOf(d.problem, s, namesOf(d), begins,
                                              static_cast<double>(QDateTime::currentSecsSinceEpoch())));
    if (!o.csv.empty())
        writeFile(o.csv, campaign::csvOf(d.problem, s, begins));
    if (!o.sheet.empty())
        writeFile(o.sheet, campaign::daySheetOf(d, told, begins));
    const auto when = [&](double at) { return campaign::isoOf(begins + at); };
    if (!o.json) {
        printPlan(d.problem, told, [&](double at) {
            std::string text = when(at).substr(0, 16);
            text[10] = ' ';
            return text;
        });
        const std::string lived = livedSentence(drawn->wishes.kept, drawn->lived);
        std::cout << lived << (lived.empty() ? "" : "\n");
        for (const std::string& warning : d.warnings)
            std::cout << warning << "\n";
        return finish(kDone);
    }
    nlohmann::json j = toldJson(d.problem, told);
    for (std::size_t k = 0; k < s.placed.size(); ++k) {
        nlohmann::json& job = j["jobs"][k];
        const campaign::Drawn& of = d.jobs[s.placed[k].job];
        job["starts"] = when(s.placed[k].from);
        job["ends"] = when(s.placed[k].to);
        for (auto& at : job["ends_between"])
            at = when(at.get<double>());
        for (auto& h : job["hands"]) {
            h["from"] = when(h["from"].get<double>());
            h["to"] = when(h["to"].get<double>());
        }
        job["recipe"] = of.key.recipe;
        job["claims"] = of.claims;
    }
    for (std::size_t k = 0; k < s.leftOut.size(); ++k) {
        j["left_out"][k]["recipe"] = d.jobs[s.leftOut[k].job].key.recipe;
        j["left_out"][k]["claims"] = d.jobs[s.leftOut[k].job].claims;
    }
    for (const char* key : {"0.5", "0.9"})
        j["chance_by"][key] = when(j["chance_by"][key].get<double>());
    for (const std::string& warning : d.warnings)
        j["warnings"].push_back(warning);
    j["lived"] = nlohmann::json::array();
    for (const campaign::Lived& l : drawn->lived) {
        const campaign::KeptJob& kept = drawn->wishes.kept.jobs[l.job];
        j["lived"].push_back({{"id", kept.words},
                              {"planned", kept.from},
                              {"run", l.run ? nlohmann::json(l.run->run) : nlohmann::json(nullptr)},
                              {"late_s", l.run || l.due ? nlohmann::json(l.late) : nlohmann::json(nullptr)}});
    }
    return print(j);
}

int planProblem(const PlanOptions& o) {
    for (const auto& [given, option] : {std::pair(!o.banks.empty(), "--bank"),
                                        {!o.from.empty(), "--from"},
                                        {!o.until.empty(), "--until"},
                                        {!o.hours.empty(), "--hours"},
                                        {!o.unattended.empty(), "--unattended"},
                                        {!o.ics.empty(), "--ics"},
                                        {!o.csv.empty(), "--csv"},
                                        {!o.sheet.empty(), "--sheet"},
                                        {!o.aim.empty(), "--for"},
                                        {!o.loads.empty(), "--loads"},
                                        {!o.repeats.empty(), "--repeats"}}) {
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
    std::vector<std::string> aims{kClaims};
    for (const judgement::Purpose& purpose : judgement::purposes())
        aims.push_back(purpose.key);
    sub->add_option("--for", o.aim, "what is to be known: what the labels claim, or all figures of a purpose")
        ->check(CLI::IsMember(aims));
    sub->add_option("--loads", o.loads, "usable energy at so many loads, besides");
    sub->add_option("--repeats", o.repeats, "so many of each drain and recharge");
    sub->add_option("--from", o.from,
                    "when it begins, e.g. \"2026-04-02 09:00\", \"mon 9:00\"; as the book has it, else now");
    sub->add_option("--until", o.until, "when all must have ended, e.g. \"fri 18:00\", \"in 6 days\"");
    sub->add_option("--hours", o.hours, "when somebody is there, e.g. \"mon-fri 9-17; sat 10-14 2 people\"");
    sub->add_option("--unattended", o.unattended,
                    "what goes on alone: never (where nothing is said), stop (between begin and end), night")
        ->check(CLI::IsMember({"never", "stop", "night"}));
    sub->add_option("--ics", o.ics, "write the moments that want hands as a calendar");
    sub->add_option("--csv", o.csv, "write the plan as a table");
    sub->add_option("--sheet", o.sheet, "write the day sheet, to be printed, as HTML");
    sub->add_option("--problem", o.problem, "instead of a book: jobs, pieces, hours and window, as a JSON file");
    sub->add_option("--seconds", o.seconds, "to search for, at most")->capture_default_str();
    sub->add_flag("--json", o.json, "print one JSON object");
    sub->callback([&code] { code = planIt(o); });
}

} // namespace otterstone::cli
