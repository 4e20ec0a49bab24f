#include "core/judgement/figures.h"

#include <algorithm>
#include <cmath>

#include "core/evidence/observe.h"
#include "core/judgement/figure_keys.h"
#include "core/judgement/hold_parts.h"
#include "core/kinds/observation.h"
#include "core/kinds/parts.h"
#include "core/label/rating.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::judgement {

namespace {

using kinds::figure;
using kinds::Observation;
using kinds::RunEntry;
using kinds::What;
using records::Kind;

constexpr double kGentleLow = 3.5, kGentleHigh = 7.5; // W: 1 A at 5 V, and what passes for it
constexpr double kNearFull = 0.60;                    // of the best tier's watts

Cell cellOf(Working w, std::string key, std::string condition, long long run, std::string conditionClass = {}) {
    const FigureKind& kind = *figureKind(key);
    w.key = std::move(key);
    w.label = kind.words;
    w.unit = kind.unit;
    w.question.clear();
    w.others.clear();
    Cell c;
    c.value = withAssumedAccuracy(std::move(w));
    c.condition = std::move(condition);
    c.conditionClass = std::move(conditionClass);
    c.run = run;
    return c;
}

Cell textCell(const std::string& key, std::string words, std::string code, long long run = 0) {
    Cell c;
    c.value = remark(figureKind(key)->words, std::move(words));
    c.value->key = key;
    c.code = std::move(code);
    c.run = run;
    return c;
}

Working derived(const std::string& label, const Measured& value, std::string formula, std::vector<Working> parts) {
    Working w;
    w.label = label;
    w.value = value;
    w.formula = std::move(formula);
    w.parts = std::move(parts);
    return w;
}

std::string atLoad(const RunEntry& r) {
    return say("{} W at {} V", showNumber(loadOf(r), 3), showNumber(r.finding->plateauVolts, 3));
}

double bestWatts(const label::Label& l, label::Way way) {
    double most = 0.0;
    for (const label::Port& p : l.ports)
        most = std::max(most, label::mostWatts(p, way).value_or(Watts(0.0)).value);
    return most;
}

std::string joined(const std::vector<std::string>& all, const char* by) {
    std::string text;
    for (const std::string& one : all)
        text += (text.empty() ? "" : by) + one;
    return text;
}

class OfBank {
public:
    explicit OfBank(const Evidence& e) : e_(e), seen_(evidence::observe(e)) {}

