#include "core/trace/trace.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <limits>
#include <vector>

#include "core/quantity/say.h"
#include "core/quantity/wide.h"

namespace otterstone::trace {

namespace {

constexpr std::size_t kStepsLookedAt = 20'000;

// Values of a column at moment t between samples k and k + 1.
template<class C>
double between(const C& c, const Column& time, std::size_t k, double t) {
    const double width = time[k + 1] - time[k];
    const double share = width > 0.0 ? (t - time[k]) / width : 0.0;
    return c[k] + (c[k + 1] - c[k]) * share;
}

// Counted rather than searched: a count is what the compiler turns into wide instructions. Only where something is odd
// is it looked for. What never steps back is nowhere none, and lies between its ends.
OTTERSTONE_WIDE bool neverBack(const Column& time) {
    const double* const t = time.data();
    std::int64_t odd = 0;
    for (std::size_t k = 1; k < time.size(); ++k)
        odd += !(t[k] >= t[k - 1]);
    return odd == 0;
}

std::string rowWords(std::size_t k, const char* what) {
    return say("row {} of the trace: {}", std::to_string(k + 1), sayAsItStands(what));
}

} // namespace

std::optional<std::string> unsound(const Trace& t) {
    std::optional<std::string> odd;
    Trace::eachColumn(t, [&](const auto& c, const char* name) {
        if (!c.empty() && c.size() != t.size())
            odd = say("the column {} is not as long as the time beside it", name);
    });
    if (odd || t.time.empty())
        return odd;
    if (t.watts.empty() && (t.volts.empty() || t.amps.empty()))
        return say("neither volts and amps nor watts are there");
    const auto isMoment = [](double time) { return std::fabs(time) <= kMostSeconds; };
    if (!isMoment(t.time.front()) || !isMoment(t.time.back()) || !neverBack(t.time)) {
        for (std::size_t k = 0; k < t.size(); ++k) {
            if (!isMoment(t.time[k]))
                return rowWords(k, "its time is none");
            if (k > 0 && t.time[k] < t.time[k - 1])
                return rowWords(k, "time steps back");
        }
    }
    const auto look = [&](const auto& column, const char* what) {
        if (odd || allWithin(column, kMostReading))
            return;
        std::size_t k = 0;
        while (std::fabs(column[k]) <= kMostReading)
            ++k;
        odd = rowWords(k, what);
    };
    look(t.volts, "no bench reads such volts");
    look(t.amps, "no bench reads such amperes");
    look(t.watts, "no bench reads such watts");
    return odd;
}

Trace cropped(const Trace& trace, double from, double to) {
    Trace part;
    part.voltsStep = trace.voltsStep;
    part.ampsStep = trace.ampsStep;
    if (trace.time.empty() || from > to)
        return part;
    const auto first =
        static_cast<std::size_t>(std::lower_bound(trace.time.begin(), trace.time.end(), from) - trace.time.begin());
    const auto last =
        static_cast<std::size_t>(std::upper_bound(trace.time.begin(), trace.time.end(), to) - trace.time.begin());
    const bool edgeBefore = first > 0 && first < trace.size() && trace.time[first] > from;
    const bool edgeAfter = last > 0 && last < trace.size() && trace.time[last - 1] < to;
    if (first >= last && !(edgeBefore && edgeAfter))
        return part;
    const auto cut = [&](const auto& c, auto& out) {
        if (c.empty())
            return;
        if (edgeBefore)
            out.push_back(between(c, trace.time, first - 1, from));
        for (std::size_t k = first; k < last; ++k)
            out.push_back(c[k]);
        if (edgeAfter)
            out.push_back(between(c, trace.time, last - 1, to));
    };
    cut(trace.time, part.time);
    cut(trace.volts, part.volts);
    cut(trace.amps, part.amps);
    cut(trace.watts, part.watts);
    cut(trace.temperature, part.temperature);
    cut(trace.percent, part.percent);
    return part;
}

Trace rescaled(const Trace& trace, double factor) {
    Trace scaled = trace;
    for (double& t : scaled.time)
        t *= factor;
    return scaled;
}

void reverseDirection(Trace& trace) {
    trace.amps.negate();
    for (double& w : trace.watts)
        w = -w;
}

double medianStep(const Column& time) {
    if (time.size() < 2)
        return 0.0;
    const std::size_t stride = std::max<std::size_t>(1, (time.size() - 1) / kStepsLookedAt);
    bool alike = true; // as most instruments write: no more to do then
    for (std::size_t k = 0; alike && k + 1 < time.size(); k += stride)
        alike = time[k + 1] - time[k] == time[1] - time[0];
    if (alike)
        return time[1] - time[0];
    std::vector<double> steps;
    steps.reserve(kStepsLookedAt * 2);
    for (std::size_t k = 0; k + 1 < time.size(); k += stride)
        steps.push_back(time[k + 1] - time[k]);
    const auto middle = steps.begin() + static_cast<std::ptrdiff_t>(steps.size() / 2);
    std::nth_element(steps.begin(), middle, steps.end());
    return *middle;
}

namespace {

constexpr std::size_t kReadingsLookedAt = 2000;
constexpr std::size_t kLeastDistinct = 8;
constexpr std::size_t kFewDistinct = 3; // from which on zeros that all end in are no digits
constexpr double kFinest = 1e-6;
constexpr double kCoarsest = 0.5; // no instrument counts whole volts or amperes: "5" was written without its noughts

// All readings are whole numbers of this digit.
bool countIn(double digit, const std::vector<double>& readings) {
    return std::all_of(readings.begin(), readings.end(),
                       [&](double v) { return std::fabs(v / digit - std::round(v / digit)) < 1e-4; });
}

} // namespace

double resolutionOf(const Readings& column, double written) {
    std::vector<double> seen;
    const std::size_t stride = std::max<std::size_t>(1, column.size() / kReadingsLookedAt);
    for (std::size_t k = 0; k < column.size(); k += stride)
        seen.push_back(column[k]);
    std::sort(seen.begin(), seen.end());
    double smallest = HUGE_VAL;
    std::size_t distinct = 1;
    for (std::size_t k = 1; k < seen.size(); ++k) {
        const double step = seen[k] - seen[k - 1];
        if (step > 1e-9 * std::max(1e-3, std::fabs(seen[k]))) {
            smallest = std::min(smallest, step);
            ++distinct;
        }
    }
    if (distinct >= kLeastDistinct)
        return smallest;
    if (seen.empty() || seen.back() == 0.0)
        return 0.0;
    double digit = written;
    if (!(digit > 0.0)) {
        for (digit = 1.0; digit > kFinest / 2.0 && !countIn(digit, seen);)
            digit /= 10.0;
        return digit > kFinest / 2.0 && digit < kCoarsest ? digit : 0.0;
    }
    while (distinct >= kFewDistinct && digit < 0.1 && countIn(10.0 * digit, seen))
        digit *= 10.0;
    return digit < kCoarsest ? digit : 0.0;
}

} // namespace otterstone::trace
