#include <algorithm>
#include <cmath>
#include <map>

#include "core/life/lines.h"
#include "core/quantity/date.h"
#include "core/quantity/line.h"
#include "core/quantity/say.h"

namespace otterstone::life {

using kinds::RunEntry;
using records::Kind;

namespace {

constexpr std::size_t kLeastDrains = 3;
constexpr double kLeastCycles = 5.0;

// Cycles before each moment: by what it counts itself where that spans the time, else by what went in or came out in
// the book, whichever is more.
class Cycles {
public:
    Cycles(const Life& life, double rated) : life_(life), rated_(rated) {
        for (const records::OwnCount& c : life.past.counts) {
            if (const auto at = secondsOf(c.on); at && c.cycles)
                own_[*at] = *c.cycles;
        }
    }
    [[nodiscard]] bool counts(double at) const {
        return own_.size() > 1 && own_.begin()->first <= at && at <= own_.rbegin()->first;
    }
    [[nodiscard]] double counted(double at) const {
        const auto after = own_.lower_bound(at);
        if (after->first == at || after == own_.begin())
            return after->second;
        const auto before = std::prev(after);
        return before->second +
               (after->second - before->second) * (at - before->first) / (after->first - before->first);
    }
    [[nodiscard]] double booked(double at) const {
        double in = 0.0, out = 0.0;
        for (const Passage& p : life_.passages) {
            if (p.from && *p.from < at)
                (p.kind == Kind::Recharge ? in : out) += p.wattHours.value();
        }
        return std::max(in, out) / rated_;
    }

private:
    const Life& life_;
    double rated_;
    std::map<double, double> own_;
};

void tellGroup(Life& life, const std::vector<const RunEntry*>& drains, const Cycles& cycles) {
    const bool own = std::all_of(drains.begin(), drains.end(),
                                 [&](const RunEntry* r) { return cycles.counts(*secondsOf(r->startedAt)); });
    std::vector<Wear> wear;
    Working w;
    for (const RunEntry* r : drains) {
        const double at = *secondsOf(r->startedAt);
        wear.push_back({own ? cycles.counted(at) : cycles.booked(at), r->finding->portWattHours});
        Working part;
        part.label = r->title;
        part.value = r->finding->portWattHours;
        part.unit = Unit::WattHour;
        part.note = say("after {} cycles", showNumber(wear.back().cycles, 3));
        kinds::markDoubt(part, {&*r->finding});
        w.parts.push_back(std::move(part));
    }
    const auto fade = fadePerHundred(wear, std::to_string(drains.front()->run));
    if (!fade)
        return;
    const std::string load = showNumber(loadOf(drains.front()->finding), 2) + " W";
    const std::string counted = own ? say("cycles of its own count") : say("cycles in the book");
    w.key = "fade_per_100_cycles:" + std::to_string(drains.front()->run);
    w.label = say("usable energy lost in a hundred cycles, at {}", load);
    w.value = *fade;
    w.unit = Unit::Share;
    w.formula = say("slope of a straight line through {} drains", std::to_string(drains.size()));
    w.note =
        own ? say("cycles as it counts them itself, in between by date")
            : say("cycles by what went in or came out in the book, whichever is more; use that is not in it would make the fading less");
    const double low = (fade->value() - fade->expanded()) * 100.0, high = (fade->value() + fade->expanded()) * 100.0;
    const std::string over = say("{} complete drains at {} over {} {}{}", std::to_string(drains.size()), load,
                                 showNumber(wear.back().cycles - wear.front().cycles, 2), counted, ifTaken(drains));
    life.sentences.push_back(low > 0.0 ? say("It fades by {} a hundred cycles ({}).", show(*fade, Unit::Share), over)
                             : high < 0.0
                                 ? say("It gives more with use, {} a hundred cycles ({}): it may not have settled yet.",
                                       show(Measured(0.0) - *fade, Unit::Share), over)
                                 : say("No fading can be told yet: between {} and {} % a hundred cycles ({}).",
                                       showNumber(low, 2), showNumber(high, 2), over));
    life.figures.push_back(std::move(w));
}

} // namespace

std::optional<Measured> fadePerHundred(const std::vector<Wear>& drains, const std::string& bank) {
    std::vector<double> x, y;
    for (const Wear& w : drains) {
        x.push_back(w.cycles);
        y.push_back(w.wattHours.value());
    }
    if (drains.size() < kLeastDrains ||
        *std::max_element(x.begin(), x.end()) - *std::min_element(x.begin(), x.end()) < kLeastCycles)
        return std::nullopt;
    const auto line = fitLine(x, y);
    if (!line)
        return std::nullopt;
    const double first = *std::min_element(x.begin(), x.end());
    const double whole = line->intercept + line->slope * first;
    if (!(whole > 0.0))
        return std::nullopt;
    double mean = 0.0, squares = 0.0;
    for (const double c : x)
        mean += c / static_cast<double>(x.size());
    for (const double c : x)
        squares += (c - mean) * (c - mean);
    std::vector<Sensitivity> inputs;
    for (std::size_t k = 0; k < drains.size(); ++k)
        inputs.push_back({&drains[k].wattHours, -100.0 / whole * (x[k] - mean) / squares});
    return combine(-100.0 * line->slope / whole, inputs)
        .with(ErrorSource::scatterOf(bank), 100.0 * line->uSlope / whole, line->dof);
}

void tellFading(Life& life, const std::vector<RunEntry>& runs, const std::optional<double>& rated) {
    if (!rated || !(*rated > 0.0))
        return;
    std::vector<const RunEntry*> left;
    for (const Passage& p : life.passages) {
        const RunEntry& r = runs[p.entry];
        if (p.from && p.kind == Kind::Drain && wholeDrain(r) && !r.settling)
            left.push_back(&r);
    }
    const Cycles cycles(life, *rated);
    while (!left.empty()) {
        const auto others = std::stable_partition(left.begin(), left.end(),
                                                  [&](const RunEntry* r) { return alike(*r, *left.front()); });
        tellGroup(life, {left.begin(), others}, cycles);
        left.erase(left.begin(), others);
    }
}

} // namespace otterstone::life
