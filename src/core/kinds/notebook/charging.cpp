#include "core/kinds/notebook/charging.h"

#include <algorithm>
#include <cmath>

namespace otterstone::kinds {

namespace {

constexpr double kDigit = 1.0;    // points
constexpr double kSlowing = 80.0; // from here on a charger gives less on purpose
constexpr double kLeastForPace = 5.0;
constexpr double kLongStill = 3600.0;
constexpr double kMissed = 3.0; // points that it would have gained meanwhile
constexpr double kSlower = 0.6;
constexpr double kSureMoments = 0.3; // of the time between two borders
constexpr double kSurePoints = 10.0; // over so many a pace is known to a tenth or two

double pointsAt(const Look& l) { return l.state.middle(); }
double halfOf(const Look& l) { return l.exact ? 0.0 : l.leds ? (l.state.high - l.state.low) / 2.0 : kDigit; }
bool isFull(const Look& l) { return l.state.low >= 100.0; }

double slope(const Look& a, const Look& b) { return b.at > a.at ? (pointsAt(b) - pointsAt(a)) / (b.at - a.at) : 0.0; }

// The pace before a look, or behind it, over so many points that their digits matter little; nothing where none is.
std::optional<double> paceBefore(const std::vector<Look>& looks, std::size_t k) {
    std::size_t from = k;
    while (from > 0 && pointsAt(looks[k]) - pointsAt(looks[from]) < kSurePoints)
        --from;
    return from < k ? std::optional(slope(looks[from], looks[k])) : std::nullopt;
}
std::optional<double> paceAfter(const std::vector<Look>& looks, std::size_t k) {
    std::size_t to = k;
    while (to + 1 < looks.size() && pointsAt(looks[to]) - pointsAt(looks[k]) < kSurePoints)
        ++to;
    return to > k ? std::optional(slope(looks[k], looks[to])) : std::nullopt;
}

// How far a curve that charges ever more slowly may bulge above the line between two looks, at a share of the way: its
// neighbours' lines, drawn on, meet there (half-width; the bulge is somewhere between nothing and that).
double bulge(const std::vector<Look>& looks, std::size_t k, double share) {
    const auto before = paceBefore(looks, k), after = paceAfter(looks, k + 1);
    const double span = looks[k + 1].at - looks[k].at;
    double here = slope(looks[k], looks[k + 1]);
    if (!before && !after)
        return std::fabs(here) * span / 2.0;
    if (before && after && std::fabs(pointsAt(looks[k + 1]) - pointsAt(looks[k])) < kSurePoints)
        here = (*before + *after) / 2.0;
    const double rise = before ? *before - here : here - *after;
    const double fall = after ? here - *after : *before - here;
    const double shape = 4.0 * share * (1.0 - share);
    if (rise <= 0.0 || fall <= 0.0)
        return std::max(std::fabs(rise), std::fabs(fall)) * span * shape / 8.0;
    return span * rise * fall / (rise + fall) * shape / 2.0;
}

ErrorSource lookSource(const Look& l, const std::string& run, const std::string& who) {
    return ErrorSource::ofRun(run, "display of " + who + ", row " + std::to_string(l.row + 1));
}

// Where one light more is lit than at the look before, the charge was just at their border some time between the two.
std::vector<Look> bordersOf(const std::vector<Look>& looks) {
    std::vector<Look> all;
    for (std::size_t k = 1; k < looks.size(); ++k) {
        if (!looks[k - 1].leds || !looks[k].leds || looks[k - 1].state.high != looks[k].state.low)
            continue;
        Look& border = all.emplace_back(looks[k]);
        border.at = (looks[k - 1].at + looks[k].at) / 2.0;
        border.slack = (looks[k].at - looks[k - 1].at) / 2.0;
        border.state.high = border.state.low;
        border.exact = true;
        border.leds = false;
    }
    return all;
}

class Reader {
public:
    Reader(const std::vector<Look>& looks, const std::string& run, const std::string& who)
        : looks_(looks), borders_(bordersOf(looks)), run_(run), who_(who) {}

