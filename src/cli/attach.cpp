// otterstone-cli attach: photographs and files of a bank or a run; without a file: what is attached.
#include <iostream>

#include <CLI/CLI.hpp>
#include <QFileInfo>
#include <QSaveFile>
#include <nlohmann/json.hpp>

#include "book/attached/attachments.h"
#include "cli/bench_options.h"
#include "cli/commands.h"
#include "cli/hand_over.h"
#include "cli/named.h"
#include "cli/options.h"

namespace otterstone::cli {

namespace {

using nlohmann::json;
using records::Attachment;

struct AttachOptions {
    bool json = false, onSheet = false;
    std::string book, bank, caption, save;
    long long run = records::kNew, number = records::kNew;
    std::vector<std::string> files;
};

int listAttached(const AttachOptions& o, const std::vector<Attachment>& all) {
    json list = json::array();
    for (const Attachment& a : all) {
        if (!o.json) {
            std::cout << a.id << "\t" << (a.run == records::kNew ? "" : "run " + std::to_string(a.run)) << "\t"
                      << a.name << "\t" << a.type << "\t" << a.size << "\t" << a.caption
                      << (a.onSheet ? "\ton the sheet" : "") << "\n";
            continue;
        }
        json j{{"id", a.id},     {"name", a.name},        {"caption", a.caption}, {"type", a.type},
               {"size", a.size}, {"on_sheet", a.onSheet}, {"added_at", a.addedAt}};
        if (a.run != records::kNew)
            j["run"] = a.run;
        if (a.isPicture())
            j["pixels"] = {a.width, a.height};
        list.push_back(std::move(j));
    }
    return o.json ? print(list) : finish(kDone);
}

int saveOne(const AttachOptions& o, const book::Book& book) {
    const auto bytes = book::bytesOf(book, o.number);
    if (!bytes)
        return complain(bytes.error());
    QSaveFile file(QString::fromStdString(o.save));
    if (!file.open(QIODevice::WriteOnly) || file.write(*bytes) != bytes->size() || !file.commit())
        return complain({"cannot_write", o.save, "the file could not be written.",
                         "Check that the folder may be written and the disk has room."},
                        kOutput);
    return finish(kDone);
}

// Pictures are read and shrunk by the program that draws.
int addAll(const AttachOptions& o, records::Id bank) {
    for (const std::string& path : o.files) {
        if (!QFileInfo(QString::fromStdString(path)).isFile())
            return complain({"no_file", path, "the file cannot be opened.", "Check its name."});
    }
    const bool ofRun = bank == records::kNew;
    std::vector<std::string> arguments{"--attach", ofRun ? "--of-run" : "--of-bank",
                                       std::to_string(ofRun ? o.run : bank)};
    if (!o.caption.empty())
        arguments.insert(arguments.end(), {"--caption", o.caption});
    if (o.onSheet)
        arguments.emplace_back("--on-sheet");
    arguments.insert(arguments.end(), {"--", o.book}); // a file's name may begin with a dash
    arguments.insert(arguments.end(), o.files.begin(), o.files.end());
    return handOver("otterstone-report", std::move(arguments), "the program that reads pictures",
                    "Install Otterstone whole.");
}

int attach(const AttachOptions& o) {
    return guard([&] {
        auto opened = book::Book::openToRead(QString::fromStdString(o.book));
        if (!opened)
            return complain(opened.error());
        book::Book& book = **opened;
        if (!o.save.empty())
            return saveOne(o, book);
        records::Id bank = records::kNew;
        if (!o.bank.empty()) {
            const auto banks = book.banks();
            const records::Bank* found = named(banks, o.bank);
            if (!found)
                return complain(noBank(o.book, o.bank));
            bank = found->id;
        } else if (!book.run(o.run)) {
            return complain({"no_run", o.book, "there is no run " + std::to_string(o.run) + " in this book.",
                             "The list subcommand shows what there is."});
        }
        if (!o.files.empty()) {
            opened->reset(); // the other program writes it
            return addAll(o, bank);
        }
        return listAttached(o, bank != records::kNew ? book::allAttachments(book, bank)
                                                     : book::attachmentsOfRun(book, o.run));
    });
}

} // namespace

void addAttachCommand(CLI::App& app, int& code) {
    static AttachOptions o;
    auto* c =
        app.add_subcommand("attach", "Photographs and files of a bank or a run: add them, list them, take one out");
    c->add_option("book", o.book, "the book")->required();
    auto* files = c->add_option("files", o.files,
                                "pictures are shrunk to 2048 pixels, and lose what a camera wrote beside them; none: "
                                "list what is attached");
    auto* bank = c->add_option("--bank", o.bank, "the bank, by name or number");
    auto* run = c->add_option("--run", o.run, "the run's number, as list shows it");
    auto* caption = c->add_option("--caption", o.caption, "what it shows");
    auto* onSheet = c->add_flag("--on-sheet", o.onSheet, "show it on the bank's sheet");
    auto* number = c->add_option("--number", o.number, "with --save: which, as the list shows it");
    auto* save = c->add_option("--save", o.save, "write one to a file, as the book holds it");
    auto* json = c->add_flag("--json", o.json, "print the list as JSON");
    bank->excludes(run);
    save->needs(number)->excludes(files)->excludes(caption)->excludes(onSheet)->excludes(json);
    number->needs(save);
    json->excludes(files);
    caption->needs(files);
    onSheet->needs(files);
    c->callback([&code] {
        if (o.bank.empty() && o.run == records::kNew && o.save.empty())
            throw CLI::RequiredError("--bank or --run");
        code = attach(o);
    });
}

} // namespace otterstone::cli
