#include "core/plan/use.h"

#include <algorithm>
#include <cmath>

#include "core/judgement/compare.h"
#include "core/label/label.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"

namespace otterstone::plan {

namespace {

using judgement::Evidence;

constexpr double kArrives = 0.85, kArrivesHalf = 0.10; // of what leaves the port, into a device's battery
constexpr double kChargingWatts = 10.0;                // a small device's charging, where nothing says otherwise
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
    w.label = asSaid ? "lasts" : "lasts, devices empty at the start";
    w.value = days * Measured(86400.0);
    w.unit = Unit::Second;
    w.point = "bank out";
    std::string capacity = "1", rate;
    for (std::size_t k = 0; k < draws.size(); ++k) {
        const Draw& d = draws[k];
        if (active[k]) {
            rate += (rate.empty() ? "" : " + ") + showValue(d.perDay, Unit::Share);
            if (asSaid && d.need->startsFull && d.need->battery)
                capacity += " + " + showValue(d.atStart, Unit::Share);
        }
        Working part = d.usable;
        part.label = d.need->name + ": usable at " + showNumber(loadOf(*d.need), 3) + " W";
        part.note =
            showNumber(*wattHoursPerDay(*d.need), 3) + " Wh a day" +
            (d.need->battery ? " through " + showValue(arrives(*d.need), Unit::Share) + " into its battery" : "") +
            ": " + showValue(d.perDay, Unit::Share) + " of the bank a day" +
            (active[k] ? "" : "; its own battery outlasts the rest, so it takes nothing");
        part.question.clear();
        part.others.clear();
        w.parts.push_back(std::move(part));
    }
    w.formula = "(" + capacity + ") ÷ (" + rate + ") days";
    if (asSaid &&
        std::any_of(draws.begin(), draws.end(), [](const Draw& d) { return d.need->startsFull && d.need->battery; }))
        w.note = "until bank and devices are dry; those that start full help with their own batteries";
    return w;
}

std::vector<RechargeWay> waysOf(const Evidence& e) {
    std::vector<RechargeWay> ways;
    for (const findings::InputRow& in : e.together.inputs) {
        if (in.full)
            ways.push_back({in.charger.empty() ? "a charger not stated" : in.charger, in.full, in.run});
    }
    return ways;
}

BankUse useOf(const Evidence& e, const std::vector<Need>& needs, double days) {
    BankUse b;
    b.bank = e.name;
    b.ways = waysOf(e);
    std::vector<Draw> draws;
    for (const Need& n : needs) {
        const auto usable = usableAt(e, loadOf(n));
        const auto perDay = wattHoursPerDay(n);
        if (!usable || !perDay || !(usable->value.value() > 0.0))
            continue;
        const Measured through = n.battery ? arrives(n) * usable->value : usable->value;
        const Measured battery =
            n.battery ? n.battery->measured(ErrorSource::ofBench(n.name, "battery")) : Measured(0.0);
        draws.push_back({&n, Measured(*perDay) / through, battery / through, battery.value() / *perDay, *usable});
        if (n.battery) {
            Working w;
            w.key = "charges:" + n.name;
            w.label = "full charges of " + n.name;
            w.value = through / battery;
            w.formula = showValue(usable->value, Unit::WattHour) + " × " + showValue(arrives(n), Unit::Share) + " ÷ " +
                        showNumber(battery.value(), 4) + " Wh";
            w.point = "the device's battery";
            b.charges.push_back(std::move(w));
        }
    }
    if (draws.empty() || draws.size() < needs.size()) {
        b.sentence = e.name + ": how much of it is usable is not known yet; a complete drain would tell.";
        return b;
    }
    b.days = daysOf(draws, true);
    b.daysEmpty = daysOf(draws, false);
    b.sentence = e.name + " lasts " + showValue(b.days->value, Unit::Second);
    if (days > 0.0) {
        const Measured lasting = b.days->value / Measured(86400.0);
        b.suffices = judgement::decide(lasting, {days, {}}).verdict;
        const char* words = b.suffices == judgement::Verdict::Meets        ? ": enough for "
                            : b.suffices == judgement::Verdict::FallsShort ? ": not enough for "
                                                                           : ": too close to call for ";
        b.sentence += words + showNumber(days, 3) + (days == 1.0 ? " day" : " days");
        const double rhythm = b.daysEmpty->value.value() / 86400.0;
        b.recharges = lasting.value() < days && rhythm > 0.0 ? std::ceil((days - lasting.value()) / rhythm) : 0.0;
        for (double k = 0.0; k < std::min(b.recharges, kMostListed); ++k)
            b.rechargeOnDay.push_back(lasting.value() + k * rhythm);
        if (b.recharges > 0.0) {
            b.sentence += "; recharge it after " + showNumber(b.rechargeOnDay.front(), 2) + " days" +
                          (b.recharges > 1.0 ? ", " + showNumber(b.recharges, 6) + " times in all" : std::string());
            if (const std::string ways = rechargeWords(b); !ways.empty())
                b.sentence += "; that takes " + ways;
        }
    }
    b.sentence += ".";
    return b;
}

// What the bank's best port gives is what a thing in use is supplied with.
void addInUse(const Evidence& e, const std::vector<Need>& needs, const judgement::Comparison& figures, std::size_t at,
              BankUse& b) {
    const judgement::Cell& cell = figures.row("watts_alone")->cells[at];
    if (!cell.known())
        return;
    for (const Need& n : needs) {
        if (!n.battery || !n.watts)
            continue;
        const findings::Device device{n.name, n.battery, n.efficiency ? n.efficiency : std::optional(Stated(kArrives)),
                                      n.watts};
        b.inUse.push_back({n.name, findings::balanceInUse(device, cell.value->value)});
        b.inUse.back().balance.working.label =
            n.name + " in use on " + e.name + ": " + findings::inUseWords(b.inUse.back().balance.what);
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

std::string listed(const std::vector<std::string>& names) {
    std::string s;
    for (std::size_t k = 0; k < names.size(); ++k)
        s += (k == 0 ? "" : k + 1 == names.size() ? " and " : ", ") + names[k];
    return s;
}

} // namespace

std::optional<double> wattHoursPerDay(const Need& n) {
    if (n.watts && n.hoursPerDay)
        return *n.watts * *n.hoursPerDay;
    if (n.battery && n.chargesPerDay)
        return n.battery->value * *n.chargesPerDay;
    return std::nullopt;
}

std::string rechargeWords(const BankUse& use) {
    std::string words;
    for (const RechargeWay& w : use.ways)
        words += (words.empty() ? "" : ", ") + showValue(w.full->value, Unit::Second) + " with " + w.charger;
    return words;
}

Result<Need> parseNeed(std::string_view text, std::string_view place) {
    Need n;
    std::size_t lastNumber = 0, firstNumber = std::string_view::npos;
    // A name may hold digits ("Camera 2"): what counts as a figure is a number with one of the units.
    for (std::size_t k = 0; k < text.size();) {
        const bool starts =
            std::isdigit(static_cast<unsigned char>(text[k])) && (k == 0 || text[k - 1] == ' ' || text[k - 1] == ',');
        if (!starts) {
            ++k;
            continue;
        }
        std::size_t end = k;
        while (end < text.size() &&
               (std::isdigit(static_cast<unsigned char>(text[end])) || text[end] == '.' ||
                (text[end] == ',' && end + 1 < text.size() && std::isdigit(static_cast<unsigned char>(text[end + 1])))))
            ++end;
        std::size_t unit = end;
        while (unit < text.size() && text[unit] == ' ')
            ++unit;
        std::size_t after = unit;
        while (after < text.size() && text[after] != ' ' && text[after] != ',' && text[after] != ';')
            ++after;
        const std::string_view word = text.substr(unit, after - unit);
        const auto number = parseNumber(text.substr(k, end - k));
        const bool known = number && (word == "W" || word == "w" || word == "Wh" || word == "wh" || word == "h" ||
                                      word == "h/day" || word == "x" || word == "×" || word == "x/day");
        if (known) {
            if (word == "W" || word == "w")
                n.watts = *number;
            else if (word == "Wh" || word == "wh")
                n.battery = Stated(*number);
            else if (word.starts_with("h"))
                n.hoursPerDay = *number;
            else
                n.chargesPerDay = *number;
            firstNumber = std::min(firstNumber, k);
            lastNumber = after;
        }
        k = after;
    }
    n.name = std::string(trimmed(text.substr(0, std::min(firstNumber, text.size()))));
    while (n.name.ends_with(",") || n.name.ends_with(":"))
        n.name.pop_back();
    n.startsFull = text.substr(lastNumber).find("empty") == std::string_view::npos;
    if (n.name.empty() && firstNumber != std::string_view::npos)
        n.name = "device";
    const auto perDay = wattHoursPerDay(n);
    if (!perDay || !(*perDay > 0.0) || (n.hoursPerDay && *n.hoursPerDay > 24.0))
        return problem(
            "bad_need", std::string(place),
            n.hoursPerDay && *n.hoursPerDay > 24.0 ? "a day has 24 hours."
                                                   : "“" + std::string(text) + "” does not say what it needs in a day.",
            "Write watts and hours a day, or a battery and charges a day, like Camera 2 W 8 h or Tablet 26.4 Wh 1x; add “empty” if it starts empty.");
    return n;
}

std::string showNeed(const Need& n) {
    std::string s = n.name;
    if (n.battery)
        s += " " + showNumber(n.battery->value) + " Wh";
    if (n.watts)
        s += " " + showNumber(*n.watts) + " W";
    if (n.hoursPerDay)
        s += " " + showNumber(*n.hoursPerDay) + " h";
    if (n.chargesPerDay)
        s += " " + showNumber(*n.chargesPerDay) + "x";
    return n.startsFull ? s : s + " empty";
}

UsePlan planUse(const std::vector<Evidence>& banks, const std::vector<Need>& needs, double days) {
    UsePlan plan;
    plan.warnings.push_back(
        {"medical",
         "Medical equipment: only the maker's approved back-up supplies; ask the clinician. Otterstone informs, it does not certify."});
    if (needs.empty()) {
        plan.sentence = "Say what is to be kept going, and for how many hours a day.";
        return plan;
    }
    for (const Need& n : needs)
        plan.wattHoursPerDay += wattHoursPerDay(n).value_or(0.0);
    const judgement::Comparison figures = judgement::compare(banks);
    for (std::size_t k = 0; k < banks.size(); ++k) {
        plan.banks.push_back(useOf(banks[k], needs, days));
        addInUse(banks[k], needs, figures, k, plan.banks.back());
    }
    plan.sentence = "The devices use " + showNumber(plan.wattHoursPerDay, 3) + " Wh a day.";
    if (days > 0.0) {
        findSet(banks, days, plan);
        const std::string span = showNumber(days, 3) + (days == 1.0 ? " day" : " days");
        if (plan.smallestSet.empty())
            plan.sentence += " No set of these banks lasts " + span + " without a recharge.";
        else
            plan.sentence += " For " + span + " without a recharge take " + listed(plan.smallestSet) +
                             (plan.setIsSure ? "." : ": it should just last, but is too close to call.");
    }
    return plan;
}

} // namespace otterstone::plan