    Charging read() {
        Charging c;
        c.from = at(looks_.front());
        c.to = at(looks_.back());
        c.seconds = looks_.back().at - looks_.front().at;
        c.gained = looks_.size() > 1 ? rise(looks_.front(), looks_.back()) : Measured(0.0);
        if (looks_.size() < 2)
            return c;
        pace(c);
        c.at30 = percentAfter(1800.0);
        c.at60 = percentAfter(3600.0);
        c.to80 = whenAt(kSlowing);
        c.toFull = whenFull();
        stuck(c);
        slowed(c);
        saidLeft(c);
        return c;
    }

private:
    Measured at(const Look& l) const { return stateOf(l, run_, who_); }

    // Lights are bounds: both ends may lie at the far side of theirs.
    [[nodiscard]] Measured rise(const Look& from, const Look& to) const {
        if (!from.leds && !to.leds)
            return at(to) - at(from);
        return Measured(pointsAt(to) - pointsAt(from), (halfOf(from) + halfOf(to)) / 2.0,
                        ErrorSource::ofRun(run_, "lights of " + who_));
    }
    [[nodiscard]] ErrorSource cameOn(const Look& l) const {
        return ErrorSource::ofRun(run_, "when a light of " + who_ + " came on, row " + std::to_string(l.row + 1));
    }

    // Between the first border of lights and the last one up to 80 %, where their moments are known well enough.
    [[nodiscard]] bool paceByBorders(Charging& c) const {
        const Look *from = nullptr, *to = nullptr;
        for (const Look& l : borders_) {
            if (pointsAt(l) > kSlowing)
                continue;
            from = from ? from : &l;
            to = &l;
        }
        if (!from || from == to || from->slack + to->slack > kSureMoments * (to->at - from->at))
            return false;
        const Measured hours = Measured((to->at - from->at) / 3600.0)
                                   .with(cameOn(*from), rectangular(from->slack) / 3600.0)
                                   .with(cameOn(*to), rectangular(to->slack) / 3600.0);
        c.pace = Measured(pointsAt(*to) - pointsAt(*from)) / hours;
        c.paceFrom = pointsAt(*from);
        c.paceTo = pointsAt(*to);
        return true;
    }

    void pace(Charging& c) const {
        if (paceByBorders(c))
            return;
        const Look& first = looks_.front();
        std::size_t last = 0;
        for (std::size_t k = 1; k < looks_.size(); ++k) {
            if (pointsAt(looks_[k]) <= kSlowing + kDigit && !isFull(looks_[k]))
                last = k;
        }
        if (last == 0 || pointsAt(looks_[last]) - pointsAt(first) < kLeastForPace) {
            // To the first look that had as much as any; full may have come at any time since the look before.
            last = 0;
            for (std::size_t k = 1; k < looks_.size(); ++k) {
                if (!isFull(looks_[k]) && pointsAt(looks_[k]) > pointsAt(looks_[last]))
                    last = k;
            }
            if (pointsAt(looks_.back()) < pointsAt(first)) // it lost
                last = looks_.size() - 1;
        }
        const double hours = (looks_[last].at - first.at) / 3600.0;
        if (hours <= 0.0 || std::fabs(pointsAt(looks_[last]) - pointsAt(first)) < kLeastForPace)
            return;
        c.pace = rise(first, looks_[last]) / Measured(hours);
        c.paceFrom = pointsAt(first);
        c.paceTo = pointsAt(looks_[last]);
    }

    // By lights: on the line between two borders, where both moments are known well enough; else between the bounds of
    // the looks around it.
    [[nodiscard]] std::optional<Measured> percentByLights(double when) const {
        for (std::size_t k = 0; k + 1 < borders_.size(); ++k) {
            const Look &a = borders_[k], &b = borders_[k + 1];
            const double span = b.at - a.at;
            if (when < a.at + a.slack || when > b.at - b.slack || a.slack + b.slack > kSureMoments * span)
                continue;
            const double share = (when - a.at) / span, pace = slope(a, b);
            return Measured(pointsAt(a) + share * (pointsAt(b) - pointsAt(a)))
                .with(cameOn(a), pace * (1.0 - share) * rectangular(a.slack))
                .with(cameOn(b), pace * share * rectangular(b.slack))
                .with(ErrorSource::ofRun(run_, "between the looks at " + who_), rectangular(bulge(borders_, k, share)));
        }
        for (std::size_t k = 0; k + 1 < looks_.size(); ++k) {
            if (!(looks_[k].at <= when && when <= looks_[k + 1].at))
                continue;
            const double low = looks_[k].state.low,
                         high = looks_[k].at == when ? looks_[k].state.high : looks_[k + 1].state.high;
            if (high - low > 2.0 * kSteep)
                return std::nullopt;
            return Measured((low + high) / 2.0, rectangular((high - low) / 2.0),
                            ErrorSource::ofRun(run_, "lights of " + who_));
        }
        return std::nullopt;
    }

