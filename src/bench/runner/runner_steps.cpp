// The runner's steps: what each does to instruments and hands, when it is over, and what is tried after an output went
// off.
#include <nlohmann/json.hpp>

#include "bench/runner/runner.h"
#include "bench/runner/runner_source.h"
#include "core/quantity/format.h"

#include "core/quantity/say.h"
namespace otterstone::bench {

namespace {

constexpr double kAskSeconds = 2.0;  // a tier is settled by then
constexpr double kTailSeconds = 2.0; // watched on after a stop that was not orderly
constexpr double kHandsSeconds = 1.0;

} // namespace

void Runner::beginStep() {
    const double now = clock_.now();
    state_.stepSince = now;
    // What is only done where an output went off: begun then, it goes on to the step that shows something.
    const auto& all = plan_.recipe.steps;
    const bool goesOn =
        state_.step > 0 && state_.step <= all.size() && all[state_.step - 1].ifGone && all[state_.step - 1].as.empty();
    while (state_.step < all.size() && all[state_.step].ifGone && !goesOn && !state_.outputGone)
        ++state_.step;
    if (state_.step >= plan_.recipe.steps.size()) {
        endRun(state_.gone ? *state_.gone : Stop{StopKind::Done, say("all steps are done")});
        return;
    }
    const Step& s = plan_.recipe.steps[state_.step];
    // An output that goes away ends any step that draws something; a drain's end and a trip look alike.
    state_.stops->watchFor(s.what == Step::Do::Load && !s.off && s.load == 1 && !state_.gone, s.ends == Ends::AtTaper,
                           s.ends == Ends::WhenSettled, now);
    switch (s.what) {
    case Step::Do::Ask: {
        const int which = s.load == 2 ? 1 : 0;
        const label::Tier& tier = state_.tiers[which] = tierFor(s, plan_.label);
        if (ScpiDevice* trigger = triggers_[which].get()) {
            trigger->set("ask.volts", tier.high.value);
            trigger->set("ask.amps", tier.amps.value);
            trigger->checkErrors();
        }
        if (which != 0)
            break;
        state_.stops->askedFor(windowFor(plan_, tier.high.value), now);
        state_.windowKnown = true;
        break;
    }
    case Step::Do::Tell:
        if (s.hands == Hands::Replug || s.hands == Hands::Source)
            loadsOff(); // nothing is plugged in under load
        loads_.pathChanges();
        if (plan_.rehearsal && s.hands) {
            sayToHands(s);
        } else {
            phase_ = Phase::Waiting;
        }
        break;
    case Step::Do::Rest: break;
    case Step::Do::Load: applyLoad(s); break;
    }
    state_.watch.begin(s, tierOf(s).high.value,
                       s.what == Step::Do::Load && !s.off ? s.again ? state_.goneLevel : levelAt(s, tierOf(s)) : 0.0,
                       sources_.empty() ? 0.0 : sources_.front()->keeper.at(now));
    state_.watch.expect(loads_.on(0), loads_.on(1));
    tell(true);
}

void Runner::applyLoad(const Step& s) {
    const double now = clock_.now();
    state_.steadySince = now;
    for (int which = 0; which < Loads::kMost; ++which) {
        ScpiDevice* load = loads_[which];
        const bool mine = which == s.load - 1;
        if (!load || (!mine && s.keepOther))
            continue;
        if (!mine) {
            loads_.ensureOff(which, now);
            continue;
        }
        if (s.off) {
            loads_.switchOff(which, now);
            if (which == 0)
                state_.stops->expect(0.0, now);
            continue;
        }
        const char* mode = s.mode == Mode::Current ? "cc" : s.mode == Mode::Power ? "cp" : "cr";
        const double level = s.again ? state_.goneLevel : levelAt(s, tierOf(s));
        load->set(std::string("mode.") + mode);
        load->set(std::string("level.") + mode, level);
        state_.asked[which] = {s.mode, level};
        state_.tooMuch = state_.setOtherwise = 0;
        load->set("on");
        load->checkErrors();
        loads_.switchedOn(which);
        const double volts = tierOf(s).high.value;
        const double amps = s.mode == Mode::Current ? level
                            : s.mode == Mode::Power ? level / volts
                            : level > 0.0           ? volts / level
                                                    : 0.0;
        if (which == 0)
            state_.stops->expect(amps, now);
    }
}

// What the present step showed.
void Runner::closeStep() {
    if (state_.step >= plan_.recipe.steps.size() || sources_.empty())
        return;
    const Step& s = plan_.recipe.steps[state_.step];
    if (s.what == Step::Do::Load && !s.off)
        state_.outputGone = state_.watch.gone();
    state_.seen.push_back(state_.watch.end(sources_.front()->keeper.at(clock_.now())));
}

void Runner::nextStep() {
    if (phase_ == Phase::Waiting)
        phase_ = Phase::Running;
    closeStep();
    if (state_.gone && !plan_.recipe.steps[state_.step].as.empty() && state_.watch.flows()) {
        // It is back: nothing more need be tried.
        mark(records::Mark::What::Note, std::nullopt, say("the output is on again"));
        const Stop stop = *state_.gone;
        state_.step = plan_.recipe.steps.size();
        endRun(stop);
        return;
    }
    ++state_.step;
    beginStep();
}

void Runner::markPlugged(const Step& told) {
    if (const auto in = told.hands ? plugs(*told.hands) : std::nullopt)
        mark(*in ? records::Mark::What::Plugged : records::Mark::What::Unplugged, std::nullopt, "");
}

void Runner::goOn() {
    if (phase_ != Phase::Waiting)
        return;
    if (!std::exchange(state_.asks, {}).empty()) {
        phase_ = Phase::Running;
        state_.stepSince += clock_.now() - state_.askedAt;
        mark(records::Mark::What::Note, std::nullopt, say("the tester looked, and goes on"));
        applyLoad(plan_.recipe.steps[state_.step]);
        tell(true);
        return;
    }
    const Step& s = plan_.recipe.steps[state_.step];
    markPlugged(s);
    nextStep();
}

void Runner::askWhetherToGoOn(const std::string& why) {
    loadsOff();
    state_.asks = why;
    state_.askedAt = clock_.now();
    phase_ = Phase::Waiting;
    tell(true);
}

// The step is over, or the run is: which, the kind of stop and the step say.
void Runner::stepOver(const Stop& stop) {
    const Step& s = plan_.recipe.steps[std::min(state_.step, plan_.recipe.steps.size() - 1)];
    if ((stop.kind == StopKind::CutOff || stop.kind == StopKind::InstrumentLost) && plan_.recipe.goneMeans == "noted") {
        mark(records::Mark::What::Note, std::nullopt, say("the output went off"));
        state_.stops->watchFor(false, s.ends == Ends::AtTaper, s.ends == Ends::WhenSettled, clock_.now());
        return;
    }
    if (stop.kind == StopKind::CutOff && !plan_.recipe.afterGone.empty() && !state_.gone) {
        tryToBringBack(stop);
        return;
    }
    const bool stepsEnd = stop.kind == StopKind::TaperEnd || stop.kind == StopKind::Settled;
    if (stepsEnd && (s.ends == Ends::AtTaper || s.ends == Ends::WhenSettled) &&
        state_.step + 1 < plan_.recipe.steps.size()) {
        mark(records::Mark::What::Note, std::nullopt, stop.why);
        nextStep();
        return;
    }
    endRun(stop);
}

// The steps that remain give way to those that bring an output back.
void Runner::tryToBringBack(const Stop& stop) {
    const Step s = plan_.recipe.steps[state_.step]; // a copy: the steps move below
    state_.goneLevel = levelAt(s, tierOf(s));
    if (plan_.recipe.goneMeans == "trip")
        mark(records::Mark::What::Trip, std::nullopt, "over-current");
    else
        mark(records::Mark::What::Note, std::nullopt, stop.why);
    closeStep();
    state_.gone = stop;
    loadsOff();
    auto& steps = plan_.recipe.steps;
    steps.resize(state_.step + 1);
    steps.insert(steps.end(), plan_.recipe.afterGone.begin(), plan_.recipe.afterGone.end());
    for (std::size_t k = state_.step + 1; k < steps.size(); ++k) {
        if (steps[k].port.empty())
            steps[k].port = s.port;
    }
    state_.progress.steps = steps.size();
    ++state_.step;
    beginStep();
}

void Runner::checkSteps(double now) {
    if (phase_ == Phase::Closing) {
        const double tail = state_.stop && isOrderly(state_.stop->kind) && state_.stop->kind != StopKind::Tester
                                ? plan_.recipe.closingSeconds
                                : kTailSeconds;
        if (now - state_.closingSince >= tail && !state_.finishing) {
            state_.finishing = true;
            flush();
            if (plan_.rehearsal)
                askControl("TRUTh?", [this](const QByteArray& line) {
                    const auto j = nlohmann::json::parse(line.toStdString(), nullptr, false);
                    if (j.is_object())
                        state_.trueAfter = mainRole() == role::meter ? j.value("out_wh", 0.0) : j.value("in_wh", 0.0);
                    close(state_.stop->why);
                });
            if (!plan_.rehearsal || !control_ || control_->state() != QAbstractSocket::ConnectedState)
                close(state_.stop->why);
        }
        return;
    }
    if (phase_ != Phase::Running)
        return;
    const Step& s = plan_.recipe.steps[state_.step];
    const double since = now - state_.stepSince;
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
