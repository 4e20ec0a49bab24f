#include "core/plan/use.h"

#include <algorithm>
#include <cmath>

#include "core/evidence/observe.h"
#include "core/judgement/compare.h"
#include "core/judgement/figure_keys.h"
#include "core/kinds/observation.h"
#include "core/kinds/parts.h"
#include "core/label/label.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::plan {

namespace {

using evidence::Evidence;

constexpr double kArrives = 0.85, kArrivesHalf = 0.10; // of what leaves the port, into a device's battery
constexpr double kChargingWatts = 10.0;                // a small device's charging, where nothing says otherwise
constexpr double kFiveVolts = 5.0;                     // what a thing that names no volts runs at
constexpr std::size_t kMostInSets = 12;
constexpr double kMostListed = 100.0;

Measured arrives(const Need& n) {
    return n.efficiency
               ? n.efficiency->measured(ErrorSource::ofBench(n.name, "charging efficiency"))
               : Measured(kArrives, rectangular(kArrivesHalf), ErrorSource::ofBench(n.name, "charging efficiency"));
}

// The load a need puts on the port.
double loadOf(const Need& n) {
    return n.battery ? std::max(kChargingWatts, 1.5 * n.watts.value_or(0.0)) : n.watts.value_or(kChargingWatts);
}

std::optional<Working> usableAt(const Evidence& e, double watts) {
    if (e.together.usable)
        return e.together.usable->energyAt(watts);
    return e.together.usableFigure;
}

// What a notebook counted of that device from the full bank, the surest of several; it goes before any sum.
const kinds::Observation* countedOf(const std::vector<kinds::Observation>& seen, const Need& n) {
    const kinds::Observation* best = nullptr;
    for (const kinds::Observation& o : seen) {
        if (o.what == kinds::What::Charges && o.value && n.battery && evidence::isOf(o, n.name, n.battery->value) &&
            (!best || o.value->value.u() < best->value->value.u()))
            best = &o;
    }
    return best;
}

std::string daysWords(double days) { return days == 1.0 ? say("1 day") : say("{} days", showNumber(days, 3)); }

struct Draw {
    const Need* need;
    Measured perDay;  // share of the bank
    Measured atStart; // share of the bank that the device's own full battery saves
    double dryAfter;  // days the device's own battery lasts
    Working usable;
};

Working daysOf(const std::vector<Draw>& draws, bool asSaid) {
    // Devices that last longer on their own batteries than the bank and they together do not draw on it yet: leave them
    // out until the set holds.
    std::vector<bool> active(draws.size(), true);
    Measured days(0.0);
    for (std::size_t round = 0; round <= draws.size(); ++round) {
        Measured capacity(1.0), rate(0.0);
        for (std::size_t k = 0; k < draws.size(); ++k) {
            if (!active[k])
                continue;
            rate = rate + draws[k].perDay;
            if (asSaid && draws[k].need->startsFull)
                capacity = capacity + draws[k].atStart;
        }
        if (!(rate.value() > 0.0))
            break;
        days = capacity / rate;
        bool changed = false;
        for (std::size_t k = 0; k < draws.size(); ++k) {
            const bool draws_on = !asSaid || !draws[k].need->startsFull || draws[k].dryAfter < days.value();
            changed = changed || (active[k] && !draws_on);
            active[k] = active[k] && draws_on;
        }
        if (!changed)
            break;
    }
    Working w;
    w.key = asSaid ? "days" : "days_empty";
    w.label = asSaid ? "lasts" : say("lasts, devices empty at the start");
    w.value = days * Measured(86400.0);
    w.unit = Unit::Second;
    w.point = say("bank out");
    std::string capacity = "1", rate;
    for (std::size_t k = 0; k < draws.size(); ++k) {
        const Draw& d = draws[k];
        if (active[k]) {
            rate += (rate.empty() ? "" : " + ") + showValue(d.perDay, Unit::Share);
            if (asSaid && d.need->startsFull && d.need->battery)
                capacity += " + " + showValue(d.atStart, Unit::Share);
        }
        Working part = d.usable;
        const bool counted = d.usable.unit == Unit::None;
        part.label = d.need->name + (counted ? say(": charges from the full bank, by a notebook")
                                             : say(": usable at {} W", showNumber(loadOf(*d.need), 3)));
        part.note = say("{} Wh a day{}: {} of the bank a day{}", showNumber(*wattHoursPerDay(*d.need), 3),
                        (d.need->battery && !counted
                             ? say(" through {} into its battery", showValue(arrives(*d.need), Unit::Share))
                             : ""),
                        showValue(d.perDay, Unit::Share),
                        (active[k] ? "" : say("; its own battery outlasts the rest, so it takes nothing")));
        part.question.clear();
        part.others.clear();
        w.parts.push_back(std::move(part));
    }
    w.formula = say("({}) ÷ ({}) days", capacity, rate);
    if (asSaid &&
        std::any_of(draws.begin(), draws.end(), [](const Draw& d) { return d.need->startsFull && d.need->battery; }))
        w.note = say("until bank and devices are dry; those that start full help with their own batteries");
    return w;
}

std::vector<Left> fallOf(const std::vector<Draw>& draws, double days) {
    std::vector<double> bends{0.0, days};
    for (const Draw& d : draws) {
        if (d.need->startsFull && d.dryAfter > 0.0 && d.dryAfter < days)
            bends.push_back(d.dryAfter);
    }
    std::sort(bends.begin(), bends.end());
    std::vector<Left> fall;
    for (const double day : bends) {
        double taken = 0.0;
        for (const Draw& d : draws)
            taken += d.perDay.value() * std::max(0.0, day - (d.need->startsFull ? d.dryAfter : 0.0));
        fall.push_back({day, std::clamp(1.0 - taken, 0.0, 1.0)});
    }
    return fall;
}

std::vector<RechargeWay> waysOf(const Evidence& e) {
    std::vector<RechargeWay> ways;
    for (const together::InputRow& in : e.together.inputs) {
        if (in.full)
            ways.push_back({in.charger.empty() ? say("a charger not stated") : in.charger, in.full, in.run});
    }
    return ways;
}

// One thing that runs from the bank is thought of in hours of use; less than a day as a share of a day's use.
std::string lastsWords(const Working& days, const std::vector<Need>& needs) {
    const double lasting = days.value.value() / 86400.0;
    const Need& n = needs.front();
    if (needs.size() > 1 || n.battery || !n.hoursPerDay || *n.hoursPerDay >= 24.0)
        return showValue(days.value, Unit::Second);
    const std::string use = say("{} of use", showDuration(lasting * *n.hoursPerDay * 3600.0));
    return lasting < 1.0 ? say("{} ({} of a day's {} h)", use, showNumber(lasting, 2), showNumber(*n.hoursPerDay))
                         : showValue(days.value, Unit::Second) + " (" + use + ")";
}

// The most that one port promises; 0 where nothing is printed.
double printedWatts(const label::Label& l) {
    double printed = 0.0;
    for (const label::Port& p : l.ports)
        printed = std::max(printed, label::mostWatts(p, label::Way::Out).value_or(Watts(0.0)).value);
    return printed;
}

// Whether a need's current let the output go to sleep; the greatest such current, A.
std::optional<double> sleepsAt(const std::vector<kinds::Observation>& seen, const Need& n) {
    std::optional<double> most;
    for (const kinds::Observation& o : seen) {
        if (o.what == kinds::What::AutoOff)
            most = std::max(most.value_or(0.0), o.amps.value_or(0.0));
    }
    return !n.battery && n.watts && most && *n.watts / kFiveVolts <= *most ? most : std::nullopt;
}

std::string sleepWords(const Need& n, double sleeps) {
    return say("{} draws {} mA at 5 V, and at {} mA it went to sleep", n.name,
               showNumber(*n.watts / kFiveVolts * 1000.0, 2), showNumber(sleeps * 1000.0, 2));
}

bool modeKeepsItOn(const std::vector<kinds::Observation>& seen) {
    return std::any_of(seen.begin(), seen.end(),
                       [](const kinds::Observation& o) { return o.what == kinds::What::LowMode && *o.yes; });
}

// Why the bank cannot run a need, whatever its energy: its ports are too weak, or it goes to sleep. `strongest`: what
// one port gives, of the comparison.
std::optional<std::string> whyNot(const std::vector<kinds::Observation>& seen, const judgement::Cell& strongest,
                                  const Need& n) {
    if (n.battery || !n.watts) // what is charged takes what it gets
        return std::nullopt;
    if (strongest.known() && !strongest.atLeast &&
        judgement::decide(strongest.value->value, {*n.watts, {}}).verdict == judgement::Verdict::FallsShort)
        return say("{} needs {} W, and one port gives {} at most", n.name, showNumber(*n.watts, 3),
                   strongest.value->shown());
    const auto sleeps = sleepsAt(seen, n);
    return sleeps && !modeKeepsItOn(seen) ? std::optional(sleepWords(n, *sleeps)) : std::nullopt;
}

// The same by the label alone, where no port was driven to its end.
std::optional<std::string> whyNotByLabel(const label::Label& l, const judgement::Cell& strongest, const Need& n) {
    const double printed = printedWatts(l);
    if (n.battery || !n.watts || !(printed > 0.0) || *n.watts <= printed ||
        (strongest.known() && strongest.value->value.value() >= *n.watts))
        return std::nullopt;
    return say("{} needs {} W, and its best port is printed with {} W", n.name, showNumber(*n.watts, 3),
               showNumber(printed, 3));
}

BankUse useOf(const Evidence& e, const judgement::Cell& strongest, const std::vector<Need>& needs, double days) {
    BankUse b;
    b.bank = e.name;
    b.ways = waysOf(e);
    const auto seen = evidence::observe(e);
    std::vector<Draw> draws;
    for (const Need& n : needs) {
        const kinds::Observation* counted = countedOf(seen, n);
        const auto usable = counted ? counted->value : usableAt(e, loadOf(n));
        const auto perDay = wattHoursPerDay(n);
        if (!usable || !perDay || !(usable->value.value() > 0.0))
            continue;
        const Measured battery =
            n.battery ? n.battery->measured(ErrorSource::ofBench(n.name, "battery")) : Measured(0.0);
        const Measured through = counted     ? usable->value * battery
                                 : n.battery ? arrives(n) * usable->value
                                             : usable->value;
        draws.push_back({&n, Measured(*perDay) / through, battery / through, battery.value() / *perDay, *usable});
        if (n.battery) {
            Working w;
            w.key = "charges:" + n.name;
            w.label = say("full charges of {}", n.name);
            w.value = through / battery;
            w.formula = counted ? counted->where() + ": " + counted->said()
                                : say("{} × {} ÷ {} Wh", showValue(usable->value, Unit::WattHour),
                                      showValue(arrives(n), Unit::Share), showNumber(battery.value(), 4));
            w.point = say("the device's battery");
            b.charges.push_back(std::move(w));
        }
    }
    if (draws.empty() || draws.size() < needs.size()) {
        b.sentence = say("{}: how much of it is usable is not known yet; a complete drain would tell.", e.name);
        return b;
    }
    b.days = daysOf(draws, true);
    b.daysEmpty = daysOf(draws, false);
    b.left = fallOf(draws, b.days->value.value() / 86400.0);
    b.sentence = say("{} lasts {}", e.name, lastsWords(*b.days, needs));
    if (days > 0.0) {
        const Measured lasting = b.days->value / Measured(86400.0);
        b.suffices = judgement::decide(lasting, {days, {}}).verdict;
        const std::string words = b.suffices == judgement::Verdict::Meets        ? say(": enough for ")
                                  : b.suffices == judgement::Verdict::FallsShort ? say(": not enough for ")
                                                                                 : say(": too close to call for ");
        b.sentence += words + daysWords(days);
        const double rhythm = b.daysEmpty->value.value() / 86400.0;
        b.recharges = lasting.value() < days && rhythm > 0.0 ? std::ceil((days - lasting.value()) / rhythm) : 0.0;
        for (double k = 0.0; k < std::min(b.recharges, kMostListed); ++k)
            b.rechargeOnDay.push_back(lasting.value() + k * rhythm);
        if (b.recharges > 0.0) {
            b.sentence =
                say("{}; recharge it after {} days{}", b.sentence, showNumber(b.rechargeOnDay.front(), 2),
                    (b.recharges > 1.0 ? say(", {} times in all", showNumber(b.recharges, 6)) : std::string()));
            if (const std::string ways = rechargeWords(b); !ways.empty())
                b.sentence = say("{}; that takes {}", b.sentence, ways);
        }
    }
    b.sentence += ".";
    for (const Need& n : needs) {
        auto why = whyNot(seen, strongest, n);
        if (why = why ? why : whyNotByLabel(e.label, strongest, n); why) {
            b.cannot.push_back(*why);
            continue;
        }
        if (const auto sleeps = sleepsAt(seen, n))
            b.sentence = say("{} {}, unless its low-current mode was on.", b.sentence, sleepWords(n, *sleeps));
        if (!countedOf(seen, n) && e.together.usable && e.together.usable->extrapolates(loadOf(n)))
            b.sentence = say("{} Its usable energy at {} W ({}) lies beyond the loads of its curve, and is reckoned.",
                             b.sentence, showNumber(loadOf(n), 2), n.name);
    }
    if (!b.cannot.empty()) { // then how long it lasts says nothing
        b.suffices = judgement::Verdict::FallsShort;
        b.days.reset();
        b.daysEmpty.reset();
        b.left.clear();
        b.rechargeOnDay.clear();
        b.recharges = 0.0;
        b.sentence = say("{} does not run all of it:", e.name);
        for (const std::string& why : b.cannot)
            b.sentence += (&why == &b.cannot.front() ? " " : "; ") + why;
        b.sentence += ".";
    }
    return b;
}

// What the bank's best port gives is what a thing in use is supplied with.
void addInUse(const Evidence& e, const std::vector<Need>& needs, const judgement::Comparison& figures, std::size_t at,
              BankUse& b) {
    const judgement::Cell& cell = figures.row(fig::wattsAlone)->cells[at];
    if (!cell.known())
        return;
    for (const Need& n : needs) {
        if (!n.battery || !n.watts)
            continue;
        const setup::Device device{n.name, n.battery, n.efficiency ? n.efficiency : std::optional(Stated(kArrives)),
                                   n.watts};
        const kinds::UseBalance balance = kinds::balanceInUse(device, cell.value->value);
        // It may give more than was asked of it so far: then only what would be so with all that is printed, too, is
        // said.
        const double most = std::max(cell.value->value.value(), printedWatts(e.label));
        if (cell.atLeast && kinds::balanceInUse(device, Measured(most)).what != balance.what)
            continue;
        b.inUse.push_back({n.name, balance});
        b.inUse.back().balance.working.label =
            say("{} in use on {}: {}", n.name, e.name, kinds::inUseWords(b.inUse.back().balance.what));
    }
}

void findSet(const std::vector<Evidence>& banks, double days, UsePlan& plan) {
    struct Choice {
        std::size_t bank;
        double days, sureDays, grams;
    };
    std::vector<Choice> all;
    for (std::size_t k = 0; k < banks.size(); ++k) {
        if (plan.banks[k].days) {
            const Measured d = plan.banks[k].daysEmpty->value / Measured(86400.0);
            all.push_back(
                {k, d.value(), d.value() - d.expanded(),
                 banks[k].scale.grams ? banks[k].scale.grams->value : banks[k].label.weightGrams.value_or(1e6)});
        }
    }
    std::sort(all.begin(), all.end(), [](const Choice& a, const Choice& b) { return a.days > b.days; });
    if (all.size() > kMostInSets)
        all.resize(kMostInSets);
    // What full devices add is there once, whatever the set.
    std::optional<double> least;
    for (const BankUse& b : plan.banks) {
        if (b.days) {
            const double more = (b.days->value.value() - b.daysEmpty->value.value()) / 86400.0;
            least = std::min(least.value_or(more), more);
        }
    }
    const double bonus = least.value_or(0.0);
    for (const bool sure : {true, false}) {
        std::optional<std::pair<int, double>> best;
        for (unsigned set = 1; set < 1U << all.size(); ++set) {
            double lasts = bonus, grams = 0.0;
            int count = 0;
            for (std::size_t k = 0; k < all.size(); ++k) {
                if (set >> k & 1U) {
                    lasts += sure ? all[k].sureDays : all[k].days;
                    grams += all[k].grams;
                    ++count;
                }
            }
            if (lasts < days || (best && std::pair(count, grams) >= *best))
                continue;
            best = std::pair(count, grams);
            plan.smallestSet.clear();
            for (std::size_t k = 0; k < all.size(); ++k) {
                if (set >> k & 1U)
                    plan.smallestSet.push_back(banks[all[k].bank].name);
            }
        }
        plan.setIsSure = sure;
        if (best)
            return;
    }
}

} // namespace