    std::map<std::string, Cell> all() {
        energy();
        recharge();
        ports();
        devices();
        passThrough();
        condition();
        carrying();
        return std::move(cells_);
    }

private:
    // Of the device that notebooks tell most surely; the condition names it, so that unlike ones are marked.
    void devices() {
        for (const auto& [what, key] : {std::pair(What::DeviceTo80, fig::deviceTo80),
                                        {What::DevicePace, fig::devicePace},
                                        {What::DeviceHeat, fig::deviceHeat},
                                        {What::Charges, fig::deviceCharges}}) {
            const Observation* best = nullptr;
            for (const Observation& o : seen_) {
                if (o.what == what && o.value && o.alone() &&
                    (!best ||
                     o.value->value.u() / o.value->value.value() < best->value->value.u() / best->value->value.value()))
                    best = &o;
            }
            if (!best)
                continue;
            const std::string condition = best->device + (best->note.empty() ? "" : ", " + best->note);
            Cell cell = cellOf(*best->value, key, condition, best->run);
            cell.measure = condition;
            put(key, std::move(cell));
        }
    }
    void energy() {
        std::vector<Sample> gentle;
        const RunEntry* first = nullptr;
        const RunEntry* hard = nullptr;
        for (const RunEntry& r : e_.runs) {
            if (!kinds::wholeDrain(r) || r.settling || r.intoDevice || r.intoBank)
                continue;
            const double load = loadOf(r);
            if (load >= kGentleLow && load <= kGentleHigh && std::fabs(r.finding->plateauVolts - 5.0) < 0.6 &&
                (!first || std::fabs(load / loadOf(*first) - 1.0) < 0.05)) {
                first = first ? first : &r;
                gentle.push_back({*figure(r.finding, key::energyAtPortWh), r.run});
            }
            if (!hard || load > loadOf(*hard))
                hard = &r;
        }
        if (first) {
            const Pooled p = pool(gentle);
            put(fig::usableGentle,
                cellOf(p.working, fig::usableGentle,
                       atLoad(*first) + (gentle.size() > 1 ? say(", mean of {}", std::to_string(gentle.size())) : ""),
                       first->run));
        } else if (e_.together.usable && !e_.together.usable->extrapolates(5.0)) {
            put(fig::usableGentle,
                cellOf(e_.together.usable->energyAt(5.0), fig::usableGentle, say("from the curve, at 5 W"), 0));
        } else if (hard) {
            put(fig::usableGentle, cellOf(*figure(hard->finding, key::energyAtPortWh), fig::usableGentle, atLoad(*hard),
                                          hard->run, say("another load")));
        }
        if (hard && hard != first) {
            const double best = bestWatts(e_.label, label::Way::Out), share = best > 0.0 ? loadOf(*hard) / best : 0.0;
            put(fig::usableNearFull,
                cellOf(*figure(hard->finding, key::energyAtPortWh), fig::usableNearFull,
                       atLoad(*hard) +
                           (share > 0.0 ? say(", {} % of the best tier", showNumber(share * 100.0, 2)) : ""),
                       hard->run, share < kNearFull ? say("below near full") : ""));
        }
        const auto rated = label::ratedEnergy(e_.label);
        if (const Cell& usable = cells_[fig::usableGentle]; usable.known() && rated)
            put(fig::deliveredShare, cellOf(derived("", usable.value->value / Measured(rated->energy.value),
                                                    say("{} ÷ {} Wh", showValue(usable.value->value, Unit::WattHour),
                                                        showNumber(rated->energy.value, 4)),
                                                    {*usable.value}),
                                            fig::deliveredShare, usable.condition, usable.run, usable.conditionClass));
        const together::Pair* trip = nullptr;
        const RunEntry* of = nullptr;
        for (const together::Pair& p : e_.together.pairs) {
            const auto drain =
                std::find_if(e_.runs.begin(), e_.runs.end(), [&](const RunEntry& r) { return r.run == p.drain; });
            if (drain != e_.runs.end() && (!of || loadOf(*drain) < loadOf(*of))) {
                trip = &p;
                of = &*drain;
            }
        }
        if (trip)
            put(fig::roundTrip, cellOf(trip->figures.front(), fig::roundTrip, atLoad(*of), trip->drain,
                                       loadOf(*of) > kGentleHigh ? say("another load") : ""));
    }

    // The fastest complete recharge.
    void recharge() {
        const double takes = label::inputNeeded(e_.label).value_or(Watts(0.0)).value;
        for (const RunEntry& r : e_.runs) {
            if (!kinds::wholeRecharge(r) || r.settling || !r.finding->recharge->stops.empty())
                continue;
            const bool small = r.chargerWatts && takes > 0.0 && *r.chargerWatts < 0.98 * takes;
            const std::string with = r.chargerWatts ? (small ? say("charger of {} W, too small for its {} W",
                                                                   showNumber(*r.chargerWatts, 3), showNumber(takes, 3))
                                                             : say("charger of {} W", showNumber(*r.chargerWatts, 3)))
                                                    : say("charger not stated");
            for (const auto& [key, from, time] :
                 {std::tuple(fig::recharge80, key::timeTo80, r.finding->recharge->timeTo80),
                  std::tuple(fig::recharge100, key::timeTo100, r.finding->recharge->timeTo100)}) {
                const Working* w = figure(r.finding, from);
                if (!w || !time)
                    continue;
                Working mine = *w;
                mine.value = *time;
                Cell c = cellOf(std::move(mine), key, with, r.run,
                                small            ? say("charger too small")
                                : r.chargerWatts ? ""
                                                 : say("charger not stated"));
                const Cell& before = cells_[key];
                if (!before.known() || c.value->value.value() < before.value->value.value())
                    put(key, std::move(c));
            }
        }
    }

    void offerWatts(const char* key, const Observation& o, const std::string& condition) {
        if (cells_[key].known() && o.value->value.value() <= cells_[key].value->value.value())
            return;
        Cell c = cellOf(*o.value, key, condition, o.run);
        c.atLeast = o.limited == kinds::LimitedBy::Nobody;
        put(key, std::move(c));
    }

