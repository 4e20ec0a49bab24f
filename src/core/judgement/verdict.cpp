#include "core/judgement/verdict.h"

#include <algorithm>
#include <cmath>

#include <boost/math/distributions/normal.hpp>
#include <boost/math/distributions/students_t.hpp>

#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::judgement {

namespace {

constexpr int kMostRepeats = 100;

// The chance that the quantity lies below `limit`.
double below(const Measured& m, double limit) {
    const double u = m.u();
    if (!(u > 0.0))
        return m.value() <= limit ? 1.0 : 0.0;
    const double z = (limit - m.value()) / u, dof = m.degreesOfFreedom();
    if (dof < 30.0)
        return boost::math::cdf(boost::math::students_t(std::max(1.0, std::floor(dof))), z);
    return boost::math::cdf(boost::math::normal(), z);
}

double distance(double value, const std::optional<double>& limit) {
    return limit ? std::fabs(value - *limit) : std::numeric_limits<double>::infinity();
}

} // namespace

std::string verdictKey(Verdict v) {
    switch (v) {
    case Verdict::Meets: return "meets";
    case Verdict::FallsShort: return "falls short";
    case Verdict::TooClose: return "too close to call";
    case Verdict::NotTested: return "not tested";
    }
    return {};
}

std::string verdictWords(Verdict v) { return sayAsItStands(verdictKey(v)); }

Decision decide(const Measured& finding, const Limits& claim) {
    const double value = finding.value(), expanded = finding.expanded();
    Decision d;
    d.nearest = distance(value, claim.low) <= distance(value, claim.high) ? *claim.low : *claim.high;
    d.chance = std::clamp(
        (claim.high ? below(finding, *claim.high) : 1.0) - (claim.low ? below(finding, *claim.low) : 0.0), 0.0, 1.0);
    if (claim.low && !(finding.u() > 0.0)) // a sharp value on its limit holds
        d.chance = claim.holds(value) ? 1.0 : 0.0;
    if (claim.holds(value - expanded) && claim.holds(value + expanded))
        d.verdict = Verdict::Meets;
    else if ((claim.low && value + expanded < *claim.low) || (claim.high && value - expanded > *claim.high))
        d.verdict = Verdict::FallsShort;
    else
        d.verdict = Verdict::TooClose;
    return d;
}

std::string chanceWords(double chance) {
    if (chance > 0.0 && chance < 0.01)
        return say("under 1 %");
    if (chance > 0.99 && chance < 1.0)
        return say("over 99 %");
    return show(Measured(std::round(chance * 100.0) / 100.0), Unit::Share);
}

Settling whatWouldSettle(const Measured& finding, const Limits& claim, std::optional<double> spread,
                         std::size_t count) {
    const double margin = std::min(distance(finding.value(), claim.low), distance(finding.value(), claim.high));
    struct Part {
        double squares = 0.0;
        const Contribution* greatest = nullptr;
        void add(const Contribution& c) {
            squares += c.u * c.u;
            if (!greatest || std::fabs(c.u) > std::fabs(greatest->u))
                greatest = &c;
        }
    } shared, own; // by all such runs, and of these alone
    for (const Contribution& c : finding.contributions()) {
        if (!c.source->isScatter())
            (c.source->scope == Scope::Run ? own : shared).add(c);
    }
    const bool sharedDecides = 2.0 * std::sqrt(shared.squares) >= margin;
    Settling s;
    if (spread && *spread > 0.0 && !sharedDecides) {
        for (int n = std::max(2, static_cast<int>(count) + 1); n <= kMostRepeats && !s.repeats; ++n) {
            const double common = shared.squares + own.squares * static_cast<double>(count) / n;
            const Measured then = Measured(finding.value(), std::sqrt(common), ErrorSource::ofBank("", "common"))
                                      .with(ErrorSource::scatterOf(""), *spread / std::sqrt(n), n - 1.0);
            if (then.expanded() < margin)
                s.repeats = n;
        }
    }
    s.another = !s.repeats && !spread && !sharedDecides && own.greatest;
    if (s.repeats)
        s.words = say("{} runs in all would settle it, if they scatter as these do.", std::to_string(*s.repeats));
    else if (s.another)
        s.words =
            say("The largest part of the doubt is \"{}\", of this run alone: one that leaves less open can settle it.",
                own.greatest->source->words());
    else if (shared.greatest && sharedDecides)
        s.words = say("More runs alone cannot settle it: the largest part of the doubt that they share is \"{}\".",
                      shared.greatest->source->words());
    else
        s.words = say("More than {} runs would be needed to settle it.", std::to_string(kMostRepeats));
    return s;
}

} // namespace otterstone::judgement
