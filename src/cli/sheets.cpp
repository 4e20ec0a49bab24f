// otterstone-cli behaviour: what a sheet of survey, staircase, sharing, … says, alone or held against a bank of a book.
#include <iostream>

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

#include "book/store/book.h"
#include "cli/commands.h"
#include "cli/options.h"
#include "core/kinds/catalogue.h"
#include "core/kinds/traced/json.h"
#include "logs/csv.h"

namespace otterstone::cli {

namespace {

struct SheetOptions {
    bool json = false, keep = false;
    std::string kind, rows, book, bank, title, pathOhms, meter;
    std::vector<std::string> tiers;
};

int sheet(const SheetOptions& o) {
    const auto kind = records::kindFromKey(o.kind);
    if (!kind || !records::hasSheet(*kind)) {
        std::string all;
        for (const records::Kind k : records::sheetKinds())
            all += (all.empty() ? "" : ", ") + records::kindKey(k);
        return complain({"bad_option", "kind", "“" + o.kind + "” is none.", "Kinds with a sheet are " + all + "."},
                        kUsage);
    }
    if (o.rows.empty()) { // what a sheet of this kind looks like
        for (const kinds::Column& c : kinds::columnsOf(*kind)) {
            std::string choices;
            for (const std::string& word : c.choices)
                choices += (choices.empty() ? " (" : "; ") + word;
            std::cout << c.key << ": " << c.hint << (choices.empty() ? "" : choices + ")") << "\n";
        }
        return finish(kDone);
    }
    const auto text = contentsOf(o.rows);
    if (!text)
        return complain({"no_file", o.rows, "the file cannot be opened.", "Check its name."});
    const records::Sheet read = kinds::sheetFromText(*kind, *text);
    std::unique_ptr<book::Book> book;
    records::Bank bank;
    records::Run run;
    run.kind = *kind;
    run.sheet = read;
    run.title = o.title.empty() ? records::kindWords(*kind) : o.title;
    run.logName = o.rows;
    setup::Facts facts;
    if (!o.book.empty()) {
        auto opened = book::Book::open(QString::fromStdString(o.book));
        if (!opened)
            return complain(opened.error());
        book = std::move(*opened);
        for (const records::Bank& b : book->banks()) {
            if (b.name == o.bank)
                bank = b;
        }
        if (bank.id == records::kNew)
            return complain({"no_bank", "--bank", "there is no bank “" + o.bank + "” in this book.",
                             "See otterstone-cli findings BOOK for their names."});
        run.bank = bank.id;
        facts = book->factsFor(bank, run);
    }
    try {
        if (!o.pathOhms.empty())
            facts.pathOhms =
                orWrong(parseMeasured(o.pathOhms, "--path-ohms", ErrorSource::ofBench("path", "resistance")));
        if (!o.meter.empty())
            facts.meter = orWrong(path::parseMeter(o.meter, "--meter"));
        for (const std::string& t : o.tiers) { // "C1 9Vx2A"
            const std::size_t space = t.find(' ');
            if (space == std::string::npos)
                throw Wrong{{"bad_option", "--tier", "“" + t + "” names no port.",
                             "Write the port, then the tier: \"C1 9Vx2A\"."}};
            const std::string name = t.substr(0, space);
            if (!label::portNamed(facts.label, name))
                facts.label.ports.push_back({name, label::Direction::Both, {}, {}, {}});
            for (label::Port& p : facts.label.ports) {
                if (p.name == name)
                    p.tiers.push_back(orWrong(label::parseTier(t.substr(space), "--tier")));
            }
        }
    } catch (const Wrong& wrong) {
        return complain(wrong.problem, kUsage);
    }
    auto said = kinds::judge(read, facts);
    if (!said)
        return complain(said.error());
    for (const kinds::Remark& r : said->remarks)
        std::cerr << "otterstone-cli: " << r.problem.sentence() << "\n";
    if (o.keep && book) {
        if (const auto kept = book->addRun(run, {}); !kept)
            return complain(kept.error(), kOutput);
    }
    setup::Setup setup = book ? book->setupFor(bank, run) : setup::Setup();
    if (!o.meter.empty())
        setup.meter = facts.meter;
    if (!o.pathOhms.empty())
        setup.pathOhms = facts.pathOhms;
    const kinds::Finding f = kinds::findingOf(read, std::move(*said), facts, setup);
    if (o.json)
        return print(kinds::toContract(f));
    std::cout << f.sentence << "\n";
    for (const Working& w : f.figures)
        std::cout << kinds::asText(w, 1);
    for (const Warning& w : f.warnings)
        std::cout << "· " << w.text << "\n";
    return finish(kDone);
}

struct RowsOptions {
    std::string book, run;
};

int rows(const RowsOptions& o) {
    return guard([&] {
        auto opened = book::Book::open(QString::fromStdString(o.book));
        if (!opened)
            return complain(opened.error());
        const auto run = (*opened)->run(static_cast<records::Id>(number(o.run, "--run", Expect::WholeNumber)));
        if (!run || !run->sheet)
            return complain({"no_run", o.book, "there is no notebook or other sheet with the number " + o.run + ".",
                             "“list BOOK runs” shows them."});
        std::cout << logs::sheetCsv(*run->sheet);
        return finish(kDone);
    });
}

} // namespace

void addRowsCommand(CLI::App& app, int& code) {
    static RowsOptions o;
    auto* c = app.add_subcommand("rows", "The rows of a notebook or another sheet of a book, as CSV");
    c->add_option("book", o.book, "the book")->required();
    c->add_option("--run", o.run, "its number, as “list BOOK runs” shows it")->required();
    c->callback([&code] { code = rows(o); });
}

void addSheetCommand(CLI::App& app, int& code) {
    static SheetOptions o;
    auto* c = app.add_subcommand("behaviour",
                                 "What a survey, staircase, sharing round, … says; without rows: what its columns are");
    c->add_option("kind", o.kind,
                  "notebook, survey, staircase, sharing, pass-through, \"light load\", matrix, directions or cells")
        ->required();
    c->add_option("rows", o.rows, "CSV with the columns' names in its first line");
    c->add_option("--book", o.book, "hold it against a bank of this book, and the gear in its drawer");
    c->add_option("--bank", o.bank, "that bank's name");
    c->add_flag("--keep", o.keep, "keep it in the book as a run");
    c->add_option("--title", o.title, "of that run");
    c->add_option("--tier", o.tiers, "a promised tier with its port: \"C1 9Vx2A\"; repeatable");
    c->add_option("--path-ohms", o.pathOhms, "loop resistance between the bank's port and the meter");
    c->add_option("--meter", o.meter, "its accuracy, as for analyse");
    c->add_flag("--json", o.json, "print one JSON object");
    c->callback([&code] { code = sheet(o); });
}

} // namespace otterstone::cli
