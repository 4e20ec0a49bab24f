#include "core/kinds/traced/points.h"

#include <algorithm>
#include <cmath>

#include "core/kinds/traced/context.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

using path::Point;

// A trace of the run with its sums, on the true clock.
struct Known {
    Point point;
    bool byDisplay = false;
    const trace::Trace* trace = nullptr;
    path::Meter meter;
    double onset = 0.0;
    trace::EnergyFigures figures;
};

std::string nameOf(Point p, bool byDisplay) { return byDisplay ? say("the bank's display") : path::pointWords(p); }

// One stretch between neighbouring points of the chain.
struct Stretch {
    std::string name;
    std::optional<Measured> ohms;
    std::optional<Measured> efficiency;
};

std::vector<Stretch> stretches(const Setup& s, bool drain) {
    const Stretch cable{s.cableName, s.pathOhms, std::nullopt};
    const Stretch far{s.farCableName, s.farOhms, std::nullopt};
    if (drain)
        return {cable, far};
    return {{"charger", std::nullopt, s.chargerEfficiency}, far, cable};
}

class Chain {
public:
    Chain(const Context& c, Finding& f)
        : c_(c), f_(f), drain_(f.kind == Kind::Drain), order_(pointsAlong(drain_)), links_(stretches(c.setup, drain_)) {
    }

    void work() {
        gather();
        if (c_.setup.ownDraw)
            ownDraw_ = path::ownDrawEnergy(*c_.setup.ownDraw, c_.totals.voltHours, c_.totals.hours,
                                           c_.energy.wattHours.u(), c_.setup.meter.name);
        measureLinks();
        for (std::size_t k = 0; k < order_.size(); ++k)
            figureAt(k);
        // The other side of the bank, in a run that reads input and output at once.
        for (const Known& r : known_) {
            if (std::find(order_.begin(), order_.end(), r.point) != order_.end())
                continue;
            PointFigure p{r.point, true, r.byDisplay, r.trace == &c_.trace ? energyWorking(c_, f_) : readWorking(r)};
            p.energy.key = "energy_at:" + path::pointName(r.point) + (r.byDisplay ? " (display)" : "");
            f_.points.push_back(std::move(p));
        }
        for (std::size_t k = 0; k + 1 < order_.size(); ++k)
            linkAt(k);
        settlePort();
    }

private:
    void gather() {
        known_.push_back({c_.setup.point, c_.setup.byDisplay, &c_.trace, c_.setup.meter, c_.onset, c_.energy});
        traces_.reserve(c_.setup.also.size());
        for (const Reading& r : c_.setup.also) {
            if (!r.trace || r.trace->size() < 2)
                continue;
            trace::Trace t = r.clock.value() == 1.0 ? *r.trace : rescaled(*r.trace, r.clock.value());
            const double gap = c_.setup.hand ? HUGE_VAL : trace::gapThreshold(trace::medianStep(t.time));
            const trace::GapRule rule = c_.setup.schools.gaps;
            auto plateau = findPlateau(t, gap);
            auto totals = integrate(t, plateau, gap, rule);
            if (totals.wattHours < 0.0) {
                reverseDirection(t);
                plateau = findPlateau(t, gap);
                totals = integrate(t, plateau, gap, rule);
            }
            double onset = onsetOf(t, plateau);
            if (r.shift)
                onset = known_.front().onset - *r.shift;
            if (c_.setup.from || c_.setup.to) {
                // The same window as the main trace's, on this one's clock.
                const double shift = known_.front().onset - onset;
                const double k = c_.setup.clock.value();
                t = cropped(t, c_.setup.from ? *c_.setup.from * k - shift : -HUGE_VAL,
                            c_.setup.to ? *c_.setup.to * k - shift : HUGE_VAL);
                if (t.size() < 2)
                    continue;
                totals = integrate(t, plateau, gap, rule);
            }
            traces_.push_back(std::move(t));
            known_.push_back({r.point, r.byDisplay, &traces_.back(), r.meter, onset,
                              energyFigures(traces_.back(), totals, trace::blocksOf(traces_.back(), gap),
                                            {r.meter, r.clock, c_.setup.hand.value_or(trace::Between::Joined),
                                             c_.setup.run + " " + path::pointName(r.point), !drain_})});
        }
    }

    [[nodiscard]] const Known* knownAt(std::size_t k) const {
        for (const Known& r : known_) {
            if (r.point == order_[k] && !r.byDisplay)
                return &r;
        }
        for (const Known& r : known_) {
            if (r.point == order_[k])
                return &r;
        }
        return nullptr;
    }