    std::optional<Measured> percentAfter(double seconds) const {
        const double when = looks_.front().at + seconds;
        if (std::ranges::any_of(looks_, &Look::leds))
            return percentByLights(when);
        for (std::size_t k = 0; k < looks_.size(); ++k) {
            if (looks_[k].at == when)
                return at(looks_[k]);
        }
        for (std::size_t k = 0; k + 1 < looks_.size(); ++k) {
            if (!(looks_[k].at < when && when < looks_[k + 1].at))
                continue;
            // What came between two looks half a charge apart can be anything.
            if (std::fabs(pointsAt(looks_[k + 1]) - pointsAt(looks_[k])) > kSteep || isFull(looks_[k + 1]))
                return std::nullopt;
            const double share = (when - looks_[k].at) / (looks_[k + 1].at - looks_[k].at);
            return (at(looks_[k]) * Measured(1.0 - share) + at(looks_[k + 1]) * Measured(share))
                .with(ErrorSource::ofRun(run_, "between the looks at " + who_), rectangular(bulge(looks_, k, share)));
        }
        return std::nullopt;
    }

    // Lights say no more than which borders it lay between.
    std::optional<Measured> whenByLights(double percent) const {
        const auto after = std::ranges::find_if(looks_, [&](const Look& l) { return l.state.low >= percent; });
        if (after == looks_.end())
            return std::nullopt;
        auto before = after;
        while (before != looks_.begin() && before->state.high > percent)
            --before;
        if (before->state.high > percent) // it may have begun there
            return std::nullopt;
        return Measured((before->at + after->at) / 2.0 - looks_.front().at, rectangular((after->at - before->at) / 2.0),
                        ErrorSource::ofRun(run_, "between the looks at " + who_));
    }

    // Nothing when it began there already or never was.
    std::optional<Measured> whenAt(double percent) const {
        if (std::ranges::any_of(looks_, &Look::leds))
            return whenByLights(percent);
        if (pointsAt(looks_.front()) >= percent - kDigit)
            return std::nullopt;
        const auto after =
            std::find_if(looks_.begin() + 1, looks_.end(), [&](const Look& l) { return pointsAt(l) >= percent; });
        if (after == looks_.end())
            return std::nullopt;
        const Look &b = *after, &a = *(after - 1);
        const auto k = static_cast<std::size_t>(after - looks_.begin()) - 1;
        const double begin = looks_.front().at, span = b.at - a.at;
        const ErrorSource between = ErrorSource::ofRun(run_, "between the looks at " + who_);
        const double rise = pointsAt(b) - pointsAt(a);
        // One digit more or less is so much time at the pace around it, not at that of two looks a digit apart.
        const auto before = paceBefore(looks_, k + 1), behind = paceAfter(looks_, k);
        double pace = before && behind ? (*before + *behind) / 2.0 : before ? *before : behind.value_or(0.0);
        pace = pace > 0.0 ? pace : rise / span;
        const Measured bounded = Measured((a.at + b.at) / 2.0 - begin, rectangular(span / 2.0), between)
                                     .with(lookSource(b, run_, who_), rectangular(kDigit) / pace);
        if (isFull(b) || rise > kSteep)
            return bounded;
        const double share = (percent - pointsAt(a)) / rise;
        // Looks so close that the digit wavers: half way between the first above and the last below.
        std::size_t below = k;
        for (std::size_t n = k + 2; n < looks_.size() && pointsAt(looks_[n]) <= percent + 2.0 * kDigit; ++n) {
            if (pointsAt(looks_[n]) < percent)
                below = n;
        }
        if (below > k)
            return Measured((b.at + looks_[below].at) / 2.0 - begin)
                .with(lookSource(b, run_, who_), rectangular(kDigit) / pace);
        const Measured line =
            Measured(a.at + share * span - begin)
                .with(lookSource(a, run_, who_), (a.exact ? 0.0 : rectangular(kDigit)) * (1.0 - share) / pace)
                .with(lookSource(b, run_, who_), rectangular(kDigit) * share / pace)
                .with(between, rectangular(bulge(looks_, k, share)) / pace);
        return line.u() < bounded.u() ? line : bounded;
    }

