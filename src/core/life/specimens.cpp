#include "core/life/specimens.h"

#include <algorithm>
#include <cmath>

#include "core/life/lines.h"
#include "core/quantity/date.h"
#include "core/quantity/repeats.h"
#include "core/quantity/say.h"

namespace otterstone::life {

using kinds::RunEntry;

namespace {

constexpr double kSameAge = 15.0; // days

using Drains = std::vector<const RunEntry*>;

Drains like(const RunEntry& one, const std::vector<RunEntry>& all) {
    Drains found;
    for (const RunEntry& r : all) {
        if (wholeDrain(r) && !r.settling && alike(r, one))
            found.push_back(&r);
    }
    return found;
}

Working meanOf(const Specimen& s, const Drains& drains, const char* key) {
    std::vector<Measured> values;
    std::string ids;
    Working w;
    for (const RunEntry* r : drains) {
        values.push_back(r->finding->portWattHours);
        ids += std::to_string(r->run) + " ";
        w.parts.push_back(remark(r->title, r->finding->sentence));
    }
    w.key = key;
    w.label = s.name;
    w.value = repeats(values, ErrorSource::scatterOf(ids)).mean;
    w.unit = Unit::WattHour;
    w.formula = say("mean of {}", std::to_string(drains.size()));
    w.note = say("complete drains at {} W", showNumber(loadOf(drains.front()->finding), 2));
    kinds::markDoubt(w, drains);
    return w;
}

// ", 12 months older": this one than the other.
std::string ageWords(const Specimen& mine, const Specimen& other) {
    const auto a = secondsOf(mine.past.cameOn), b = secondsOf(other.past.cameOn);
    if (!a || !b)
        return {};
    const double older = (*b - *a) / kSecondsADay;
    const std::string span = spanWords(std::fabs(older));
    return std::fabs(older) < kSameAge ? say(", of the same age")
           : older > 0.0               ? say(", {} older", span)
                                       : say(", {} younger", span);
}

std::string count(std::size_t n) { return n == 1 ? say("1 drain") : say("{} drains", std::to_string(n)); }

} // namespace

std::vector<SideBySide> compareSpecimens(const Specimen& mine, std::span<const Specimen> others) {
    std::vector<SideBySide> all;
    for (const Specimen& other : others) {
        SideBySide s{other.bank, other.name, {}, {}, {}};
        Drains ours, theirs;
        for (const RunEntry& r : mine.runs) {
            if (!wholeDrain(r) || r.settling)
                continue;
            const Drains a = like(r, mine.runs), b = like(r, other.runs);
            if (std::min(a.size(), b.size()) > std::min(ours.size(), theirs.size())) {
                ours = a;
                theirs = b;
            }
        }
        const std::string who = say("Beside “{}”{}", other.name, ageWords(mine, other));
        if (ours.empty()) {
            s.sentence = say("{}: no complete drain of both at one load, so nothing compares yet.", who);
            all.push_back(std::move(s));
            continue;
        }
        Working here = meanOf(mine, ours, "specimen_here_wh"), there = meanOf(other, theirs, "specimen_there_wh");
        Working ratio;
        ratio.key = "specimen_ratio";
        ratio.label = say("this one against “{}”", other.name);
        ratio.value = here.value / there.value;
        ratio.unit = Unit::Share;
        ratio.formula = showValue(here.value, Unit::WattHour) + " ÷ " + showValue(there.value, Unit::WattHour);
        ratio.note = say("what one meter gets wrong in both falls out");
        ratio.parts = {here, there};
        Drains both = ours;
        both.insert(both.end(), theirs.begin(), theirs.end());
        kinds::markDoubt(ratio, both);
        const double apart = ratio.value.value() - 1.0;
        const bool same = ratio.value.hasDoubt() && !ratio.partialDoubt && std::fabs(apart) <= ratio.value.expanded();
        s.sentence =
            say("{}, this one gives {}{} of the other's energy at {} W ({} here, {} there{}){}", who,
                (same ? say("as much, as far as can be told: ") : ""), ratio.shown(),
                showNumber(loadOf(ours.front()->finding), 2), count(ours.size()), std::to_string(theirs.size()),
                ifTaken(both), (ratio.partialDoubt ? say("; how well they were metered is not known.") : "."));
        for (const RunEntry* r : both)
            s.runs.push_back(r->run);
        s.figures = {here, there, ratio};
        all.push_back(std::move(s));
    }
    return all;
}

} // namespace otterstone::life
