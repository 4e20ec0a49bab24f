#include "core/setup/prices.h"

#include <algorithm>

#include "core/quantity/date.h"
#include "core/quantity/format.h"
#include "core/quantity/json_fields.h"
#include "core/quantity/json_text.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::setup {

namespace {

constexpr const char* kFormat = "otterstone-prices";
constexpr const char* kDigits = "0123456789";
constexpr const char* kMend = "Write it like USD 0.92, or USD 0.92 on 2026-11-20.";
constexpr double kMostWorth = 1e9;
constexpr std::size_t kLongestCurrency = 24;

bool same(std::string_view a, std::string_view b) { return lowered(a) == lowered(b); }

// "USD 0.92 on 2026-11-20", "1 USD = 0.92 EUR" where the house reckons in EUR.
Result<Rate> parseRate(std::string_view whole, std::string_view place, std::string_view house) {
    const auto wrong = [&](const std::string& what) { return problem("bad_rate", std::string(place), what, kMend); };
    const std::string quoted = "“" + std::string(whole) + "”";
    Rate rate;
    std::string_view text = whole;
    if (const std::size_t on = text.rfind(" on "); on != std::string_view::npos) {
        const std::string_view day = trimmed(text.substr(on + 4));
        if (!isDay(day))
            return wrong(say("“{}” is no day that the calendar has.", day));
        rate.on = day;
        text = trimmed(text.substr(0, on));
    }
    if (text.starts_with("1 "))
        text = trimmed(text.substr(2));
    const std::size_t first = text.find_first_of("+-0123456789"), last = text.find_last_of(kDigits);
    if (first == std::string_view::npos || last == std::string_view::npos || last < first)
        return wrong(say("{} does not say what one is worth.", quoted));
    std::string_view named = trimmed(text.substr(0, first));
    if (named.ends_with('='))
        named = trimmed(named.substr(0, named.size() - 1));
    const auto worth = parseNumber(text.substr(first, last + 1 - first), place);
    if (!worth)
        return tl::unexpected(worth.error());
    const std::string_view in = trimmed(text.substr(last + 1));
    if (!in.empty() && !same(in, house))
        return wrong(house.empty() ? say("{} is in a currency, and the house has none yet.", quoted)
                                   : say("{} is not in {}, the house's currency.", quoted, house));
    if (!(*worth > 0.0) || *worth > kMostWorth)
        return wrong(say("{} cannot be: a rate is a number above 0.", quoted));
    const auto currency = parseCurrency(named, place);
    if (!currency)
        return tl::unexpected(currency.error());
    if (currency->empty())
        return wrong(say("{} does not say of which currency.", quoted));
    if (same(*currency, house))
        return wrong(say("{} is the house's own currency: one of it is worth one.", *currency));
    rate.currency = *currency;
    rate.worth = *worth;
    return rate;
}

Result<std::vector<Rate>> readRates(std::string_view text, std::string_view place, std::string_view house) {
    std::vector<Rate> rates;
    for (std::size_t from = 0; from <= text.size();) {
        const std::size_t to = std::min(text.find(';', from), text.size());
        if (const auto piece = trimmed(text.substr(from, to - from)); !piece.empty()) {
            auto rate = parseRate(piece, place, house);
            if (!rate)
                return tl::unexpected(rate.error());
            if (std::ranges::any_of(rates, [&](const Rate& r) { return same(r.currency, rate->currency); }))
                return problem("bad_rate", std::string(place), say("{} stands there twice.", rate->currency),
                               "Keep one of them.");
            rates.push_back(std::move(*rate));
        }
        from = to + 1;
    }
    return rates;
}

} // namespace

std::optional<Price> Prices::inHouse(double amount, const std::string& own) const {
    const std::string plain = showNumber(amount, 7) + (own.empty() ? "" : " " + own);
    if (currency.empty() || same(own, currency))
        return Price{amount, currency.empty() ? own : currency, plain, {}};
    const auto rate = std::ranges::find_if(rates, [&](const Rate& r) { return same(r.currency, own); });
    if (rate == rates.end())
        return std::nullopt;
    const std::string per = say("{} {} for 1 {}", showNumber(rate->worth, 7), currency, own);
    return Price{amount * rate->worth, currency, say("{} × {}", plain, per),
                 rate->on.empty() ? say("at {}", per) : say("at {}, as of {}", per, rate->on)};
}

Price Prices::asFarAsKnown(double amount, const std::string& own) const {
    return inHouse(amount, own).value_or(Price{amount, own, {}, {}});
}

bool Prices::ratesHoldIn(std::string_view other) const { return rates.empty() || same(trimmed(other), currency); }

Result<std::string> parseCurrency(std::string_view given, std::string_view place) {
    const std::string_view text = trimmed(given);
    const bool odd = std::ranges::any_of(text, [](char c) {
        return static_cast<unsigned char>(c) < ' ' ||
               std::string_view("0123456789;=+-").find(c) != std::string_view::npos;
    });
    if (odd || text.size() > kLongestCurrency)
        return problem("bad_currency", std::string(place), say("“{}” is no currency.", text),
                       "Write its code, sign or name: EUR, €, crowns.");
    return std::string(text);
}

Result<Prices> parsePrices(std::string_view currency, std::string_view rates, std::string_view place) {
    const auto house = parseCurrency(currency, place);
    if (!house)
        return tl::unexpected(house.error());
    auto all = readRates(rates, place, *house);
    if (!all)
        return tl::unexpected(all.error());
    if (house->empty() && !all->empty())
        return problem("bad_rate", std::string(place), "rates are told, and no currency that they are in.",
                       "Say in which currency the house reckons.");
    return Prices{*house, std::move(*all)};
}

std::string showRates(const std::vector<Rate>& rates) {
    std::string text;
    for (const Rate& r : rates)
        text += (text.empty() ? "" : "; ") + r.currency + " " + showNumber(r.worth, 9) +
                (r.on.empty() ? "" : " on " + r.on);
    return text;
}

Result<Prices> pricesFromText(const std::string& json, const std::string& place) {
    if (json.empty())
        return Prices();
    const auto all = parseObject(json, place, kFormat);
    if (!all)
        return tl::unexpected(all.error());
    std::optional<Problem> wrong;
    Fields f(*all, place + ": ", wrong);
    (void)f.text("format");
    (void)f.number("version", 1, 1);
    const std::string currency = f.text("currency", "");
    const std::string rates = f.text("rates", "");
    f.finish();
    if (wrong)
        return tl::unexpected(*wrong);
    return parsePrices(currency, rates, place);
}

std::string pricesToText(const Prices& p) {
    if (p == Prices())
        return {};
    return jsonText({{"format", kFormat}, {"version", 1}, {"currency", p.currency}, {"rates", showRates(p.rates)}});
}

} // namespace otterstone::setup