    // Two meters around a cable measure it; that stands before what is stated of it.
    void measureLinks() {
        measured_.resize(links_.size());
        for (std::size_t k = 0; k < links_.size(); ++k) {
            const Known* a = knownAt(k);
            const Known* b = knownAt(k + 1);
            if (!a || !b || a->byDisplay || b->byDisplay || order_[k] == Point::Wall)
                continue;
            auto fit = resistanceBetween(*a->trace, a->meter, *b->trace, b->meter, a->onset - b->onset, c_.setup.run);
            if (!fit)
                continue;
            if (fit->ohms.value() <= 0.0) {
                if (fit->ohms.value() + fit->ohms.expanded() < 0.0)
                    f_.warnings.push_back(
                        {"negative_resistance",
                         say("Two meters around {} give {}: the one nearer to the source read less. Exchange their points, or hold both to one voltage and set their clocks and accuracies right.",
                             links_[k].name, show(fit->ohms, Unit::Ohm))});
                continue; // within its doubt of nothing it says nothing that could be used
            }
            Working& w = fit->working;
            w.label = say("{}: loop resistance", links_[k].name);
            w.point = say("{} to {}", path::pointWords(order_[k]), path::pointWords(order_[k + 1]));
            if (links_[k].ohms) {
                const Measured off = fit->ohms - *links_[k].ohms;
                w.note = say("{}; stated as {}{}", w.note, show(*links_[k].ohms, Unit::Ohm),
                             (std::fabs(off.value()) <= std::max(off.expanded(), 1e-12)
                                  ? say(", which agrees")
                                  : say(", which does not agree: correct it in the gear drawer")));
                if (std::fabs(off.value()) > off.expanded())
                    f_.warnings.push_back(
                        {"cable_differs", say("Two meters around {} give {} where {} is stated.", links_[k].name,
                                              show(fit->ohms, Unit::Ohm), show(*links_[k].ohms, Unit::Ohm))});
            }
            links_[k].ohms = fit->ohms;
            measured_[k] = w;
        }
    }

    // Energy at chain position `to`, from the reading at position `from`; nothing when a stretch between is unknown.
    [[nodiscard]] std::optional<Working> referred(std::size_t from, std::size_t to, const Known& r) const {
        Working w;
        w.unit = Unit::WattHour;
        w.value = r.figures.wattHours;
        w.formula = showValue(r.figures.wattHours, Unit::WattHour);
        bool hasCurrent = r.trace->hasCurrent() && order_[from] != Point::Wall;
        while (from != to) {
            const bool up = to < from; // towards the source
            const Stretch& s = links_[up ? from - 1 : from];
            if (s.efficiency) {
                w.value = up ? w.value / *s.efficiency : w.value * *s.efficiency;
                w.formula += (up ? " ÷ " : " × ") + showNumber(s.efficiency->value() * 100.0, 4) + " %";
                hasCurrent = hasCurrent && up;
            } else if (s.ohms && hasCurrent) {
                const Measured loss = *s.ohms * r.figures.squareAmpHours;
                w.value = up ? w.value + loss : w.value - loss;
                w.formula += (up ? " + " : " − ") + showNumber(s.ohms->value(), 4) + " Ω × " +
                             showNumber(r.figures.squareAmpHours.value(), 4) + " A²h";
                Working lost;
                lost.label = say("lost in {}", s.name);
                lost.formula = say("R × ∫ I² dt, sample by sample, not by the mean current");
                lost.value = loss;
                lost.unit = Unit::WattHour;
                lost.point = say("{} to {}", path::pointWords(order_[std::min(from, up ? from - 1 : from + 1)]),
                                 path::pointWords(order_[std::max(from, up ? from - 1 : from + 1)]));
                w.parts.push_back(lost);
            } else {
                return std::nullopt;
            }
            from = up ? from - 1 : from + 1;
        }
        return w;
    }

