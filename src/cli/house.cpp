// otterstone-cli house: what the house of a book follows where testers disagree, and what it reckons prices in; shows
// it, and changes it.
#include <algorithm>
#include <iostream>
#include <optional>

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

#include "book/store/book.h"
#include "cli/bench_options.h"
#include "cli/commands.h"
#include "cli/options.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"
#include "core/setup/prices.h"

namespace otterstone::cli {

namespace {

using nlohmann::json;

struct HouseOptions {
    bool json = false;
    std::string book;
    std::vector<std::string> schools;
    std::optional<std::string> currency, rates;
    [[nodiscard]] bool writes() const { return !schools.empty() || currency || rates; }
};

// "full_when=gauge_says", "full_share=0.05".
void choose(setup::Schools& schools, const std::string& typed) {
    const std::size_t equals = typed.find('=');
    const std::string key = typed.substr(0, equals),
                      answer = equals == std::string::npos ? "" : typed.substr(equals + 1);
    const auto* figure = std::ranges::find(setup::kSchoolFigures, key, &setup::SchoolFigure::key);
    if (figure != std::end(setup::kSchoolFigures)) {
        const double value = number(answer, "--school");
        if (value < figure->least || value > figure->most)
            throw Wrong{{"out_of_range", "--school",
                         say("{} is a number from {} to {}.", key, showNumber(figure->least), showNumber(figure->most)),
                         ""}};
        schools.*(figure->figure) = value;
    } else if (!setAnswer(schools, key, answer)) {
        const bool known = std::ranges::any_of(setup::questions(), [&](const auto& q) { return q.key == key; });
        std::string all;
        const auto add = [&all](std::string_view word) { all += (all.empty() ? "" : ", ") + std::string(word); };
        if (known) {
            for (const setup::Answer& a : setup::question(key).answers)
                add(a.key);
        } else {
            for (const setup::Question& q : setup::questions())
                add(q.key);
            for (const setup::SchoolFigure& f : setup::kSchoolFigures)
                add(f.key);
        }
        throw Wrong{{"bad_option", "--school", say("“{}” is not understood.", typed),
                     known ? say("Answers are {}.", all) : say("Write QUESTION=ANSWER; questions are {}.", all)}};
    }
}

Result<void> write(book::Book& book, const HouseOptions& o, const setup::Prices& before) {
    setup::Schools schools = book.schools();
    for (const std::string& typed : o.schools)
        choose(schools, typed);
    const std::string currency = o.currency.value_or(before.currency),
                      rates = o.rates.value_or(showRates(before.rates));
    if (!o.rates && !before.ratesHoldIn(currency))
        throw Wrong{{"rates_of_another", "--currency", say("the rates are in {}.", before.currency),
                     "Say them anew with --rates, or take them away with --rates \"\"."}};
    const auto prices = setup::parsePrices(currency, rates, o.rates ? "--rates" : "--currency");
    if (!prices)
        throw Wrong{prices.error()};
    if (!(schools == book.schools())) {
        if (auto done = book.setSchools(schools); !done)
            return done;
    }
    return o.currency || o.rates ? book.setChoice(setup::kPricesKey, pricesToText(*prices)) : Result<void>();
}

// Without prices that can be read: the rest.
int show(const setup::Schools& schools, const setup::Prices* prices, bool asJson) {
    json answers = json::object(), figures = json::object();
    for (const setup::Question& q : setup::questions()) {
        const std::string chosen = answerOf(schools, q.key);
        const auto answer = std::ranges::find(q.answers, chosen, &setup::Answer::key);
        answers[q.key] = chosen;
        if (!asJson)
            std::cout << q.words << ": " << answer->words << "\t" << q.key << "=" << chosen << "\n";
    }
    for (const setup::SchoolFigure& f : setup::kSchoolFigures) {
        figures[std::string(f.key)] = schools.*(f.figure);
        if (!asJson)
            std::cout << f.key << "=" << showNumber(schools.*(f.figure)) << "\n";
    }
    json all{{"schools", answers}, {"figures", figures}};
    if (prices && asJson) {
        all["currency"] = prices->currency;
        all["rates"] = json::array();
        for (const setup::Rate& r : prices->rates)
            all["rates"].push_back(
                {{"currency", r.currency}, {"worth", r.worth}, {"on", r.on.empty() ? json(nullptr) : json(r.on)}});
    } else if (prices) {
        std::cout << (prices->currency.empty() ? "Prices: each in its own currency" : "Prices: in " + prices->currency)
                  << "\n";
        for (const setup::Rate& r : prices->rates)
            std::cout << "1 " << r.currency << " = " << showNumber(r.worth, 9) << " " << prices->currency
                      << (r.on.empty() ? "" : ", as of " + r.on) << "\n";
    }
    return asJson ? cli::print(all) : finish(kDone);
}

int house(const HouseOptions& o) {
    return guard([&] {
        const QString path = QString::fromStdString(o.book);
        auto opened = o.writes() ? book::Book::open(path) : book::Book::openToRead(path);
        if (!opened)
            return complain(opened.error());
        const auto pricesNow = [&] { return setup::pricesFromText((*opened)->choice(setup::kPricesKey), o.book); };
        if (o.writes()) {
            // What cannot be read is replaced where both parts of it are said anew.
            const auto before = pricesNow();
            if (!before && !(o.currency && o.rates))
                return complain(before.error());
            if (const auto done = write(**opened, o, before.value_or(setup::Prices())); !done)
                return complain(done.error(), kOutput);
        }
        const auto prices = pricesNow();
        const int shown = show((*opened)->schools(), prices ? &*prices : nullptr, o.json);
        return prices ? shown : complain(prices.error());
    });
}

} // namespace

void addHouseCommand(CLI::App& app, int& code) {
    static HouseOptions o;
    auto* c =
        app.add_subcommand("house", "What the house follows where testers disagree, and what it reckons prices in");
    c->add_option("book", o.book, "the book")->required();
    c->add_option("--school", o.schools, "choose QUESTION=ANSWER, e.g. full_when=gauge_says, full_share=0.05");
    c->add_option("--currency", o.currency, "reckon prices in this, e.g. EUR; \"\": each price stays in its own");
    c->add_option("--rates", o.rates,
                  "what one of each other currency is worth, e.g. \"USD 0.92; GBP 1.15 on 2026-11-20\"");
    c->add_flag("--json", o.json, "print one JSON object");
    c->callback([&code] { code = house(o); });
}

} // namespace otterstone::cli
