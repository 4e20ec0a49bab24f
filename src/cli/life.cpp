// The subcommand about the life of a bank: how it came, its rests, what it counts itself, its wear, its specimens.
#include <iostream>

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

#include "book/store/book.h"
#include "book/store/together.h"
#include "cli/commands.h"
#include "cli/named.h"
#include "cli/options.h"
#include "core/kinds/traced/json.h"
#include "core/quantity/date.h"

namespace otterstone::cli {

namespace {

using nlohmann::json;

struct LifeOptions {
    bool json = false;
    std::string book, bank;
    std::optional<std::string> came, counts, specimenOf, model, boughtAt, paid, ordered, contents, markings;
    [[nodiscard]] bool writes() const {
        return came || counts || specimenOf || model || boughtAt || paid || ordered || contents || markings;
    }
};

json stateJson(const std::optional<kinds::KnownState>& s) {
    return s ? json{{"low", s->state.low}, {"high", s->state.high}, {"from", kinds::fromKey(s->from)}} : json(nullptr);
}

json lifeJson(const together::BankFindings& b) {
    json runs = json::array(), beside = json::array();
    for (const life::Passage& p : b.life.passages)
        runs.push_back({{"run", p.run},
                        {"title", p.title},
                        {"kind", records::kindKey(p.kind)},
                        {"started_at", p.startedAt},
                        {"began", stateJson(p.began)},
                        {"ended", stateJson(p.ended)},
                        {"rest_before_days", p.restDays ? json(*p.restDays) : json(nullptr)},
                        {"joined", p.joined},
                        {"asks", p.asks}});
    for (const life::SideBySide& s : b.specimens) {
        json figures = json::array();
        for (const Working& w : s.figures)
            figures.push_back(shownJson(w));
        beside.push_back({{"bank", s.bank}, {"name", s.name}, {"sentence", s.sentence}, {"figures", figures}});
    }
    json figures = json::array();
    for (const Working& w : b.life.figures)
        figures.push_back(shownJson(w));
    return {{"sentences", b.life.sentences}, {"figures", figures}, {"runs", runs}, {"specimens", beside}};
}

std::string stateOr(const std::optional<kinds::KnownState>& s) {
    return !s ? "?" : typedState(s->state) + (s->from == kinds::StateFrom::Taken ? " (taken so)" : "");
}

void printLife(const together::BankFindings& b) {
    for (const life::Passage& p : b.life.passages) {
        if (p.restDays && *p.restDays >= 1.0)
            std::cout << "\t" << spanWords(*p.restDays) << " of rest\n";
        std::cout << (p.startedAt.empty() ? "undated" : dayOf(p.startedAt)) << "\t" << p.title;
        if (!p.silent)
            std::cout << ": " << stateOr(p.began) << " to " << stateOr(p.ended);
        if (!records::hasSheet(p.kind))
            std::cout << ", " << showValue(p.wattHours, Unit::WattHour) << (p.fills ? " in" : " out")
                      << (p.asks > 0 ? ", asks" : "");
        std::cout << "\n";
    }
    for (const std::string& s : b.life.sentences)
        std::cout << s << "\n";
    for (const life::SideBySide& s : b.specimens)
        std::cout << s.sentence << "\n";
}

int write(book::Book& book, records::Bank bank, const LifeOptions& o) {
    if (o.came)
        orWrong(parseCame(*o.came, "--came", bank.past));
    if (o.counts)
        bank.past.counts = orWrong(records::parseCounts(*o.counts, "--counts"));
    records::Bought& bought = bank.past.bought;
    if (o.model)
        bought.model = *o.model;
    if (o.boughtAt)
        bought.where = *o.boughtAt;
    if (o.paid)
        orWrong(records::parsePaid(*o.paid, "--paid", bought));
    if (o.ordered)
        bought.orderedOn = orWrong(records::parseDay(*o.ordered, "--ordered"));
    if (o.contents)
        bought.contents = orWrong(records::parseContents(*o.contents, "--contents"));
    if (o.markings)
        bought.markings = *o.markings;
    if (o.specimenOf) {
        const auto banks = book.banks();
        const records::Bank* other = named(banks, *o.specimenOf);
        if (!o.specimenOf->empty() && !other)
            return complain(noBank(o.book, *o.specimenOf));
        if (other && other->id == bank.id)
            throw Wrong{{"bad_option", "--specimen-of", "a bank is no other piece of itself.", ""}};
        bank.past.specimenOf = other ? std::optional(other->id) : std::nullopt;
    }
    const auto saved = book.save(bank);
    return saved ? kDone : complain(saved.error(), kOutput);
}

int life(const LifeOptions& o) {
    return guard([&] {
        const QString path = QString::fromStdString(o.book);
        records::Id id = records::kNew;
        {
            auto opened = o.writes() ? book::Book::open(path) : book::Book::openToRead(path);
            if (!opened)
                return complain(opened.error());
            const auto banks = (*opened)->banks();
            const records::Bank* bank = named(banks, o.bank);
            if (!bank)
                return complain(noBank(o.book, o.bank));
            id = bank->id;
            if (o.writes()) {
                if (const int code = write(**opened, *bank, o); code != kDone)
                    return code;
            }
        }
        const auto together = book::workOutTogether(path, id);
        if (!together)
            return complain(together.error());
        if (o.json)
            return print(lifeJson(*together));
        printLife(*together);
        return finish(kDone);
    });
}

} // namespace

void addLifeCommand(CLI::App& app, int& code) {
    static LifeOptions o;
    auto* sub = app.add_subcommand("life", "The life of a bank: charge from run to run, rests, its own counts, wear");
    sub->add_option("book", o.book, "the book")->required();
    sub->add_option("--bank", o.bank, "the bank, by name or number")->required();
    sub->add_option("--came", o.came, "write down how it came, e.g. \"2026-04-02 at 58 %\"; \"\" takes it back");
    sub->add_option("--counts", o.counts,
                    "write down what it counts itself, e.g. \"2026-04-02: 312 Wh out, 41 cycles, health 98 %\"");
    sub->add_option("--specimen-of", o.specimenOf, "write down of which bank it is another piece; \"\" takes it back");
    sub->add_option("--model", o.model, "write down its model number");
    sub->add_option("--bought-at", o.boughtAt, "write down the shop");
    sub->add_option("--paid", o.paid, "write down what was paid, e.g. \"54.90 EUR\"");
    sub->add_option("--ordered", o.ordered, "write down the day it was ordered, e.g. 2026-03-28");
    sub->add_option("--contents", o.contents,
                    "write down what was in the box, e.g. \"C cable 28 g; bag 12 g; leaflet\"");
    sub->add_option("--markings", o.markings, "write down what is embossed, e.g. \"CE, UN 38.3\"");
    sub->add_flag("--json", o.json, "print one JSON object");
    sub->callback([&code] { code = life(o); });
}

} // namespace otterstone::cli