std::string rechargeWords(const BankUse& use) {
    std::string words;
    for (const RechargeWay& w : use.ways)
        words = say("{}{}{} with {}", words, (words.empty() ? "" : ", "), showValue(w.full->value, Unit::Second),
                    w.charger);
    return words;
}

UsePlan planUse(const std::vector<Evidence>& banks, const std::vector<Need>& needs, double days) {
    UsePlan plan;
    plan.warnings.push_back(
        {"medical",
         say("Medical equipment: only the maker's approved back-up supplies; ask the clinician. Otterstone informs, it does not certify.")});
    if (needs.empty()) {
        plan.sentence = say("Say what is to be kept going, and for how many hours a day.");
        return plan;
    }
    for (const Need& n : needs)
        plan.wattHoursPerDay += wattHoursPerDay(n).value_or(0.0);
    const judgement::Comparison figures = judgement::compare(banks);
    for (std::size_t k = 0; k < banks.size(); ++k) {
        plan.banks.push_back(useOf(banks[k], figures.row(fig::wattsAlone)->cells[k], needs, days));
        addInUse(banks[k], needs, figures, k, plan.banks.back());
    }
    plan.sentence = say("The devices use {} Wh a day.", showNumber(plan.wattHoursPerDay, 3));
    if (days > 0.0) {
        findSet(banks, days, plan);
        const std::string span = daysWords(days);
        if (plan.smallestSet.empty())
            plan.sentence = say("{} No set of these banks lasts {} without a recharge.", plan.sentence, span);
        else
            plan.sentence =
                say("{} For {} without a recharge take {}{}", plan.sentence, span, kinds::listed(plan.smallestSet),
                    (plan.setIsSure ? "." : say(": it should just last, but is too close to call.")));
    }
    return plan;
}

} // namespace otterstone::plan
