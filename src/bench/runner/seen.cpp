#include "bench/runner/seen.h"

#include <algorithm>
#include <cmath>

#include "core/label/port_rules.h"
#include "core/quantity/format.h"

namespace otterstone::bench {

namespace {

constexpr double kFlowsAmps = 0.005;

} // namespace

void StepWatch::begin(const Step& step, double askedVolts, double level, double now) {
    seen_ = {};
    seen_.step = step;
    seen_.askedVolts = askedVolts;
    seen_.level = level;
    from_ = now;
    out_.clear();
    in_.clear();
}

void StepWatch::reading(double time, double volts, double amps) {
    last_ = Reading{time, volts, amps};
    if (keep_)
        out_.push_back(*last_);
}

void StepWatch::inReading(double time, double volts, double amps) {
    if (keep_)
        in_.push_back({time, volts, amps});
}
void StepWatch::secondReading(double volts, double amps) { second_ = Reading{0.0, volts, amps}; }

bool StepWatch::flows() const { return last_ && !label::outputGone(last_->volts) && last_->amps >= kFlowsAmps; }

bool StepWatch::gone() const {
    return (firstLoaded_ && last_ && !flows()) ||
           (secondLoaded_ && second_ && (label::outputGone(second_->volts) || second_->amps < kFlowsAmps));
}

SeenStep StepWatch::end(double now) const {
    SeenStep s = seen_;
    s.seconds = now - from_;
    const double half = from_ + 0.5 * s.seconds;
    const auto mean = [half](const std::vector<Reading>& all, std::optional<double>& volts,
                             std::optional<double>& amps) {
        double v = 0.0, a = 0.0;
        int n = 0;
        for (const Reading& r : all) {
            if (r.time < half)
                continue;
            v += r.volts;
            a += r.amps;
            ++n;
        }
        if (n > 0) {
            volts = v / n;
            amps = a / n;
        }
    };
    mean(out_, s.volts, s.amps);
    mean(in_, s.inVolts, s.inAmps);
    if (secondLoaded_ && second_) {
        s.secondVolts = second_->volts;
        s.secondAmps = second_->amps;
    }
    const double expected =
        s.step.what == Step::Do::Load && s.step.load == 1 && s.step.mode == Mode::Current ? s.level : 4.0 * kFlowsAmps;
    for (std::size_t k = 0; k < out_.size(); ++k) {
        const bool on = !label::outputGone(out_[k].volts) && out_[k].amps >= kGoneShare * expected;
        if (on && !s.flowedAfter)
            s.flowedAfter = out_[k].time - from_;
        if (on)
            s.wentOffAfter.reset();
        else if (!s.wentOffAfter)
            s.wentOffAfter = out_[k].time - from_;
        if (!on && k > 0)
            s.outFor += out_[k].time - out_[k - 1].time;
    }
    return s;
}

} // namespace otterstone::bench
