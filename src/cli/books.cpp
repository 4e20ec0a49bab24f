// The subcommands that work on books: demo, export, import, check, findings.
#include <iostream>
#include <map>

#include <nlohmann/json.hpp>

#include "book/demo/demo.h"
#include "book/exchange/bundle.h"
#include "book/exchange/rescue.h"
#include "book/store/check.h"
#include "book/store/moved.h"
#include "book/store/together.h"
#include "cli/commands.h"
#include "core/kinds/traced/json.h"
#include "terminal/busy.h"

namespace otterstone::cli {

namespace {

// A result that has no place to go leaves with another code than input that cannot be used.
bool concernsOutput(const Problem& p) {
    return p.code == "book_exists" || p.code == "folder_not_empty" || p.code == "cannot_write" ||
           p.code == "book_failed";
}

int complainOf(const Problem& p) { return complain(p, concernsOutput(p) ? kOutput : kInput); }

} // namespace

int demo(const std::string& path) {
    const auto book =
        terminal::busyWith("Making the demo book", [&] { return book::makeDemo(QString::fromStdString(path)); });
    if (!book)
        return complainOf(book.error());
    std::size_t runs = 0;
    for (const records::Bank& b : (*book)->banks())
        runs += (*book)->runs(b.id).size();
    std::cout << path << ": " << (*book)->banks().size() << " banks, " << runs << " runs\n";
    return finish(kDone);
}

int exportBook(const std::string& path, const std::string& folder) {
    auto book = book::Book::open(QString::fromStdString(path));
    if (!book)
        return complain(book.error());
    const auto done = terminal::busyWith("Writing the bundle",
                                         [&] { return book::exportBundle(**book, QString::fromStdString(folder)); });
    return done ? kDone : complainOf(done.error());
}

int importBundle(const std::string& bundle, const std::string& path) {
    const auto book = terminal::busyWith("Reading the bundle", [&] {
        return book::importBundle(QString::fromStdString(bundle), QString::fromStdString(path));
    });
    return book ? kDone : complainOf(book.error());
}

int bringIn(const std::string& path, const std::string& rescue) {
    const auto run = book::bringIn(QString::fromStdString(path), QString::fromStdString(rescue));
    if (!run)
        return complain(run.error());
    std::cout << "run " << *run << " is whole again\n";
    return finish(kDone);
}

int check(const std::string& path) {
    const auto report =
        terminal::busyWith("Reading all of the book", [&] { return book::checkBook(QString::fromStdString(path)); });
    if (!report)
        return complain(report.error());
    for (const std::string& fault : report->faults)
        std::cerr << "otterstone-cli: " << path << ": " << fault << "\n";
    if (!report->faults.empty())
        return kInput;
    for (const book::Moved& m : book::movedFigures(QString::fromStdString(path)))
        std::cerr << "note: " << m.sentence() << "\n";
    std::cout << path << ": whole; " << report->banks << " banks, " << report->runs << " runs, " << report->samples
              << " samples\n";
    return finish(kDone);
}

namespace {

// Those of a bank's runs that can be told. What is not at hand is worked out for all at once: each run is then looked
// at once, though its neighbours need it, too.
// With those that were not worked out yet.
void completeFindings(book::Book& book, const records::Bank& bank, std::size_t runs,
                      std::map<records::Id, kinds::Finding>& found) {
    if (found.size() == runs)
        return;
    std::vector<book::FreshFinding> fresh;
    if (const auto all = terminal::busyWith(terminal::kJudging,
                                            [&] { return book::gatherEvidence(book.path(), {bank.id}, &fresh); }))
        book::remember(book, fresh);
    for (book::FreshFinding& run : fresh)
        found.insert_or_assign(run.run, std::move(run.worked.finding));
}

// A book of which much has never been worked out: all of it by all cores, and in one write.
void workOutWhatIsNew(book::Book& book) {
    const auto banks = book.banksWithoutFindings();
    std::vector<book::FreshFinding> fresh;
    if (!book.readOnly() && banks.size() > 1 &&
        terminal::busyWith(terminal::kJudging, [&] { return book::gatherEvidence(book.path(), banks, &fresh); }))
        book::remember(book, fresh);
}

} // namespace

int findings(const std::string& path, bool asJson) {
    auto book = book::Book::open(QString::fromStdString(path));
    if (!book)
        return complain(book.error());
    for (const std::string& mended : (*book)->mended())
        std::cerr << "note: " << mended << ".\n";
    for (const std::string& record : (*book)->unreadable())
        std::cerr << "note: left out, as it cannot be read: " << record << "\n";
    workOutWhatIsNew(**book);
    nlohmann::json all = nlohmann::json::array();
    const std::string house = setup::inWords((*book)->schools());
    if (!asJson)
        std::cout << house << "\n";
    (*book)->eachBanksFindings([&](const records::Bank& bank, const std::vector<records::Run>& runs,
                                   std::map<records::Id, kinds::Finding> found) {
        if (!asJson)
            std::cout << bank.name << "\n";
        completeFindings(**book, bank, runs.size(), found);
        for (const records::Run& run : runs) {
            const auto at = found.find(run.id);
            const auto finding =
                at == found.end() ? (*book)->finding(run.id) : Result<kinds::Finding>(std::move(at->second));
            const std::string sentence = finding ? finding->sentence : finding.error().sentence();
            if (!asJson) {
                std::cout << "  " << records::kindKey(run.kind) << ", " << run.title << ": " << sentence << "\n";
                for (const kinds::Question& q : finding ? finding->ends.questions : std::vector<kinds::Question>{})
                    std::cout << "    asks: " << q.sentence << " (answer " << path << " --run " << run.id << " "
                              << q.key << "=…)\n";
                continue;
            }
            nlohmann::json j = finding ? kinds::toContract(*finding) : nlohmann::json{{"problem", sentence}};
            j["bank"] = bank.name;
            j["title"] = run.title;
            all.push_back(j);
        }
    });
    return asJson ? print({{"house", house}, {"runs", all}}) : finish(kDone);
}

} // namespace otterstone::cli
