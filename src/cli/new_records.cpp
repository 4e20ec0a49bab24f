// What a book begins with: itself, its banks, its gear.
#include <algorithm>
#include <cmath>
#include <iostream>

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

#include "book/store/book.h"
#include "book/store/json_records.h"
#include "cli/bench_options.h"
#include "cli/commands.h"
#include "cli/label_options.h"
#include "cli/named.h"
#include "cli/options.h"
#include "core/path/cable.h"
#include "core/path/meter.h"
#include "core/quantity/say.h"
#include "core/records/money.h"
#include "core/records/tags.h"
#include "core/trace/clock.h"

namespace otterstone::cli {

namespace {

using records::Gear;
using records::GearKind;

struct NewBank {
    std::string book, name, like, notes, tags;
    LabelOptions label;
    bool json = false;
};

struct NewGear {
    std::string book, kind, name, notes, price;
    std::vector<std::string> typed; ///< by kFields
    std::vector<std::string> tiers;
    bool marked = false, json = false;
};

int told(const char* what, records::Id id, const std::string& name, bool asJson) {
    if (asJson)
        return print({{what, id}, {"name", name}});
    std::cout << what << " " << id << ": " << name << "\n";
    return finish(kDone);
}

int makeBook(const std::string& path) {
    auto made = book::Book::create(QString::fromStdString(path));
    if (!made)
        return complain(made.error());
    std::cout << path << ": an empty book\n";
    return finish(kDone);
}

// The label as it was given, over that of the bank it is like: what nobody said is not in its JSON.
label::Label over(const label::Label& base, const label::Label& given) {
    nlohmann::json all = book::labelJson(base), over = book::labelJson(given);
    if (given.ports.empty())
        over.erase("ports");
    all.merge_patch(over);
    return book::labelFromJson(all);
}

int addBank(const NewBank& o) {
    return guard([&] {
        const label::Label given = orWrong(labelFrom(o.label));
        auto opened = book::Book::open(QString::fromStdString(o.book));
        if (!opened)
            return complain(opened.error());
        const auto banks = (*opened)->banks();
        if (std::any_of(banks.begin(), banks.end(), [&](const records::Bank& b) { return b.name == o.name; }))
            return complain({"bank_exists", o.book, say("there is a bank “{}” in this book.", o.name),
                             "Name this one apart; --like takes the other's label."});
        records::Bank bank;
        if (!o.like.empty()) {
            const records::Bank* like = named(banks, o.like);
            if (!like)
                return complain(noBank(o.book, o.like));
            bank.label = like->label;
            bank.past.specimenOf = like->id;
        }
        bank.name = o.name;
        bank.notes = o.notes;
        bank.tags = records::parseTags(o.tags);
        bank.label = over(bank.label, given);
        const auto id = (*opened)->save(bank);
        return id ? told("bank", *id, bank.name, o.json) : complain(id.error(), kOutput);
    });
}

Stated stated(const std::string& text, const char* option, double factor = 1.0) {
    std::string plain = text;
    std::erase(plain, '%');
    const Measured m = orWrong(parseMeasured(plain, option, ErrorSource::ofBench("", "entered")));
    if (!(m.value() > 0.0))
        throw Wrong{{"not_positive", option, "must be greater than 0.", ""}};
    return Stated::of(m * Measured(factor));
}

struct Field {
    const char* option;
    const char* words;
    std::initializer_list<GearKind> kinds; ///< that have it
    void (*set)(Gear& gear, const std::string& text, const char* option);
};

template<auto Member>
void setNumber(Gear& g, const std::string& text, const char* option) {
    g.*Member = positive(text, option);
}
template<auto Member>
void setStated(Gear& g, const std::string& text, const char* option) {
    g.*Member = stated(text, option);
}
template<auto Member>
void setWords(Gear& g, const std::string& text, const char*) {
    g.*Member = text;
}

const Field kFields[] = {
    {"--accuracy",
     "e.g. \"volts 0.05%+2mV, amps 0.1%+3mA, clock 50ppm\"",
     {GearKind::Meter, GearKind::Load},
     [](Gear& g, const std::string& text, const char* option) {
         g.meter = orWrong(path::parseMeter(text, option));
         g.meter.name = g.name;
     }},
    {"--clock-factor",
     "true time ÷ its own, e.g. 1.06±0.001, or both: \"1h / 56m36s\"",
     {GearKind::Meter, GearKind::Load},
     [](Gear& g, const std::string& text, const char* option) {
         g.clock = Stated::of(orWrong(trace::parseClockFactor(text, option, ErrorSource::ofBench("", "entered"))));
         if (text.find('/') != std::string::npos)
             g.clockComparison = text;
     }},
    {"--ohms", "loop resistance, e.g. 0.085±0.01", {GearKind::Cable}, setStated<&Gear::ohms>},
    {"--metres", "length, m", {GearKind::Cable}, setNumber<&Gear::metres>},
    {"--awg",
     "gauge of its power wires",
     {GearKind::Cable},
     [](Gear& g, const std::string& text, const char* option) {
         const double awg = number(text, option, Expect::WholeNumber);
         if (awg < 10.0 || awg > 40.0 || awg != std::floor(awg))
             throw Wrong{{"bad_gauge", option, "a cable's gauge is a whole number from 10 to 40.", ""}};
         g.awg = static_cast<int>(awg);
     }},
    {"--ends", "e.g. \"C to A\"", {GearKind::Cable}, setWords<&Gear::ends>},
    {"--watts",
     "the most it gives or takes; of a device what it burns in use, W",
     {GearKind::Charger, GearKind::Load, GearKind::Device},
     setNumber<&Gear::watts>},
    {"--efficiency",
     "wall to socket, or into its battery, %",
     {GearKind::Charger, GearKind::Device},
     [](Gear& g, const std::string& text, const char* option) {
         g.efficiency = stated(text, option, 0.01);
         if (g.efficiency->value > 1.0)
             throw Wrong{{"out_of_range", option, "more than 100 % cannot be.", ""}};
     }},
    {"--modes", "e.g. \"CC CP CR\"", {GearKind::Load}, setWords<&Gear::modes>},
    {"--max-volts", "the most it takes, V", {GearKind::Load}, setNumber<&Gear::maxVolts>},
    {"--max-amps", "the most it takes, A", {GearKind::Load}, setNumber<&Gear::maxAmps>},
    {"--kelvin", "± of its temperature, K", {GearKind::Thermometer}, setNumber<&Gear::kelvin>},
    {"--battery-wh", "its battery, e.g. 26.4±0.5 Wh", {GearKind::Device}, setStated<&Gear::battery>},
};

Problem notOfThis(GearKind kind, const std::string& option, std::initializer_list<GearKind> kinds) {
    std::string have;
    for (const GearKind k : kinds)
        have += (have.empty() ? "" : ", ") + records::gearKey(k);
    return {"not_of_this_gear", option, say("a {} has no such figure.", records::gearKey(kind)),
            say("It is of: {}.", have)};
}

int addGear(const NewGear& o) {
    return guard([&] {
        const auto kind = records::gearFromKey(o.kind);
        if (!kind) {
            std::string all;
            for (const GearKind k : records::gearKinds())
                all += (all.empty() ? "" : ", ") + records::gearKey(k);
            throw Wrong{{"bad_option", "--kind", say("“{}” is no kind of gear.", o.kind), say("Give one of {}.", all)}};
        }
        Gear g;
        g.kind = *kind;
        g.name = o.name;
        g.notes = o.notes;
        if (const auto money = orWrong(records::parseMoney(o.price, "--price"))) {
            g.price = money->amount;
            g.currency = money->currency;
        }
        for (std::size_t k = 0; k < std::size(kFields); ++k) {
            const Field& f = kFields[k];
            if (o.typed[k].empty())
                continue;
            if (std::find(f.kinds.begin(), f.kinds.end(), *kind) == f.kinds.end())
                throw Wrong{notOfThis(*kind, f.option, f.kinds)};
            f.set(g, o.typed[k], f.option);
        }
        if (!o.tiers.empty() && *kind != GearKind::Charger && *kind != GearKind::Trigger)
            throw Wrong{notOfThis(*kind, "--tier", {GearKind::Charger, GearKind::Trigger})};
        for (const std::string& text : o.tiers) {
            for (const label::Tier& t : orWrong(label::parseTiers(text, "--tier")))
                g.tiers.push_back(t);
        }
        if (o.marked && *kind != GearKind::Cable)
            throw Wrong{notOfThis(*kind, "--marked", {GearKind::Cable})};
        g.marked = o.marked;
        auto opened = book::Book::open(QString::fromStdString(o.book));
        if (!opened)
            return complain(opened.error());
        const auto all = (*opened)->gear();
        if (std::any_of(all.begin(), all.end(), [&](const Gear& other) { return other.name == g.name; }))
            return complain({"gear_exists", o.book, say("there is a piece of gear “{}” in this book.", g.name),
                             "Name this one apart: findings tell their doubts by it."});
        const auto id = (*opened)->save(g);
        return id ? told("gear", *id, g.name, o.json) : complain(id.error(), kOutput);
    });
}

} // namespace

void addNewCommands(CLI::App& app, int& code) {
    static std::string path;
    auto* made = app.add_subcommand("new", "Make an empty book");
    made->add_option("book", path, "the book to make")->required();
    made->callback([&code] { code = makeBook(path); });

    static NewBank b;
    auto* bank = app.add_subcommand("add-bank", "Put a bank with its label into a book");
    bank->add_option("book", b.book, "the book")->required();
    bank->add_option("--name", b.name, "what it is called")->required();
    bank->add_option("--like", b.like, "another piece of the same model: its label is taken");
    bank->add_option("--notes", b.notes, "whatever is worth remembering");
    bank->add_option("--tags", b.tags, "words by which it is grouped, e.g. \"loan; cabin\"");
    addLabelOptions(*bank, b.label, false);
    bank->add_flag("--json", b.json, "print one JSON object");
    bank->callback([&code] { code = addBank(b); });

    static NewGear g;
    g.typed.resize(std::size(kFields));
    auto* gear = app.add_subcommand("add-gear", "Put a charger, cable, meter, load, trigger, thermometer or device "
                                                "into a book");
    gear->add_option("book", g.book, "the book")->required();
    gear->add_option("--kind", g.kind, "charger, cable, meter, load, trigger, thermometer or device")->required();
    gear->add_option("--name", g.name, "what it is called")->required();
    for (std::size_t k = 0; k < std::size(kFields); ++k)
        gear->add_option(kFields[k].option, g.typed[k], kFields[k].words);
    gear->add_option("--tier", g.tiers, "what a charger offers or a trigger can ask for, e.g. 9Vx2A");
    gear->add_flag("--marked", g.marked, "a cable that carries an electronic marker");
    gear->add_option("--price", g.price, "what it cost, e.g. \"14 EUR\"");
    gear->add_option("--notes", g.notes, "whatever is worth remembering");
    gear->add_flag("--json", g.json, "print one JSON object");
    gear->callback([&code] { code = addGear(g); });
}

} // namespace otterstone::cli
