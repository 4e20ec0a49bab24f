// The runner's steps: what each does to instruments and hands, when it is over, and what is tried after an output went
// off.
#include <nlohmann/json.hpp>

#include "bench/runner/runner.h"
#include "bench/runner/runner_source.h"
#include "core/quantity/format.h"

namespace otterstone::bench {

namespace {

constexpr double kAskSeconds = 2.0;  // a tier is settled by then
constexpr double kTailSeconds = 2.0; // watched on after a stop that was not orderly
constexpr double kHandsSeconds = 1.0;

} // namespace

void Runner::beginStep() {
    const double now = clock_.now();
    stepSince_ = now;
    // What is only done where an output went off: begun then, it goes on to the step that shows something.
    const auto& all = plan_.recipe.steps;
    const bool goesOn = step_ > 0 && step_ <= all.size() && all[step_ - 1].ifGone && all[step_ - 1].as.empty();
    while (step_ < all.size() && all[step_].ifGone && !goesOn && !outputGone_)
        ++step_;
    if (step_ >= plan_.recipe.steps.size()) {
        endRun(gone_ ? *gone_ : Stop{StopKind::Done, "all steps are done"});
        return;
    }
    const Step& s = plan_.recipe.steps[step_];
    // An output that goes away ends any step that draws something; a drain's end and a trip look alike.
    stops_->watchFor(s.what == Step::Do::Load && !s.off && s.load == 1 && !gone_, s.ends == Ends::AtTaper,
                     s.ends == Ends::WhenSettled, now);
    switch (s.what) {
    case Step::Do::Ask: {
        const int which = s.load == 2 ? 1 : 0;
        const label::Tier& tier = tiers_[which] = tierFor(s, plan_.label);
        if (ScpiDevice* trigger = triggers_[which].get()) {
            trigger->set("ask.volts", tier.high.value);
            trigger->set("ask.amps", tier.amps.value);
            trigger->checkErrors();
        }
        if (which != 0)
            break;
        Limits limits = stops_->limits();
        const auto volts = [&tier](std::optional<double> given, double otherwise) {
            return !given ? otherwise : *given < kShareBelow ? *given * tier.high.value : *given;
        };
        limits.lowVolts = volts(plan_.recipe.lowVolts, plan_.limits.lowVolts);
        limits.highVolts = volts(plan_.recipe.highVolts, plan_.limits.highVolts);
        stops_->setLimits(limits);
        break;
    }
    case Step::Do::Tell:
        if (s.hands == Hands::Replug || s.hands == Hands::Source)
            loadsOff(); // nothing is plugged in under load
        if (plan_.rehearsal && s.hands) {
            sayToHands(s);
        } else {
            phase_ = Phase::Waiting;
        }
        break;
    case Step::Do::Rest: break;
    case Step::Do::Load: applyLoad(s); break;
    }
    watch_.begin(s, tierOf(s).high.value,
                 s.what == Step::Do::Load && !s.off ? s.again ? goneLevel_ : levelAt(s, tierOf(s)) : 0.0,
                 sources_.empty() ? 0.0 : sources_.front()->keeper.at(now));
    watch_.expect(loadOn_, secondOn_);
    tell(true);
}

// What a person would do at a bench of plugs and buttons, said to the stand-in.
void Runner::sayToHands(const Step& s) {
    std::string command = handsCommand(*s.hands);
    if (s.hands == Hands::Load || s.hands == Hands::LoadOut)
        command += " " + std::to_string(s.load) + " " + (s.hands == Hands::Load ? s.port : "OUT");
    else if (s.hands == Hands::Source)
        command += " " + (s.source >= 0 && static_cast<std::size_t>(s.source) < plan_.sources.size()
                              ? plan_.sources[static_cast<std::size_t>(s.source)].details
                              : std::string("{}"));
    askControl(QByteArray::fromStdString(command));
}

void Runner::applyLoad(const Step& s) {
    const double now = clock_.now();
    steadySince_ = now;
    for (int which = 0; which < 2; ++which) {
        if (!loads_[which])
            continue;
        const bool mine = which == s.load - 1;
        if (!mine) {
            if (!s.keepOther) {
                if (!loads_[which]->isOff())
                    loads_[which]->switchOff();
                (which == 0 ? loadOn_ : secondOn_) = false;
            }
            continue;
        }
        if (s.off) {
            loads_[which]->switchOff();
            secondOn_ = which == 1 ? false : secondOn_;
            if (which == 0) {
                loadOn_ = false;
                stops_->expect(0.0, now);
            }
            continue;
        }
        const char* mode = s.mode == Mode::Current ? "cc" : s.mode == Mode::Power ? "cp" : "cr";
        const double level = s.again ? goneLevel_ : levelAt(s, tierOf(s));
        loads_[which]->set(std::string("mode.") + mode);
        loads_[which]->set(std::string("level.") + mode, level);
        loads_[which]->set("on");
        loads_[which]->checkErrors();
        (which == 0 ? loadOn_ : secondOn_) = wasOn_[which] = true;
        const double volts = tierOf(s).high.value;
        const double amps = s.mode == Mode::Current ? level
                            : s.mode == Mode::Power ? level / volts
                            : level > 0.0           ? volts / level
                                                    : 0.0;
        if (which == 0)
            stops_->expect(amps, now);
    }
}

// What the present step showed.
void Runner::closeStep() {
    if (step_ >= plan_.recipe.steps.size() || sources_.empty())
        return;
    const Step& s = plan_.recipe.steps[step_];
    if (s.what == Step::Do::Load && !s.off)
        outputGone_ = watch_.gone();
    seen_.push_back(watch_.end(sources_.front()->keeper.at(clock_.now())));
}

void Runner::nextStep() {
    if (phase_ == Phase::Waiting)
        phase_ = Phase::Running;
    closeStep();
    if (gone_ && !plan_.recipe.steps[step_].as.empty() && watch_.flows()) {
        // It is back: nothing more need be tried.
        mark(records::Mark::What::Note, std::nullopt, "the output is on again");
        const Stop stop = *gone_;
        step_ = plan_.recipe.steps.size();
        endRun(stop);
        return;
    }
    ++step_;
    beginStep();
}

void Runner::markPlugged(const Step& told) {
    if (const auto in = told.hands ? plugs(*told.hands) : std::nullopt)
        mark(*in ? records::Mark::What::Plugged : records::Mark::What::Unplugged, std::nullopt, "");
}

void Runner::goOn() {
    if (phase_ != Phase::Waiting)
        return;
    const Step& s = plan_.recipe.steps[step_];
    markPlugged(s);
    nextStep();
}

// The step is over, or the run is: which, the kind of stop and the step say.
void Runner::stepOver(const Stop& stop) {
    const Step& s = plan_.recipe.steps[std::min(step_, plan_.recipe.steps.size() - 1)];
    if ((stop.kind == StopKind::CutOff || stop.kind == StopKind::InstrumentLost) && plan_.recipe.goneMeans == "noted") {
        mark(records::Mark::What::Note, std::nullopt, "the output went off");
        stops_->watchFor(false, s.ends == Ends::AtTaper, s.ends == Ends::WhenSettled, clock_.now());
        return;
    }
    if (stop.kind == StopKind::CutOff && !plan_.recipe.afterGone.empty() && !gone_) {
        tryToBringBack(stop);
        return;
    }
    const bool stepsEnd = stop.kind == StopKind::TaperEnd || stop.kind == StopKind::Settled;
    if (stepsEnd && (s.ends == Ends::AtTaper || s.ends == Ends::WhenSettled) && step_ + 1 < plan_.recipe.steps.size()) {
        mark(records::Mark::What::Note, std::nullopt, stop.why);
        nextStep();
        return;
    }
    endRun(stop);
}

// The steps that remain give way to those that bring an output back.
void Runner::tryToBringBack(const Stop& stop) {
    const Step s = plan_.recipe.steps[step_]; // a copy: the steps move below
    goneLevel_ = levelAt(s, tierOf(s));
    if (plan_.recipe.goneMeans == "trip")
        mark(records::Mark::What::Trip, std::nullopt, "over-current");
    else
        mark(records::Mark::What::Note, std::nullopt, stop.why);
    closeStep();
    gone_ = stop;
    loadsOff();
    auto& steps = plan_.recipe.steps;
    steps.resize(step_ + 1);
    steps.insert(steps.end(), plan_.recipe.afterGone.begin(), plan_.recipe.afterGone.end());
    for (std::size_t k = step_ + 1; k < steps.size(); ++k) {
        if (steps[k].port.empty())
            steps[k].port = s.port;
    }
    progress_.steps = steps.size();
    ++step_;
    beginStep();
}

void Runner::checkSteps(double now) {
    if (phase_ == Phase::Closing) {
        const double tail = stop_ && isOrderly(stop_->kind) && stop_->kind != StopKind::Tester
                                ? plan_.recipe.closingSeconds
                                : kTailSeconds;
        if (now - closingSince_ >= tail && !finishing_) {
            finishing_ = true;
            flush();
            if (plan_.rehearsal)
                askControl("TRUTh?", [this](const QByteArray& line) {
                    const auto j = nlohmann::json::parse(line.toStdString(), nullptr, false);
                    if (j.is_object())
                        trueAfter_ = mainRole() == role::meter ? j.value("out_wh", 0.0) : j.value("in_wh", 0.0);
                    close(stop_->why);
                });
            if (!plan_.rehearsal || !control_ || control_->state() != QAbstractSocket::ConnectedState)
                close(stop_->why);
        }
        return;
    }
    if (phase_ != Phase::Running)
        return;
    const Step& s = plan_.recipe.steps[step_];
    const double since = now - stepSince_;
    const bool over = s.what == Step::Do::Ask    ? since >= (triggers_[0] || triggers_[1] ? kAskSeconds : 0.0)
                      : s.what == Step::Do::Tell ? since >= kHandsSeconds
                      : s.off                    ? true
                                                 : s.seconds > 0.0 && since >= s.seconds;
    if (!over)
        return;
    markPlugged(s);
    nextStep();
}

} // namespace otterstone::bench
