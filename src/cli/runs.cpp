// The subcommands about single runs of a book: add-run, answer, list.
#include <algorithm>
#include <filesystem>
#include <iostream>

#include <CLI/CLI.hpp>
#include <QDateTime>
#include <nlohmann/json.hpp>

#include "book/store/book.h"
#include "cli/bench_options.h"
#include "cli/commands.h"
#include "cli/marks.h"
#include "cli/named.h"
#include "cli/options.h"
#include "core/kinds/catalogue.h"
#include "core/kinds/judge.h"
#include "core/kinds/traced/ends.h"
#include "core/kinds/traced/json.h"
#include "core/kinds/traced/points.h"
#include "core/records/tags.h"
#include "logs/log.h"
#include "terminal/busy.h"

namespace otterstone::cli {

namespace {

using nlohmann::json;

struct RunOptions {
    bool json = false, display = false;
    std::string book, bank, kind, log, what, run, answer, began, ended, port, point, at, title, ambient, conditions,
        deviceState;
    std::vector<std::string> marks;
    std::string gear[std::size(records::kStretches)];
};

void printQuestions(const kinds::Finding& f, const std::string& indent) {
    for (const kinds::Question& q : f.ends.questions) {
        std::cout << indent << q.sentence << "\n";
        for (const kinds::Answer& a : q.answers)
            std::cout << indent << "  " << q.key << "="
                      << (a.key.find(' ') == std::string::npos ? a.key : "\"" + a.key + "\"") << "  " << a.text << "\n";
    }
}

// Its rows say by themselves what these would.
void refuseForNotebook(const RunOptions& o) {
    for (const auto& [given, option] : {std::pair(!o.began.empty(), "--began"),
                                        {!o.ended.empty(), "--ended"},
                                        {!o.deviceState.empty(), "--device-state"},
                                        {!o.marks.empty(), "--mark"},
                                        {!o.point.empty(), "--point"}}) {
        if (given)
            throw Wrong{{"bad_option", option, "a notebook says that in its rows.", "Leave the option out."}};
    }
}

int addRun(const RunOptions& o) {
    return guard([&] {
        const auto kind = records::kindFromKey(o.kind);
        if (!kind || (records::hasSheet(*kind) && *kind != records::Kind::Notebook))
            throw Wrong{
                {"bad_option", "--kind", "“" + o.kind + "” is no kind of run with a log.",
                 "Write --kind drain, --kind recharge or --kind notebook; behaviour --keep takes the other sheets."}};
        if (*kind == records::Kind::Notebook)
            refuseForNotebook(o);
        auto opened = book::Book::open(QString::fromStdString(o.book));
        if (!opened)
            return complain(opened.error());
        book::Book& book = **opened;
        const auto banks = book.banks();
        const records::Bank* bank = named(banks, o.bank);
        if (!bank)
            return complain(noBank(o.book, o.bank));
        records::Run run;
        run.bank = bank->id;
        run.kind = *kind;
        run.port = o.port;
        if (!o.port.empty() && !label::portNamed(bank->label, o.port))
            throw Wrong{{"bad_option", "--port", bank->name + " has no port “" + o.port + "”.", ""}};
        if (!o.point.empty()) {
            const auto point = path::pointFromName(o.point);
            const auto& along = kinds::pointsAlong(*kind == records::Kind::Drain);
            if (!point || std::find(along.begin(), along.end(), *point) == along.end())
                throw Wrong{{"bad_option", "--point", "“" + o.point + "” is no point of such a run's path.", ""}};
            run.point = *point;
        }
        if (o.display) {
            if (!o.point.empty())
                throw Wrong{{"bad_option", "--point", "a display shows what leaves or enters the bank itself.",
                             "Leave --point or --display out."}};
            run.byDisplay = true;
            run.point = *kind == records::Kind::Recharge ? path::Point::BankIn : path::Point::BankOut;
        }
        const auto gear = book.gear();
        for (std::size_t k = 0; k < std::size(records::kStretches); ++k) {
            if (o.gear[k].empty())
                continue;
            const records::Gear* piece = named(gear, o.gear[k]);
            if (!piece || piece->kind != records::kStretches[k].kind)
                throw Wrong{{"no_gear", o.book,
                             "there is no " + records::gearKey(records::kStretches[k].kind) + " “" + o.gear[k] +
                                 "” in this book.",
                             "The list subcommand shows what there is."}};
            run.*(records::kStretches[k].piece) = piece->id;
        }
        if (!o.began.empty())
            run.ends.began = orWrong(records::parseBegan(o.began, "--began"));
        if (!o.ended.empty())
            orWrong(records::parseEnded(o.ended, "--ended", run.ends));
        if (!o.deviceState.empty())
            orWrong(records::parseDevice(o.deviceState, "--device-state", run.ends));
        for (const std::string& mark : o.marks)
            run.marks.push_back(readMark(mark));
        if (!o.ambient.empty())
            run.ambient = orWrong(kinds::parseTemperature(o.ambient, "--ambient"));
        run.conditions = records::parseConditions(o.conditions);
        trace::Trace trace;
        std::optional<double> startedAt;
        if (*kind == records::Kind::Notebook) {
            const auto text = contentsOf(o.log);
            if (!text)
                throw Wrong{{"no_file", o.log, "the file cannot be opened.", "Check its name."}};
            run.sheet = kinds::sheetFromText(*kind, *text);
            run.logName = std::filesystem::path(o.log).filename();
        } else {
            auto log = terminal::busyWith(terminal::kReadingLog, [&] { return logs::readLogFile(o.log, {}); });
            if (!log)
                return complain(log.error());
            run.logName = log->name;
            run.skippedLines = log->skippedLines;
            run.counterWattHours = log->counterWattHours;
            run.counterAmpHours = log->counterAmpHours;
            for (const Warning& w : log->warnings)
                run.logWarnings.emplace_back(w.code, w.text);
            startedAt = log->startedAt;
            trace = std::move(log->trace);
        }
        run.title = o.title.empty() ? run.logName.substr(0, run.logName.find_last_of('.')) : o.title;
        if (!o.at.empty()) {
            const auto at = QDateTime::fromString(QString::fromStdString(o.at), Qt::ISODate);
            if (!at.isValid())
                throw Wrong{
                    {"bad_option", "--at", "“" + o.at + "” is not a moment.", "Write it like 2026-04-02T09:10:00."}};
            run.startedAt = o.at;
        } else if (startedAt) {
            run.startedAt = QDateTime::fromMSecsSinceEpoch(static_cast<qint64>(*startedAt * 1000.0), Qt::UTC)
                                .toString(Qt::ISODate)
                                .toStdString();
        }
        if (run.sheet) { // nothing is kept of which nothing can be said
            const auto said = kinds::judge(*run.sheet, book.factsFor(*bank, run));
            if (!said)
                return complain(said.error());
            for (const kinds::Remark& r : said->remarks)
                std::cerr << "otterstone-cli: " << r.problem.sentence() << "\n";
        }
        const auto id = book.addRun(run, trace);
        if (!id)
            return complain(id.error(), kOutput);
        const auto finding = book.finding(*id);
        if (o.json) {
            json said = finding ? kinds::toContract(*finding) : json{{"problem", finding.error().sentence()}};
            said["run"] = *id;
            return print(said);
        }
        std::cout << "run " << *id << ": " << (finding ? finding->sentence : finding.error().sentence()) << "\n";
        if (finding) {
            printQuestions(*finding, "  ");
            for (const Warning& w : finding->warnings)
                std::cerr << "note: " << w.text << "\n";
        }
        return finish(kDone);
    });
}

int answer(const RunOptions& o) {
    return guard([&] {
        const std::size_t equals = o.answer.find('=');
        if (equals == std::string::npos)
            throw Wrong{{"bad_option", o.answer, "an answer is written KEY=ANSWER.",
                         "As in began=full, began=92%, ended=heat, ended=unknown."}};
        auto opened = book::Book::open(QString::fromStdString(o.book));
        if (!opened)
            return complain(opened.error());
        book::Book& book = **opened;
        const std::string key = o.answer.substr(0, equals), said = o.answer.substr(equals + 1);
        std::vector<records::Run> runs;
        if (!o.bank.empty()) { // all of a bank that did not say: as such runs usually begin
            const auto banks = book.banks();
            const records::Bank* bank = named(banks, o.bank);
            if (!bank)
                return complain(noBank(o.book, o.bank));
            if (key != "began" || said != "usual")
                throw Wrong{{"bad_option", "--bank", "for all runs of a bank only began=usual can be said.",
                             "Drains that say nothing else then began full, recharges empty."}};
            for (records::Run& r : book.runs(bank->id)) {
                if (!kinds::saysHowItBegan(r))
                    runs.push_back(std::move(r));
            }
        } else {
            double id = number(o.run, "--run", Expect::WholeNumber);
            auto run = book.run(static_cast<records::Id>(id));
            if (!run || records::hasSheet(kinds::servedAs(*run)))
                return complain({"no_run", o.book, "there is no drain or recharge with the number " + o.run + ".",
                                 "“list BOOK runs” shows them."});
            runs.push_back(std::move(*run));
        }
        json all = json::array();
        for (records::Run& run : runs) {
            const std::string word =
                said == "usual" ? (kinds::servedAs(run) == records::Kind::Drain ? "full" : "empty") : said;
            auto stated = kinds::answered(run.ends, key, word);
            if (!stated)
                return complain(stated.error(), kUsage);
            run.ends = *stated;
            if (!o.bank.empty())
                run.ends.began->sure = false; // said of all at once: each may still ask
            if (auto saved = book.save(run); !saved)
                return complain(saved.error(), kOutput);
        }
        for (const records::Run& run : runs) {
            const auto finding = book.finding(run.id);
            const std::string sentence = finding ? finding->sentence : finding.error().sentence();
            all.push_back({{"run", run.id}, {"sentence", sentence}});
            if (o.json)
                continue;
            std::cout << "run " << run.id << ", " << run.title << ": " << sentence << "\n";
            if (finding)
                printQuestions(*finding, "  ");
        }
        return o.json ? print({{"runs", all}}) : finish(kDone);
    });
}

int list(const RunOptions& o) {
    return guard([&] {
        auto opened = book::Book::openToRead(QString::fromStdString(o.book));
        if (!opened)
            return complain(opened.error());
        book::Book& book = **opened;
        json all = json::array();
        const auto row = [&](json j, const std::string& text) {
            if (!o.json)
                std::cout << text << "\n";
            all.push_back(std::move(j));
        };
        if (o.what == "gear") {
            for (const records::Gear& g : book.gear())
                row({{"id", g.id}, {"kind", records::gearKey(g.kind)}, {"name", g.name}},
                    std::to_string(g.id) + "\t" + records::gearKey(g.kind) + "\t" + g.name);
            return o.json ? print({{"gear", all}}) : finish(kDone);
        }
        for (const records::Bank& b : book.banks()) {
            const auto runs = book.runs(b.id);
            if (o.what == "banks") {
                const std::string tags = records::showTags(b.tags);
                row({{"id", b.id}, {"name", b.name}, {"tags", b.tags}, {"runs", runs.size()}},
                    std::to_string(b.id) + "\t" + b.name + "\t" + std::to_string(runs.size()) +
                        (runs.size() == 1 ? " run" : " runs") + (tags.empty() ? "" : "\t" + tags));
                continue;
            }
            for (const records::Run& r : runs) {
                if (o.what == "runs") {
                    row({{"id", r.id},
                         {"bank", b.name},
                         {"kind", records::kindKey(r.kind)},
                         {"title", r.title},
                         {"started_at", r.startedAt},
                         {"began", records::typedBegan(r.ends)},
                         {"ended", records::typedEnded(r.ends)}},
                        std::to_string(r.id) + "\t" + b.name + "\t" + records::kindKey(r.kind) + "\t" + r.title + "\t" +
                            r.startedAt);
                    continue;
                }
                const auto f = records::hasSheet(r.kind) ? std::nullopt : std::optional(book.finding(r.id));
                if (!f || !*f)
                    continue;
                for (const kinds::Question& q : (*f)->ends.questions) {
                    json answers = json::array();
                    for (const kinds::Answer& a : q.answers)
                        answers.push_back({{"key", a.key}, {"text", a.text}});
                    all.push_back({{"run", r.id},
                                   {"bank", b.name},
                                   {"title", r.title},
                                   {"key", q.key},
                                   {"text", q.sentence},
                                   {"answers", answers}});
                }
                if (!o.json && !(*f)->ends.questions.empty()) {
                    std::cout << "run " << r.id << ", " << b.name << ", " << r.title << "\n";
                    printQuestions(**f, "  ");
                }
            }
        }
        return o.json ? print({{o.what, all}}) : finish(kDone);
    });
}

} // namespace

void addRunCommands(CLI::App& app, int& code) {
    static RunOptions o;
    auto* add =
        app.add_subcommand("add-run", "Bring a meter's log, or a notebook as CSV, into a book as a run of a bank");
    add->add_option("book", o.book, "the book")->required();
    add->add_option("log", o.log, "the log file")->required();
    add->add_option("--bank", o.bank, "the bank, by name or number")->required();
    add->add_option("--kind", o.kind, "drain, recharge or notebook")->required();
    for (std::size_t k = 0; k < std::size(records::kStretches); ++k) {
        std::string option = std::string("--") + records::kStretches[k].key;
        std::replace(option.begin(), option.end(), '_', '-');
        add->add_option(option, o.gear[k], "by name or number");
    }
    add->add_option("--port", o.port, "of the bank, as on its label");
    add->add_option("--point", o.point, "where the log was read: wall, charger, meter, bank in, bank out, load");
    add->add_flag("--display", o.display, "it was read off the bank's own display");
    add->add_option("--began", o.began, "how full the bank was: full, empty, 92 %, 2 of 4, unknown");
    add->add_option("--ended", o.ended, "a state, why it ended, or both: empty, unplugged at 45 %, heat, unknown");
    add->add_option("--device-state", o.deviceState, "what the device had at both ends: 20 % to full, 20 % to ?");
    add->add_option("--mark", o.marks, "a stamp, e.g. percent@1h12=45, trip@2h=heat");
    add->add_option("--ambient", o.ambient, "ambient temperature, °C or °F");
    add->add_option("--conditions", o.conditions, "what makes it unlike other runs, e.g. \"case on; screen off\"");
    add->add_option("--at", o.at, "when it began, e.g. 2026-04-02T09:10:00");
    add->add_option("--title", o.title, "its name; the file's when not given");
    add->add_flag("--json", o.json, "print one JSON object");
    add->callback([&code] { code = addRun(o); });

    auto* answering = app.add_subcommand("answer", "Answer what a run asks: how it began, why it ended");
    answering->add_option("book", o.book, "the book")->required();
    answering->add_option("answer", o.answer, "KEY=ANSWER, e.g. began=full or ended=heat")->required();
    auto* one = answering->add_option("--run", o.run, "the run's number, as list shows it");
    auto* every =
        answering->add_option("--bank", o.bank, "all runs of a bank that do not say how they began: began=usual");
    one->excludes(every);
    answering->add_flag("--json", o.json, "print one JSON object");
    answering->callback([&code] {
        if (o.run.empty() && o.bank.empty())
            throw CLI::RequiredError("--run or --bank");
        code = answer(o);
    });

    auto* listing = app.add_subcommand("list", "List what a book holds: banks, gear, runs, or what runs ask");
    listing->add_option("book", o.book, "the book")->required();
    listing->add_option("what", o.what, "banks, gear, runs or questions")
        ->required()
        ->check(CLI::IsMember({"banks", "gear", "runs", "questions"}));
    listing->add_flag("--json", o.json, "print one JSON object");
    listing->callback([&code] { code = list(o); });
}

} // namespace otterstone::cli