    // The most that was drawn from one output, and from several at once, whatever run drew it.
    void ports() {
        for (const Observation& o : seen_) {
            const auto tolerance = label::toleranceAt(o.port, o.tierVolts);
            if (o.what == What::Out && (!tolerance || tolerance->holds(*o.volts)))
                offerWatts(fig::wattsAlone, o,
                           (o.port.empty() ? "" : say("{} at ", o.port)) + showNumber(o.tierVolts) + " V, " + o.title);
            if (o.what == What::Together && o.value->value.value() > 0.0)
                offerWatts(fig::wattsShared, o, joined(o.others, " + "));
        }
        if (Cell& most = cells_[fig::wattsAlone]; most.known())
            most.atLeast = !everyOutputIsSpent(most.value->value.value());
        tripMargin();
    }

    // What is asked for it, else what was paid; in the house's currency where the house has one and knows the rate.
    void price(const Cell& usable) {
        const auto amount = e_.label.price ? e_.label.price : e_.bought.paid;
        if (!usable.known() || !amount)
            return;
        const std::string& own = e_.label.price ? e_.label.currency : e_.bought.currency;
        const auto known = e_.prices.inHouse(*amount, own);
        const setup::Price price = known ? *known : *setup::Prices().inHouse(*amount, own);
        std::string condition = usable.condition;
        const auto also = [&condition](const std::string& words) {
            condition += (condition.empty() || words.empty() ? "" : "; ") + words;
        };
        also(e_.label.price ? "" : say("as paid"));
        also(price.exchange);
        const std::string noRate = known         ? ""
                                   : own.empty() ? say("its currency is not said")
                                                 : say("no rate for {} is known", own);
        also(noRate);
        Cell c = cellOf(derived("", Measured(price.amount) / usable.value->value,
                                say("{} ÷ {}", price.formula, showValue(usable.value->value, Unit::WattHour)),
                                {*usable.value}),
                        fig::pricePerWh, condition, usable.run, noRate.empty() ? usable.conditionClass : noRate);
        c.measure = c.behind = price.currency;
        if (!price.currency.empty())
            c.value->note = say("{} per usable Wh", price.currency);
        put(fig::pricePerWh, std::move(c));
    }

    // It gave way at as much, or promises no more: then the most that was drawn is the most there is.
    bool everyOutputIsSpent(double most) const {
        bool any = false;
        for (const label::Port& p : e_.label.ports) {
            if (!p.gives())
                continue;
            any = true;
            const bool gaveWay = std::any_of(seen_.begin(), seen_.end(), [&](const Observation& o) {
                const auto tolerance = label::toleranceAt(o.port, o.tierVolts);
                return o.alone() && o.port == p.name && o.tierVolts * o.amps.value_or(0.0) >= most &&
                       (o.what == What::Trip || (o.what == What::Out && tolerance && !tolerance->holds(*o.volts)));
            });
            const auto promised = label::mostWatts(p, label::Way::Out);
            const bool hasGiven = std::any_of(seen_.begin(), seen_.end(), [&](const Observation& o) {
                return o.what == What::Out && o.port == p.name && o.value->value.value() >= most;
            });
            if (!gaveWay && (hasGiven || !promised || promised->value > most))
                return false;
        }
        return any;
    }

    // Between the last step that held and the first that did not, of the last port that was driven so far.
    void tripMargin() {
        for (const Observation& trip : seen_) {
            const label::Port* port = label::portNamed(e_.label, trip.port);
            const double rated = port ? label::promisedAmps(*port, label::Way::Out, trip.tierVolts).value_or(0.0) : 0.0;
            if (trip.what != What::Trip || !trip.alone() || !(rated > 0.0))
                continue;
            double good = 0.0, bad = *trip.amps;
            for (const Observation& o : seen_) {
                if (o.run != trip.run || !o.alone() || o.port != trip.port ||
                    !label::sameVolts(o.tierVolts, trip.tierVolts))
                    continue;
                if (o.what == What::Trip)
                    bad = std::min(bad, *o.amps);
            }
            for (const Observation& o : seen_) {
                if (o.what == What::Out && o.run == trip.run && o.alone() && o.port == trip.port &&
                    label::sameVolts(o.tierVolts, trip.tierVolts) && *o.amps < bad)
                    good = std::max(good, *o.amps);
            }
            if (!(good > 0.0))
                continue;
            put(fig::tripMargin,
                cellOf(derived("",
                               kinds::between(good / rated - 1.0, bad / rated - 1.0,
                                              ErrorSource::ofRun("", "between two steps")),
                               say("between {} A (held) and {} A (did not), over {} A", showNumber(good, 3),
                                   showNumber(bad, 3), showNumber(rated, 3)),
                               {}),
                       fig::tripMargin, say("{} at {} V", trip.port, showNumber(trip.tierVolts)), trip.run));
        }
    }

