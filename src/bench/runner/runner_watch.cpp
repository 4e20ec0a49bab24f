// The runner's watch: loads that are off when they must be, and only said to be off when they said so; thermometers
// that guard.
#include <algorithm>
#include <cmath>
#include <iostream>

#include <QEventLoop>

#include "bench/runner/runner.h"
#include "bench/runner/runner_source.h"
#include "core/quantity/format.h"

#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

constexpr qint64 kLateMs = 2000;      // off is confirmed within a round trip or two; what takes longer is said aloud
constexpr int kLastPatienceMs = 2000; // of a program that must end
constexpr qint64 kUnheardMs = 5000;   // invariant 8
constexpr qint64 kUnreachableMs =
    20'000; // of a load that is gone: then the run is over, which says so, and the load is told when it is back
// Load and meter see one current, each with its own error; more apart than this for so long, one of them is stuck, or
// elsewhere. Common practice, no published source.
constexpr double kDifferAmps = 0.3, kDifferShare = 0.4, kDifferSeconds = 10.0, kSettled = 5.0;
constexpr int kDifferPolls = 3; // in a fast rehearsal ten seconds lie between two
// More than was asked for, beyond what load and meter may be off. Common practice, no published source.
constexpr double kOverShare = 1.1, kOverAmps = 0.1, kOverWatts = 0.5, kOverSeconds = 2.0, kOverAfter = 2.0;
constexpr int kOverReadings = 2;
constexpr double kSetShare = 0.02, kSetDigit = 0.01; // as a load rounds what it is set to

} // namespace

void Runner::loadsOff() {
    loads_.switchOff(clock_.now());
    state_.steadySince = clock_.now();
    if (state_.stops)
        state_.stops->expect(0.0, clock_.now());
}

// Invariants 3 and 8, while the run goes.
void Runner::watchLoads(double now) {
    const double speed = plan_.rehearsal ? plan_.rehearsal->speed : 1.0;
    const auto patience = std::max<qint64>(kUnheardMs, static_cast<qint64>(3000.0 * state_.pollEvery / speed));
    for (int which = 0; which < Loads::kMost; ++which) {
        ScpiDevice* load = loads_[which];
        const bool on = loads_.on(which);
        if (!load)
            continue;
        if (on && !load->link().isUp())
            return endRun({StopKind::InstrumentLost, say("the {} cannot be reached: {}", role::loads[which],
                                                         load->link().trouble().toStdString())});
        if (on && load->measures() && load->unheard() > patience)
            return endRun(
                {StopKind::InstrumentLost, say("the {} has given no answer that is one for {}", role::loads[which],
                                               showDuration(static_cast<double>(load->unheard()) * 1e-3, 1.0))});
        if (!on && load->foundOn())
            return endRun(
                {StopKind::InstrumentLost,
                 say("the {} is on, and this run did not switch it on: is somebody else at it", role::loads[which])});
        if (!on && load->offOverdue() > kLateMs)
            return endRun({StopKind::InstrumentLost,
                           say("the {} does not switch off: {}", role::loads[which], load->whyNotOff().toStdString())});
    }
    if (loads_.belied() && !loads_.on(0))
        return endRun({StopKind::InstrumentLost, say("the load does not switch off: {}", loads_.whyNotOff())});
    if (state_.differs >= kDifferPolls && now - state_.differSince >= kDifferSeconds)
        endRun(
            {StopKind::InstrumentLost,
             say("the meter reads {} A, which is not what the load draws: one of them is stuck, or they are not on one path",
                 showNumber(state_.progress.amps, 3))});
}

void Runner::compare(double amps, double now) {
    const bool onePath = mainRole() == role::meter && !sources_.empty() && sources_.front()->meter && loads_.on(0) &&
                         !loads_.on(1) && phase_ == Phase::Running;
    if (!onePath || now - state_.steadySince < kSettled) {
        state_.differs = 0;
        return;
    }
    const double apart = std::fabs(std::fabs(amps) - state_.progress.amps);
    if (apart <= std::max(kDifferAmps, kDifferShare * std::max(std::fabs(amps), state_.progress.amps)))
        state_.differs = 0;
    else if (state_.differs++ == 0)
        state_.differSince = now;
}

// Invariant 11.
void Runner::holdAgainstAsked(int which, double volts, double amps, double now) {
    if (!loads_.on(which) || phase_ != Phase::Running || now - state_.steadySince < kOverAfter) {
        state_.tooMuch = 0;
        return;
    }
    const RunState::Asked& a = state_.asked[which];
    const double flows = a.mode == Mode::Power ? volts * amps : amps;
    const double asked = a.mode == Mode::Resistance ? (a.level > 0.0 ? volts / a.level : HUGE_VAL) : a.level;
    if (flows <= kOverShare * asked + (a.mode == Mode::Power ? kOverWatts : kOverAmps)) {
        state_.tooMuch = 0;
        return;
    }
    if (state_.tooMuch++ == 0)
        state_.tooMuchSince = now;
    if (state_.tooMuch < kOverReadings || now - state_.tooMuchSince < kOverSeconds)
        return;
    const char* unit = a.mode == Mode::Power ? " W" : " A";
    endRun({StopKind::InstrumentLost,
            say("{} flow, and {} were asked for: is somebody else at the {}, or does it not do what it is told",
                showNumber(flows, 3) + unit, showNumber(asked, 3) + unit, role::loads[which])});
}

