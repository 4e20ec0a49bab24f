#include <algorithm>
#include <cmath>

#include "core/kinds/figure_keys.h"
#include "core/life/lines.h"
#include "core/quantity/say.h"

namespace otterstone::life {

using kinds::RunEntry;

namespace {

constexpr std::size_t kLeastRuns = 2;
constexpr double kApart = 2.0;         // points: less is how coarse a display is
constexpr double kRight = 3.0;         // points: as good as displays are
constexpr double kSettledTo = 0.6;     // of what it was before
constexpr std::size_t kLeastAfter = 2; // runs in which it stays settled

struct Display {
    const RunEntry* run;
    double worst; ///< points, without sign
};

std::vector<Display> displaysOf(const Life& life, const std::vector<RunEntry>& runs, records::Kind kind) {
    std::vector<Display> all;
    for (const Passage& p : life.passages) {
        const RunEntry& r = runs[p.entry];
        const kinds::Finding& f = r.finding;
        if (p.kind == kind && p.from && f.gauge && answers(f, key::gaugeError))
            all.push_back({&r, std::fabs(f.gauge->worst.error())});
    }
    return all;
}

// After how many runs it is clearly better, and stays so.
std::optional<std::size_t> settledAfter(const std::vector<Display>& all) {
    for (std::size_t n = 1; n + kLeastAfter <= all.size(); ++n) {
        const auto less = [](const Display& a, const Display& b) { return a.worst < b.worst; };
        const auto split = all.begin() + static_cast<std::ptrdiff_t>(n);
        const double before = std::min_element(all.begin(), split, less)->worst;
        const double after = std::max_element(split, all.end(), less)->worst;
        if (after <= kSettledTo * before && before - after >= kApart)
            return n;
    }
    return std::nullopt;
}

std::string points(double value) {
    const double rounded = std::round(value);
    return rounded == 1.0 ? say("1 point") : say("{} points", showNumber(rounded));
}

} // namespace

void tellDisplay(Life& life, const std::vector<RunEntry>& runs) {
    for (const auto& [kind, word] :
         {std::pair(records::Kind::Drain, "drain"), std::pair(records::Kind::Recharge, "recharge")}) {
        const auto all = displaysOf(life, runs, kind);
        if (all.size() < kLeastRuns)
            continue;
        double least = HUGE_VAL, most = 0.0;
        Working w;
        w.key = std::string("display_errors:") + word;
        const std::string one = sayAsItStands(word), many = sayAsItStands(std::string(word) + "s");
        w.label = say("display's greatest error in {}", many);
        w.unit = Unit::Share;
        w.formula = say("the greatest of {}", std::to_string(all.size()));
        w.note = say("in points, of each run the greatest");
        std::string each;
        for (const Display& d : all) {
            least = std::min(least, d.worst);
            most = std::max(most, d.worst);
            each += (each.empty() ? "" : &d == &all.back() ? say(" and ") : ", ") + showNumber(std::round(d.worst));
            if (const Working* error = figure(d.run->finding, key::gaugeError)) {
                Working part = *error;
                part.label = d.run->title;
                w.parts.push_back(std::move(part));
            }
        }
        w.value = Measured(most / 100.0);
        const std::string count = std::to_string(all.size()) + " " + many;
        const auto settled = settledAfter(all);
        std::string said;
        if (settled)
            said = say("Its display was off by up to {} points in {}: it settled after {}.", each, count,
                       *settled == 1 ? say("one {}", one) : say("{} {}", std::to_string(*settled), many));
        else if (most <= kRight)
            said = say("Its display was right within {} in each of {}.", points(kRight), count);
        else if (most - least < kApart)
            said = say("Its display was off by up to {} in each of {}{}", points(most), count,
                       (all.size() > kLeastAfter ? say(": it does not settle.") : "."));
        else
            said = say("Its display was off by up to {} points in {}{}", each, count,
                       all.size() < 1 + kLeastAfter ? "." : say(": no settling can be told."));
        life.sentences.push_back(std::move(said));
        life.figures.push_back(std::move(w));
    }
}

} // namespace otterstone::life