    void passThrough() {
        for (const Observation& o : seen_) {
            if (o.what == What::PassThrough)
                put(fig::passThrough, textCell(fig::passThrough, o.words, o.code, o.run)); // the last one counts
        }
    }

    void condition() {
        double most = 0.0;
        for (const RunEntry& r : e_.runs) {
            const Working* warm = figure(r.finding, key::heatAt25C);
            if (warm && r.finding->drain && loadOf(r) > most) {
                most = loadOf(r);
                put(fig::heat25, cellOf(*warm, fig::heat25, atLoad(r), r.run));
            }
            const Working* error = figure(r.finding, key::gaugeError);
            if (error && r.finding->drain &&
                (!cells_[fig::gaugeError].known() ||
                 std::fabs(error->value.value()) > cells_[fig::gaugeError].value->value.value())) {
                Working w = *error;
                w.note += w.value.value() < 0.0   ? say("; it said too little")
                          : w.value.value() > 0.0 ? say("; it said too much")
                                                  : "";
                w.value = Measured(std::fabs(w.value.value()));
                put(fig::gaugeError, cellOf(std::move(w), fig::gaugeError, r.title, r.run));
            }
        }
    }

    void carrying() {
        const label::Label& l = e_.label;
        const auto& usable = cells_[fig::usableGentle];
        std::optional<Measured> grams;
        if (e_.scale.grams)
            grams = e_.scale.grams->measured(ErrorSource::ofBench("", "the scale"));
        else if (l.weightGrams)
            grams = Measured(*l.weightGrams);
        const std::string weighed = e_.scale.grams ? say("on the scale") : say("as printed");
        if (grams)
            put(fig::weight, cellOf(derived("", *grams, weighed, {}), fig::weight, weighed, 0));
        const auto per = [&](const char* key, const Measured& by, const std::string& formula, const std::string& how) {
            put(key,
                cellOf(derived("", usable.value->value / by,
                               showValue(usable.value->value, Unit::WattHour) + " ÷ " + formula, {*usable.value}),
                       key, usable.condition + (how.empty() ? "" : "; " + how), usable.run, usable.conditionClass));
        };
        const auto size = e_.scale.size ? e_.scale.size : l.size;
        if (usable.known() && grams)
            per(fig::whPerKg, *grams / Measured(1000.0), show(*grams, Unit::Gram), e_.scale.grams ? "" : weighed);
        if (usable.known() && size)
            per(fig::whPerLitre, Measured(size->litres()), showNumber(size->litres(), 3) + " L",
                e_.scale.size ? "" : say("size as printed"));
        price(usable);
        if (l.warrantyMonths)
            put(fig::warranty, cellOf(derived("", Measured(*l.warrantyMonths), say("as printed"), {}), fig::warranty,
                                      say("as printed"), 0));
        const auto rated = label::ratedEnergy(l);
        const auto flight = label::flightClass(rated ? std::optional(rated->energy) : std::nullopt);
        static const std::map<std::string, std::string> kWords = {{"carry-on", say("in the cabin")},
                                                                  {"ask-carrier", say("ask the carrier")},
                                                                  {"not-on-board", say("not on board")},
                                                                  {"unknown", say("rating unknown: not allowed")}};
        put(fig::flight, textCell(fig::flight, kWords.at(label::flightKey(flight)), label::flightKey(flight)));
    }

    void put(const std::string& key, Cell c) { cells_[key] = std::move(c); }

    const Evidence& e_;
    std::vector<Observation> seen_;
    std::map<std::string, Cell> cells_;
};

} // namespace

std::map<std::string, Cell> figuresOf(const Evidence& evidence) { return OfBank(evidence).all(); }

} // namespace otterstone::judgement