    void figureAt(std::size_t k) {
        PointFigure p;
        p.point = order_[k];
        const std::string where = path::pointWords(order_[k]);
        for (const Known& r : known_) {
            if (r.point != order_[k])
                continue;
            p.byDisplay = r.byDisplay;
            p.energy = r.trace == &c_.trace ? energyWorking(c_, f_) : readWorking(r);
            p.energy.key = "energy_at:" + path::pointName(r.point) + (r.byDisplay ? " (display)" : "");
            f_.points.push_back(p);
        }
        if (knownAt(k))
            return;
        std::optional<Working> best;
        std::size_t bestDistance = order_.size();
        for (const Known& r : known_) {
            const auto at = static_cast<std::size_t>(std::find(order_.begin(), order_.end(), r.point) - order_.begin());
            const std::size_t distance = at > k ? at - k : k - at;
            if (at == order_.size() || r.byDisplay || distance >= bestDistance)
                continue;
            if (auto w = referred(at, k, r)) {
                w->note = say("referred from the {}", path::pointWords(r.point));
                w->parts.push_back(r.trace == &c_.trace ? energyWorking(c_, f_) : readWorking(r));
                best = std::move(w);
                bestDistance = distance;
            }
        }
        if (!best && k == 0 && drain_ && ownDraw_ && ownDraw_->matters) {
            // The cable is not known, what the meter takes itself is.
            ownDrawOnly_ = true;
            best.emplace();
            best->unit = Unit::WattHour;
            best->value = c_.energy.wattHours;
            best->formula = showValue(c_.energy.wattHours, Unit::WattHour);
            best->note = say("with what the meter takes itself; the cable's loss is not known and not in it");
            best->parts = {energyWorking(c_, f_)};
            f_.warnings.push_back(
                {"cable_unknown",
                 say("The cable between port and meter is not known: its loss is not in the port's figure.")});
        }
        if (!best)
            return;
        p.read = false;
        p.energy = std::move(*best);
        if (drain_ && k == 0 && ownDraw_) {
            if (ownDraw_->matters) {
                p.energy.value = p.energy.value + ownDraw_->wattHours;
                p.energy.formula = say("{} + {} for the meter itself", p.energy.formula,
                                       showValue(ownDraw_->wattHours, Unit::WattHour));
            }
            p.energy.parts.push_back(ownDraw_->working);
        }
        p.energy.key = "energy_at:" + path::pointName(order_[k]);
        p.energy.label = say("energy at the {}", where);
        p.energy.point = where;
        f_.points.push_back(std::move(p));
    }

    [[nodiscard]] Working readWorking(const Known& r) const {
        Working w;
        w.label = say("energy at the {}", nameOf(r.point, r.byDisplay));
        w.formula = r.trace->hasCurrent() ? say("∫ V·I dt, trapezoids on the samples as they are")
                                          : say("∫ P dt, trapezoids on the samples");
        w.value = r.figures.wattHours;
        w.unit = Unit::WattHour;
        w.point = path::pointWords(r.point);
        const std::string accuracy = path::showMeter(r.meter);
        w.parts = {remark("samples", say("{} samples, read by {}", std::to_string(r.trace->size()),
                                         (r.byDisplay ? say("the bank's own display") : r.meter.name))),
                   remark("accuracy of the meter", accuracy.empty() ? say("not stated") : accuracy)};
        w.partialDoubt = !r.meter.accuracyKnown();
        return w;
    }

    [[nodiscard]] const PointFigure* figureOf(Point p) const {
        for (const PointFigure& x : f_.points) {
            if (x.point == p && !x.byDisplay)
                return &x;
        }
        return nullptr;
    }

    void linkAt(std::size_t k) {
        const PointFigure* a = figureOf(order_[k]);
        const PointFigure* b = figureOf(order_[k + 1]);
        if (!a && !b)
            return;
        LinkFigure link;
        link.from = order_[k];
        link.to = order_[k + 1];
        link.name = links_[k].name;
        if (a && b)
            link.lossWattHours = a->energy.value.value() - b->energy.value.value();
        link.ohms = measured_[k];
        f_.links.push_back(std::move(link));
    }

    void settlePort() {
        const Point port = drain_ ? Point::BankOut : Point::BankIn;
        if (const PointFigure* p = figureOf(port)) {
            f_.portWattHours = p->energy.value;
            f_.referred = !ownDrawOnly_;
        } else {
            f_.portWattHours = f_.wattHours;
            f_.referred = false;
        }
    }

    const Context& c_;
    Finding& f_;
    bool drain_;
    const std::vector<Point>& order_;
    std::vector<Stretch> links_;
    std::vector<Known> known_;
    std::vector<trace::Trace> traces_;
    std::vector<std::optional<Working>> measured_;
    std::optional<path::OwnDrawEstimate> ownDraw_;
    bool ownDrawOnly_ =
        false; ///< the port's figure is the meter's and what it takes itself, since the cable is not known
};

} // namespace

const std::vector<Point>& pointsAlong(bool drain) {
    static const std::vector<Point> kDrain = {Point::BankOut, Point::Meter, Point::Load};
    static const std::vector<Point> kRecharge = {Point::Wall, Point::Charger, Point::Meter, Point::BankIn};
    return drain ? kDrain : kRecharge;
}

void findPoints(const Context& c, Finding& f) { Chain(c, f).work(); }

} // namespace otterstone::kinds