    std::optional<Between> whenFull() const {
        const auto full = std::find_if(looks_.begin(), looks_.end(), isFull);
        if (full == looks_.begin() || full == looks_.end())
            return std::nullopt;
        const double begin = looks_.front().at;
        return Between{(full - 1)->at - begin, full->at - begin};
    }

    void stuck(Charging& c) const {
        for (std::size_t k = 1; k < looks_.size(); ++k) {
            if (looks_[k].leds || isFull(looks_[k]) || looks_[k].state.low >= 99.0)
                continue;
            std::size_t end = k;
            while (end + 1 < looks_.size() && pointsAt(looks_[end + 1]) == pointsAt(looks_[k]))
                ++end;
            const double seconds = looks_[end].at - looks_[k].at;
            const double before = slope(looks_.front(), looks_[k]);
            // A taper stands still for a while, too; from 90 % on it takes longer to tell.
            if (seconds >= kLongStill && before * seconds >= (pointsAt(looks_[k]) >= 90.0 ? 20.0 : kMissed) &&
                (!c.stuck || seconds > c.stuck->seconds))
                c.stuck = Stuck{pointsAt(looks_[k]), looks_[k].at - looks_.front().at, seconds};
        }
    }

    // Below 80 % nothing but heat or a limit slows it.
    void slowed(Charging& c) const {
        for (std::size_t k = 1; k + 1 < looks_.size(); ++k) {
            if (pointsAt(looks_[k]) >= kSlowing - 5.0 || looks_[k].leds)
                continue;
            std::size_t end = k + 1;
            while (end + 1 < looks_.size() && pointsAt(looks_[end + 1]) <= kSlowing)
                ++end;
            if (isFull(looks_[end]) || pointsAt(looks_[end]) > kSlowing + kDigit)
                continue;
            const double gainedBefore = pointsAt(looks_[k]) - pointsAt(looks_.front());
            const double before = slope(looks_.front(), looks_[k]), after = slope(looks_[k], looks_[end]);
            const double seconds = looks_[end].at - looks_[k].at;
            // Both must be known well enough: two digits on what was gained, and on what would have been.
            if (gainedBefore < 10.0 || before * seconds < 10.0 || after > kSlower * before || after < 0.0)
                continue;
            if (!c.slowed || after / before < c.slowed->after / c.slowed->before)
                c.slowed = Slowed{pointsAt(looks_[k]), looks_[k].at - looks_.front().at, before * 3600.0,
                                  after * 3600.0, looks_[k].celsius};
        }
    }

    void saidLeft(Charging& c) const {
        if (!c.toFull)
            return;
        const auto said = std::find_if(looks_.begin(), looks_.end(), [](const Look& l) { return l.left.has_value(); });
        const double begin = looks_.front().at;
        if (said == looks_.end() || said->at - begin > c.toFull->low)
            return;
        c.saidLeft = SaidLeft{
            said->at - begin, *said->left, {c.toFull->low - (said->at - begin), c.toFull->high - (said->at - begin)}};
    }

    static constexpr double kSteep = 25.0;

    const std::vector<Look>& looks_;
    const std::vector<Look> borders_;
    const std::string& run_;
    const std::string& who_;
};

} // namespace

bool tellsMuch(const Measured& seconds) { return seconds.expanded() <= 0.5 * seconds.value(); }

Measured stateOf(const Look& look, const std::string& run, const std::string& who) {
    const double half = halfOf(look);
    return half > 0.0 ? Measured(pointsAt(look), rectangular(half), lookSource(look, run, who))
                      : Measured(pointsAt(look));
}

Charging chargingOf(const std::vector<Look>& looks, const std::string& run, const std::string& who) {
    return Reader(looks, run, who).read();
}

} // namespace otterstone::kinds
