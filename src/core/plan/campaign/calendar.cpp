#include "core/plan/campaign/calendar.h"

#include <algorithm>

namespace otterstone::plan::campaign {

double Line::freeFrom(double from, double seconds, std::size_t* by) const {
    // The first that ends after `from`: those before it are no matter.
    auto next = std::upper_bound(busy_.begin(), busy_.end(), from + kSameMoment,
                                 [](double at, const Busy& b) { return at < b.span.to; });
    double at = from;
    for (; next != busy_.end() && next->span.from < at + seconds - kSameMoment; ++next) {
        if (next->span.to <= at)
            continue;
        at = next->span.to;
        if (by)
            *by = next->by;
    }
    return at;
}

void Line::take(Span span, std::size_t by) {
    if (span.to <= span.from)
        return; // a moment without length keeps nobody
    busy_.insert(std::upper_bound(busy_.begin(), busy_.end(), span.from,
                                  [](double at, const Busy& b) { return at < b.span.from; }),
                 {span, by});
}

void Line::giveBack(Span span, std::size_t by) {
    const auto at = std::find(busy_.begin(), busy_.end(), Busy{span, by});
    if (at != busy_.end())
        busy_.erase(at);
}

Hours::Hours(const Problem& problem, int people) : always_(!problem.hours && people <= 1) {
    if (!problem.hours)
        return;
    for (const Presence& p : *problem.hours) {
        if (p.people < people)
            continue;
        if (!spans_.empty() && p.span.from <= spans_.back().to + kSameMoment)
            spans_.back().to = std::max(spans_.back().to, p.span.to);
        else
            spans_.push_back(p.span);
    }
}

double Hours::thereFrom(double from, double seconds) const {
    if (always_)
        return from;
    auto s = std::lower_bound(spans_.begin(), spans_.end(), from,
                              [](const Span& span, double at) { return span.to < at - kSameMoment; });
    for (; s != spans_.end(); ++s) {
        const double at = std::max(from, s->from);
        if (at + seconds <= s->to + kSameMoment)
            return at;
    }
    return kNever;
}

} // namespace otterstone::plan::campaign