void Runner::askWhatIsSet(int which) {
    if (!loads_.on(which))
        return;
    const RunState::Asked asked = state_.asked[which];
    const char* action = asked.mode == Mode::Current ? "set.cc" : asked.mode == Mode::Power ? "set.cp" : "set.cr";
    if (loads_[which]->profile().command(action).empty())
        return;
    loads_[which]->ask(action, [this, which, asked](std::optional<double> set) {
        const RunState::Asked& now = state_.asked[which];
        if (!set || !loads_.on(which) || phase_ != Phase::Running || now.level != asked.level || now.mode != asked.mode)
            return;
        if (std::fabs(*set - asked.level) <= kSetShare * asked.level + kSetDigit) {
            state_.setOtherwise = 0;
            return;
        }
        if (++state_.setOtherwise >= kOverReadings)
            endRun({StopKind::InstrumentLost,
                    say("the {} says that it is set to {}, and {} was asked for: is somebody else at it",
                        role::loads[which], showNumber(*set, 4), showNumber(asked.level, 4))});
    });
}

// A load that is on again behind a run that has ended: off, and the run did not end in order.
void Runner::watchAfterEnd() {
    if ((phase_ != Phase::Closing && phase_ != Phase::StillOn) || !loads_.foundOn())
        return;
    state_.meddled = say("after the end somebody else switched the load on; it was switched off again");
    mark(records::Mark::What::Instrument, std::nullopt, state_.meddled);
    loads_.switchOff(clock_.now());
}

// Invariant 4: it must speak before anything rests on it.
void Runner::askThermometer() {
    if (thermometer_ && !state_.celsius && thermometer_->link().isUp() && thermometer_->waiting() == 0)
        thermometer_->ask("temperature", [this](std::optional<double> c) { state_.celsius = c; });
}

// Invariant 5.
void Runner::watchHeat(double now) {
    const double silent = plan_.limits.silentSeconds;
    const auto& first = sources_.front()->last;
    const bool column = first && first->celsius; // one that is blank from the start has no sensor
    if (thermometer_)
        state_.stops->heat().expect(kThermometer, now, silent);
    if (column)
        state_.stops->heat().expect(kMeterHeat, now, silent);
    if (!thermometer_ && !column)
        mark(records::Mark::What::Note, std::nullopt,
             say("nothing measures the temperature: its limit is not watched"));
    if (const std::string missing = missingWitness(plan_); !missing.empty())
        mark(records::Mark::What::Note, std::nullopt, missing);
    allowSilence();
}

void Runner::allowSilence() {
    // In a fast rehearsal more time passes between two words: as much as lay between the last two questions too, for
    // they can become more frequent while the answer to the last one is still on its way.
    const double silent = plan_.limits.silentSeconds + 2.0 * state_.chunk;
    const double apart =
        plan_.rehearsal ? std::max(state_.pollEvery, std::min(state_.heatAskedAfter, kLoadHearsWithin)) : kPollSeconds;
    state_.stops->heat().allowSilence(kThermometer, silent + (apart > kPollSeconds ? 1.5 * apart : 0.0));
    state_.stops->heat().allowSilence(kMeterHeat,
                                      std::max(silent, 3.0 * sources_.front()->usualStep + 2.0 * state_.chunk));
}

// In the loudest words, once it is late, and when it is over.
void Runner::sayWhatIsOpen() {
    const qint64 late = loads_.late();
    const bool open =
        (phase_ == Phase::StillOn && (late > kLateMs || real_.elapsed() - state_.stillOnSince > kLateMs)) ||
        (phase_ == Phase::Closing && late > kLateMs);
    state_.progress.stillOn = open ? loads_.whyNotOff() : std::string();
    if (open && !state_.progress.stillOn.empty() && !std::exchange(state_.saidStillOn, true))
        mark(records::Mark::What::Instrument, std::nullopt,
             say("the load is still on: {}; it is told again and again", state_.progress.stillOn));
    else if (state_.saidStillOn && loads_.areOff() && phase_ == Phase::Closing &&
             std::exchange(state_.saidStillOn, false))
        mark(records::Mark::What::Instrument, std::nullopt, say("the load is off now"));
}

// All is written down, or nothing was begun. It is over when the loads are off.
void Runner::conclude() {
    phase_ = Phase::StillOn;
    state_.stillOnSince = real_.elapsed();
    loads_.confirmAnew();
    waitOn();
}

void Runner::waitOn() {
    // Of loads that never were on in this run nobody waits for more than what they say of themselves.
    const qint64 waited = real_.elapsed() - state_.stillOnSince;
    if (loads_.areProvenOff(clock_.now()) || (!loads_.ours() && waited > kLateMs) ||
        (!loads_.reachable() && waited > kUnreachableMs))
        report();
    else
        tell(false);
}

void Runner::waitForOff(int milliseconds) {
    QElapsedTimer waited;
    waited.start();
    while (!loads_.areOff() && waited.elapsed() < milliseconds) {
        QEventLoop loop;
        QTimer::singleShot(10, &loop, &QEventLoop::quit);
        loop.exec();
    }
}

void Runner::shutDown() {
    tick_.stop();
    const bool going = phase_ == Phase::Running || phase_ == Phase::Waiting || phase_ == Phase::Closing;
    if (phase_ != Phase::Idle && phase_ != Phase::Finished)
        loadsOff();
    if (state_.run != 0 && !state_.finishing && going) {
        if (!state_.stop) {
            state_.stop = Stop{StopKind::Tester, say("the window was closed")};
            mark(records::Mark::What::Stop, std::nullopt, state_.stop->why);
        }
        flush();
        closeStep();
        close(state_.stop->why);
    }
    waitForOff(kLastPatienceMs);
    if (const std::string why = loads_.whyNotOff(); !why.empty())
        std::cerr << "THE LOAD MAY STILL BE ON (" << why << "). Pull the plug out of the bank.\n";
    closeAll();
    phase_ = Phase::Finished;
}

} // namespace otterstone::bench
