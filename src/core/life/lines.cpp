#include "core/life/lines.h"

#include <algorithm>
#include <cmath>

#include "core/quantity/date.h"
#include "core/quantity/say.h"

namespace otterstone::life {

using records::Kind;
using records::OwnCount;

std::string ifTaken(const std::vector<const kinds::RunEntry*>& drains) {
    const bool taken = std::any_of(drains.begin(), drains.end(), [](const kinds::RunEntry* r) {
        return r->finding->ends.began && r->finding->ends.began->from == kinds::StateFrom::Taken;
    });
    return !taken ? "" : drains.size() == 1 ? say(", if it began full") : say(", if they began full");
}

void tellArrival(Life& life) {
    const records::Past& p = life.past;
    if (p.cameOn.empty() && !p.cameAt)
        return;
    const auto ordered = secondsOf(p.bought.orderedOn), came = secondsOf(p.cameOn);
    life.sentences.push_back(say("It came{}{}{}.", (p.cameOn.empty() ? std::string() : say(" on {}", p.cameOn)),
                                 (p.cameAt ? (p.cameOn.empty() ? " " : ", ") + stateWords(*p.cameAt) : std::string()),
                                 (ordered && came && *came > *ordered
                                      ? say(", {} after it was ordered", spanWords((*came - *ordered) / kSecondsADay))
                                      : std::string())));
}

void tellRests(Life& life) {
    for (std::size_t k = 1; k < life.passages.size(); ++k) {
        const Passage &before = life.passages[k - 1], &after = life.passages[k];
        if (!after.restDays || !before.ended || !after.began)
            continue;
        const auto lost = lostInRest(*before.ended, *after.began, *after.restDays);
        if (!lost)
            continue;
        const double months = *after.restDays / kDaysAMonth;
        Working all;
        all.key = "lost_in_rest:" + std::to_string(after.run);
        all.label = say("charge lost in a rest of {}", spanWords(*after.restDays));
        all.value = *lost;
        all.unit = Unit::Share;
        all.formula = typedState(before.ended->state) + " − " + typedState(after.began->state);
        all.note = say(
            "from “{}” to “{}”, if nothing used it in between; a display is trusted to ± 5 points (common practice)",
            before.title, after.title);
        Working monthly = all;
        monthly.key = "lost_a_month:" + std::to_string(after.run);
        monthly.label = say("a month of rest");
        monthly.value = *lost / Measured(months);
        monthly.formula = say("{} ÷ {} months", showValue(*lost, Unit::Share), showNumber(months, 3));
        monthly.note = say("a month of 30 days");
        monthly.parts = {all};
        const bool seen = lost->value() > lost->expanded();
        const std::string most = showNumber((lost->value() + lost->expanded()) * 100.0, 2) + " %";
        life.sentences.push_back(say(
            "In a rest of {} after “{}” it went from {} to {}, if nothing used it in between: {}",
            spanWords(*after.restDays), before.title, typedState(before.ended->state), typedState(after.began->state),
            (seen ? say("{} of a full charge lost, {} a month.", all.shown(), monthly.shown())
                  : say("no more than {} of a full charge lost, within what a display can tell.", most))));
        life.figures.push_back(std::move(all));
        life.figures.push_back(std::move(monthly));
    }
}

namespace {

struct Booked {
    Measured out{0.0}, in{0.0};
    std::size_t drains = 0, recharges = 0;
    bool partialDoubt = false;
    bool onTheDay = false; ///< a run lies on a day of reading: before or after it cannot be told
};

Booked bookedBetween(const Life& life, const OwnCount& from, const OwnCount& to) {
    Booked b;
    const double begin = secondsOf(from.on).value_or(0.0) + kSecondsADay, end = secondsOf(to.on).value_or(0.0);
    for (const Passage& p : life.passages) {
        if (!p.from || records::hasSheet(p.kind))
            continue;
        if (*p.to >= begin - kSecondsADay && *p.from < end + kSecondsADay && (*p.from < begin || *p.to >= end))
            b.onTheDay = true;
        if (*p.from < begin || *p.to >= end)
            continue;
        (p.kind == Kind::Drain ? b.drains : b.recharges) += 1;
        Measured& sum = p.kind == Kind::Drain ? b.out : b.in;
        sum = sum + p.wattHours;
        b.partialDoubt = b.partialDoubt || p.partialDoubt;
    }
    return b;
}

std::string runsWords(std::size_t n, const char* what) {
    return std::to_string(n) + " " + sayAsItStands(n == 1 ? std::string(what) : std::string(what) + "s");
}

} // namespace

void tellCounts(Life& life) {
    const auto& counts = life.past.counts;
    if (counts.empty())
        return;
    life.sentences.push_back(say("On {} it counted {} itself.", counts.back().on, countWords(counts.back())));
    for (std::size_t k = 1; k < counts.size(); ++k) {
        const Booked booked = bookedBetween(life, counts[k - 1], counts[k]);
        const auto compare = [&](std::optional<double> OwnCount::*member, const Measured& ours, std::size_t runs,
                                 const char* way, const char* what) {
            const auto &a = counts[k - 1].*member, &b = counts[k].*member;
            if (!a || !b)
                return;
            const std::string when = say("From {} to {}", counts[k - 1].on, counts[k].on);
            if (*b < *a) {
                life.sentences.push_back(
                    say("{} its own count of Wh {} went down: it began anew, or a reading slipped.", when,
                        sayAsItStands(way)));
                return;
            }
            if (booked.onTheDay || runs == 0)
                return;
            Working own;
            own.key = std::string("own_count_") + way + ":" + counts[k].on;
            own.label = say("its own count of what went {}", sayAsItStands(way));
            own.value = Measured(*b - *a);
            own.unit = Unit::WattHour;
            own.formula = showNumber(*b, 6) + " − " + showNumber(*a, 6);
            own.note = say("{}; how well it counts is not known", when);
            Working book = own;
            book.key = std::string("booked_") + way + ":" + counts[k].on;
            book.label = say("{} in the book", runsWords(runs, what));
            book.value = ours;
            book.partialDoubt = booked.partialDoubt;
            book.formula = say("Σ at the port");
            book.note = when;
            own.parts = {book};
            life.sentences.push_back(
                say("{} it counted {} {} itself; {} in the book gave {}. What was used besides is in its count alone.",
                    when, own.shown(), sayAsItStands(way), runsWords(runs, what), book.shown()));
            life.figures.push_back(std::move(own));
            life.figures.push_back(std::move(book));
        };
        compare(&OwnCount::outWattHours, booked.out, booked.drains, "out", "drain");
        compare(&OwnCount::inWattHours, booked.in, booked.recharges, "in", "recharge");
    }
}

} // namespace otterstone::life
