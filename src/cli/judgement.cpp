// choose, use and report: judging what a book holds; claims and observations are in claims.cpp.
#include <algorithm>
#include <filesystem>
#include <iostream>

#include <CLI/CLI.hpp>
#include <QDateTime>
#include <QFileInfo>
#include <QSaveFile>
#include <nlohmann/json.hpp>

#include "book/exchange/bundle.h"
#include "book/store/choices.h"
#include "book/store/material.h"
#include "book/store/together.h"
#include "cli/bench_options.h"
#include "cli/commands.h"
#include "cli/hand_over.h"
#include "cli/judgement_options.h"
#include "core/plan/own_devices.h"
#include "core/quantity/parse.h"
#include "report/writers.h"
#include "terminal/busy.h"

namespace otterstone::cli {

namespace {

using Options = JudgementOptions;

std::string readable(const std::string& path) { return contentsOf(path).value_or(std::string()); }

judgement::Purpose purposeOf(const Options& o, const book::Book& book) {
    if (o.purpose.empty())
        return book::purposeOr(book.choice(book::choice::purpose));
    if (const judgement::Purpose* known = judgement::purposeNamed(o.purpose))
        return *known;
    if (!std::filesystem::exists(o.purpose)) {
        std::string all;
        for (const judgement::Purpose& p : judgement::purposes())
            all += (all.empty() ? "" : ", ") + p.key;
        throw Wrong{{"bad_option", "--purpose", "“" + o.purpose + "” is neither a purpose nor a file.",
                     "Purposes are " + all + "."}};
    }
    return orWrong(judgement::purposeFromJson(readable(o.purpose), o.purpose));
}

// Banks by their names, those of a tag among them.
Options withTagged(Options o) {
    if (o.tags.empty())
        return o;
    const auto book = orWrong(book::Book::openToRead(QString::fromStdString(o.book)));
    const auto banks = book->banks();
    for (const std::string& tag : o.tags) {
        bool any = false;
        for (const records::Bank& b : banks) {
            const bool has = std::any_of(b.tags.begin(), b.tags.end(),
                                         [&](const std::string& t) { return lowered(t) == lowered(tag); });
            any = any || has;
            if (has && std::find(o.banks.begin(), o.banks.end(), b.name) == o.banks.end())
                o.banks.push_back(b.name);
        }
        if (!any)
            throw Wrong{{"no_tag", o.book, "no bank in this book has the tag “" + tag + "”.",
                         "“list BOOK banks” shows them with their tags."}};
    }
    return o;
}

int choose(const Options& o) {
    if (o.figures) {
        for (const judgement::FigureKind& k : judgement::figureKinds())
            std::cout << k.key << ": " << k.words << ", " << k.meant
                      << (symbol(k.unit).empty()
                              ? ""
                              : " [" + (k.unit == Unit::Share ? std::string("fraction") : symbol(k.unit)) + "]")
                      << "\n";
        return finish(kDone);
    }
    if (!o.show.empty()) {
        const judgement::Purpose* p = judgement::purposeNamed(o.show);
        if (!p)
            return complain({"bad_option", "--show", "there is no purpose “" + o.show + "”.", ""}, kUsage);
        std::cout << judgement::purposeToJson(*p) << "\n";
        return finish(kDone);
    }
    if (o.book.empty())
        return complain({"no_book", "choose", "name a book.", ""}, kUsage);
    return withBook(o, o.banks, [&](book::Book& book, const std::vector<records::Id>& ids) {
        const judgement::Purpose purpose = purposeOf(o, book);
        const auto evidence =
            terminal::busyWith(terminal::kJudging, [&] { return book::gatherEvidence(book.path(), ids); });
        if (!evidence)
            return complain(evidence.error());
        const judgement::Comparison comparison = judgement::compare(*evidence);
        const judgement::Ranking ranking =
            terminal::busyWith("Weighing the banks", [&] { return judgement::rank(comparison, purpose); });
        json banks = json::array(), rows = json::array();
        if (!o.json)
            std::cout << ranking.sentence << "\n";
        for (std::size_t k = 0; k < ranking.banks.size(); ++k) {
            const judgement::Ranked& r = ranking.banks[k];
            const Working score = ranking.working(k, comparison, purpose);
            if (!o.json) {
                std::cout << "  " << comparison.banks[r.bank] << ": " << score.shown()
                          << (r.passes() ? ", best with " + judgement::chanceWords(r.chanceBest) : std::string());
                for (const std::string& gate : r.stoppedBy)
                    std::cout << "; does not pass: " << gate;
                for (const std::string& gate : r.notKnown)
                    std::cout << "; not known whether it passes: " << gate;
                std::cout << "\n";
            }
            json parts = json::array();
            for (const judgement::Contributed& part : r.parts)
                parts.push_back({{"figure", part.figure}, {"points", part.points()}, {"unknown", part.unknown}});
            banks.push_back({{"bank", comparison.banks[r.bank]},
                             {"score", shown(score)},
                             {"chance_best", r.chanceBest},
                             {"leads_under_weights", r.leadsUnderWeights},
                             {"passes", r.passes()},
                             {"stopped_by", r.stoppedBy},
                             {"not_known", r.notKnown},
                             {"contributions", parts}});
        }
        for (const judgement::FigureRow& row : comparison.rows) {
            json cells = json::array();
            for (std::size_t k = 0; k < row.cells.size(); ++k) {
                const judgement::Cell& c = row.cells[k];
                cells.push_back({{"bank", comparison.banks[k]},
                                 {"figure", maybe(c.value)},
                                 {"condition", c.condition},
                                 {"unlike", c.unlike}});
            }
            rows.push_back({{"key", row.kind.key}, {"words", row.kind.words}, {"cells", cells}});
        }
        return o.json ? print({{"purpose", purpose.key},
                               {"sentence", ranking.sentence},
                               {"banks", banks},
                               {"figures", rows}})
                      : finish(kDone);
    });
}

int use(const Options& o) {
    return withBook(o, o.banks, [&](book::Book& book, const std::vector<records::Id>& ids) {
        std::vector<plan::Need> needs;
        for (const std::string& typed : o.needs)
            needs.push_back(orWrong(plan::parseNeed(typed, "--need")));
        const auto evidence =
            terminal::busyWith(terminal::kJudging, [&] { return book::gatherEvidence(book.path(), ids); });
        if (!evidence)
            return complain(evidence.error());
        needs = plan::withOwnDevices(std::move(needs), book.gear());
        const plan::UsePlan p = plan::planUse(*evidence, needs, o.days.empty() ? 0.0 : positive(o.days, "--days"));
        json banks = json::array();
        if (!o.json)
            std::cout << p.sentence << "\n";
        for (const plan::BankUse& b : p.banks) {
            json charges = json::array(), inUse = json::array();
            for (const Working& w : b.charges)
                charges.push_back(shown(w));
            for (const plan::Balance& x : b.inUse)
                inUse.push_back({{"device", x.device},
                                 {"what", kinds::inUseWords(x.balance.what)},
                                 {"net_watts", x.balance.netWatts}});
            if (!o.json) {
                std::cout << "  " << b.sentence << "\n";
                for (const Working& w : b.charges)
                    std::cout << "    " << w.label << ": " << w.shown() << "\n";
            }
            banks.push_back({{"bank", b.bank},
                             {"sentence", b.sentence},
                             {"lasts_s", maybe(b.days)},
                             {"cannot", b.cannot},
                             {"lasts_devices_empty_s", maybe(b.daysEmpty)},
                             {"verdict", judgement::verdictKey(b.suffices)},
                             {"recharges", b.recharges},
                             {"recharge_on_day", b.rechargeOnDay},
                             {"charges", charges},
                             {"in_use", inUse}});
        }
        json warnings = json::array();
        for (const Warning& w : p.warnings) {
            std::cerr << w.text << "\n";
            warnings.push_back({{"code", w.code}, {"text", w.text}});
        }
        return o.json ? print({{"sentence", p.sentence},
                               {"wh_per_day", p.wattHoursPerDay},
                               {"take", p.smallestSet},
                               {"take_is_sure", p.setIsSure},
                               {"banks", banks},
                               {"warnings", warnings}})
                      : finish(kDone);
    });
}

// HTML and PDF are drawn, by a program of their own, so that this one needs no library that draws.
int drawn(const Options& o) {
    std::vector<std::string> arguments{o.book, o.out};
    for (const std::string& bank : o.banks)
        arguments.insert(arguments.end(), {"--bank", bank});
    if (!o.purpose.empty())
        arguments.insert(arguments.end(), {"--purpose", o.purpose});
    if (o.publish)
        arguments.emplace_back("--publish");
    if (o.bundle)
        arguments.emplace_back("--bundle");
    return handOver("otterstone-report", std::move(arguments), "the program that draws HTML and PDF sheets",
                    "Install Otterstone whole, or write .md, .csv or .json.");
}

int report(const Options& o) {
    const std::string ending = std::filesystem::path(o.out).extension().string();
    if (ending == ".html" || ending == ".pdf")
        return drawn(o);
    if (ending != ".md" && ending != ".csv" && ending != ".json")
        return complain(
            {"bad_option", "--out", "a sheet is written as .html, .pdf, .md, .csv or .json.", "Name the file so."},
            kUsage);
    return withBook(o, o.banks, [&](book::Book& book, const std::vector<records::Id>& ids) {
        auto material = terminal::busyWith(terminal::kJudging, [&] {
            return book::gatherMaterial(book.path(), ids,
                                        QDateTime::currentDateTime().toString(Qt::ISODate).toStdString());
        });
        if (!material)
            return complain(material.error());
        if (!o.purpose.empty())
            material->purpose = purposeOf(o, book);
        const report::Content content = report::makeContent(*material);
        const std::string text = ending == ".md"    ? report::toMarkdown(content)
                                 : ending == ".csv" ? report::toCsv(content)
                                                    : report::toJson(content);
        QSaveFile file(QString::fromStdString(o.out));
        if (!file.open(QIODevice::WriteOnly) || file.write(text.data(), static_cast<qint64>(text.size())) < 0 ||
            !file.commit())
            return complain({"cannot_write", o.out, "the sheet could not be written.",
                             "Check that the folder is there and may be written."},
                            kOutput);
        if (o.bundle) {
            if (auto done = book::exportBundle(book, QString::fromStdString(o.out) + QStringLiteral(".bundle")); !done)
                return complain(done.error(), kOutput);
        }
        if (o.publish) {
            if (auto kept = book::rememberPublished(book, *material, content); !kept)
                return complain(kept.error(), kOutput);
        }
        return finish(kDone);
    });
}

} // namespace

void addJudgementCommands(CLI::App& app, int& code) {
    static Options o;
    const auto book = [&](CLI::App* sub, bool required = true) {
        auto* option = sub->add_option("book", o.book, "the book");
        if (required)
            option->required();
    };
    auto* claimsOf = app.add_subcommand("claims", "Hold a bank's label against what its runs found");
    book(claimsOf);
    claimsOf->add_option("--bank", o.bank, "the bank")->required();
    claimsOf->add_flag("--all", o.all, "list also what is not tested, one by one");
    claimsOf->add_flag("--working", o.working, "print the sums as well");
    claimsOf->add_option("--label-by", o.labelBy,
                         "hold the label's Wh against this, whatever the house chose: cells, came_out, rated_output or "
                         "empty_load");
    claimsOf->add_flag("--json", o.json, "print one JSON object");
    claimsOf->callback([&code] { code = claims(o); });
    auto* seen = app.add_subcommand("observations", "List what was seen of banks, whatever run saw it");
    book(seen);
    seen->add_option("--bank", o.bank, "one bank; without it all of them");
    seen->add_flag("--json", o.json, "print one JSON object");
    seen->callback([&code] { code = observations(o); });

    const auto tagged = [](CLI::App* to) { to->add_option("--tag", o.tags, "those with this tag; may be repeated"); };
    auto* choosing = app.add_subcommand("choose", "Rank banks for a purpose, with the chance that each is the best");
    book(choosing, false);
    choosing->add_option("--bank", o.banks, "only these; all when none is named");
    tagged(choosing);
    choosing->add_option("--purpose", o.purpose, "plane, computer, small, overnight, fast, or a JSON file");
    choosing->add_option("--show", o.show, "print a purpose as JSON, to change it");
    choosing->add_flag("--figures", o.figures, "list the figures that can be weighed");
    choosing->add_flag("--json", o.json, "print one JSON object");
    choosing->callback([&code] { code = guard([] { return choose(withTagged(o)); }); });

    auto* using_ = app.add_subcommand("use", "How long banks keep devices going, and which suffice");
    book(using_);
    using_
        ->add_option("--need", o.needs,
                     "e.g. \"Camera 2 W 8 h\" or \"Tablet 26.4 Wh 1x\"; add \"empty\" if it starts so")
        ->required();
    using_->add_option("--days", o.days, "how long it is to last");
    using_->add_option("--bank", o.banks, "only these; all when none is named");
    tagged(using_);
    using_->add_flag("--json", o.json, "print one JSON object");
    using_->callback([&code] { code = guard([] { return use(withTagged(o)); }); });

    auto* reporting = app.add_subcommand("report", "Write the sheet of a bank, or of all banks compared");
    book(reporting);
    reporting->add_option("--bank", o.banks, "one: its sheet; several or none: the comparison");
    tagged(reporting);
    reporting->add_option("--out", o.out, "FILE.html, .pdf, .md, .csv or .json")->required();
    reporting->add_option("--purpose", o.purpose, "of a comparison: a purpose's name or JSON file");
    reporting->add_flag("--bundle", o.bundle, "put the book's raw bundle beside it, in FILE.bundle");
    reporting->add_flag("--publish", o.publish, "remember it in the book, so that the next sheet says what changed");
    reporting->callback([&code] { code = guard([] { return report(withTagged(o)); }); });
}

} // namespace otterstone::cli
