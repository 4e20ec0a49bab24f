// The runner's watch: loads that are off when they must be, and only said to be off when they said so; thermometers
// that guard.
#include <algorithm>
#include <cmath>
#include <cstdio>

#include <QEventLoop>

#include "bench/runner/runner.h"
#include "bench/runner/runner_source.h"
#include "core/quantity/format.h"

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

} // namespace

void Runner::loadsOff() {
    for (auto& load : loads_) {
        if (load)
            load->switchOff();
    }
    loadOn_ = secondOn_ = false;
    steadySince_ = clock_.now();
    if (stops_)
        stops_->expect(0.0, clock_.now());
}

bool Runner::loadsAreOff() const {
    for (int which = 0; which < 2; ++which) {
        // One that was never on in this run and cannot be reached has nothing to do with it.
        if (loads_[which] && !loads_[which]->isOff() && (wasOn_[which] || loads_[which]->link().isUp()))
            return false;
    }
    return true;
}

std::string Runner::whyNotOff() const {
    std::string why;
    for (int which = 0; which < 2; ++which) {
        if (loads_[which] && !loads_[which]->isOff() && (wasOn_[which] || loads_[which]->saysOn()))
            why += (why.empty() ? "" : "; ") +
                   (loads_[1] ? "the " + std::string(role::loads[which]) + ": " : std::string()) +
                   loads_[which]->whyNotOff().toStdString();
    }
    return why;
}

bool Runner::loadsCanSay() const {
    return std::all_of(std::begin(loads_), std::end(loads_),
                       [](const auto& load) { return !load || load->canSayOff(); });
}

// Invariants 3 and 8, while the run goes.
void Runner::watchLoads(double now) {
    const double speed = plan_.rehearsal ? plan_.rehearsal->speed : 1.0;
    const auto patience = std::max<qint64>(kUnheardMs, static_cast<qint64>(3000.0 * pollEvery_ / speed));
    for (int which = 0; which < 2; ++which) {
        ScpiDevice* load = loads_[which].get();
        const bool on = which == 0 ? loadOn_ : secondOn_;
        if (!load)
            continue;
        if (on && !load->link().isUp())
            return endRun({StopKind::InstrumentLost, std::string("the ") + role::loads[which] + " cannot be reached: " +
                                                         load->link().trouble().toStdString()});
        if (on && load->measures() && load->unheard() > patience)
            return endRun({StopKind::InstrumentLost,
                           std::string("the ") + role::loads[which] + " has given no answer that is one for " +
                               showDuration(static_cast<double>(load->unheard()) * 1e-3, 1.0)});
        if (!on && load->offOverdue() > kLateMs)
            return endRun({StopKind::InstrumentLost, std::string("the ") + role::loads[which] +
                                                         " does not switch off: " + load->whyNotOff().toStdString()});
    }
    if (differs_ >= kDifferPolls && now - differSince_ >= kDifferSeconds)
        endRun({StopKind::InstrumentLost,
                "the meter reads " + showNumber(progress_.amps, 3) +
                    " A, which is not what the load draws: one of them is stuck, or they are not on one path"});
}

void Runner::compare(double amps, double now) {
    const bool onePath = mainRole() == role::meter && !sources_.empty() && sources_.front()->meter && loadOn_ &&
                         !secondOn_ && phase_ == Phase::Running;
    if (!onePath || now - steadySince_ < kSettled) {
        differs_ = 0;
        return;
    }
    const double apart = std::fabs(std::fabs(amps) - progress_.amps);
    if (apart <= std::max(kDifferAmps, kDifferShare * std::max(std::fabs(amps), progress_.amps)))
        differs_ = 0;
    else if (differs_++ == 0)
        differSince_ = now;
}

// Invariant 4: it must speak before anything rests on it.
void Runner::askThermometer() {
    if (thermometer_ && !celsius_ && thermometer_->link().isUp() && thermometer_->waiting() == 0)
        thermometer_->ask("temperature", [this](std::optional<double> c) { celsius_ = c; });
}

// Invariant 5.
void Runner::watchHeat(double now) {
    const double silent = plan_.limits.silentSeconds;
    const auto& first = sources_.front()->last;
    const bool column = first && first->celsius; // one that is blank from the start has no sensor
    if (thermometer_)
        stops_->heat().expect(kThermometer, now, silent);
    if (column)
        stops_->heat().expect(kMeterHeat, now, silent);
    if (!thermometer_ && !column)
        mark(records::Mark::What::Note, std::nullopt, "nothing measures the temperature: its limit is not watched");
    allowSilence();
}

void Runner::allowSilence() {
    // In a fast rehearsal more time passes between two words: as much as lay between the last two questions too, for
    // they can become more frequent while the answer to the last one is still on its way.
    const double silent = plan_.limits.silentSeconds + 2.0 * chunk_;
    const double apart =
        plan_.rehearsal ? std::max(pollEvery_, std::min(heatAskedAfter_, kLoadHearsWithin)) : kPollSeconds;
    stops_->heat().allowSilence(kThermometer, silent + (apart > kPollSeconds ? 1.5 * apart : 0.0));
    stops_->heat().allowSilence(kMeterHeat, std::max(silent, 3.0 * sources_.front()->usualStep + 2.0 * chunk_));
}

// In the loudest words, once it is late, and when it is over.
void Runner::sayWhatIsOpen() {
    qint64 late = 0;
    for (int which = 0; which < 2; ++which) {
        if (loads_[which] && (wasOn_[which] || loads_[which]->link().isUp()))
            late = std::max(late, loads_[which]->offOverdue());
    }
    const bool open = (phase_ == Phase::StillOn && (late > kLateMs || real_.elapsed() - stillOnSince_ > kLateMs)) ||
                      (phase_ == Phase::Closing && late > kLateMs);
    progress_.stillOn = open ? whyNotOff() : std::string();
    if (open && !progress_.stillOn.empty() && !std::exchange(saidStillOn_, true))
        mark(records::Mark::What::Instrument, std::nullopt,
             "the load is still on: " + progress_.stillOn + "; it is told again and again");
    else if (saidStillOn_ && loadsAreOff() && phase_ == Phase::Closing && std::exchange(saidStillOn_, false))
        mark(records::Mark::What::Instrument, std::nullopt, "the load is off now");
}

// All is written down, or nothing was begun. It is over when the loads are off.
void Runner::conclude() {
    phase_ = Phase::StillOn;
    stillOnSince_ = real_.elapsed();
    waitOn();
}

void Runner::waitOn() {
    // Of loads that never were on in this run nobody waits for more than what they say of themselves.
    const bool ours = wasOn_[0] || wasOn_[1];
    const qint64 waited = real_.elapsed() - stillOnSince_;
    const bool reachable = std::any_of(std::begin(loads_), std::end(loads_),
                                       [](const auto& load) { return load && !load->isOff() && load->link().isUp(); });
    if (loadsAreOff() || (!ours && waited > kLateMs) || (!reachable && waited > kUnreachableMs))
        report();
    else
        tell(false);
}

void Runner::waitForOff(int milliseconds) {
    QElapsedTimer waited;
    waited.start();
    while (!loadsAreOff() && waited.elapsed() < milliseconds) {
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
    if (run_ != 0 && !finishing_ && going) {
        if (!stop_) {
            stop_ = Stop{StopKind::Tester, "the window was closed"};
            mark(records::Mark::What::Stop, std::nullopt, stop_->why);
        }
        flush();
        closeStep();
        close(stop_->why);
    }
    waitForOff(kLastPatienceMs);
    if (const std::string why = whyNotOff(); !why.empty())
        std::fprintf(stderr, "THE LOAD MAY STILL BE ON (%s). Pull the plug out of the bank.\n", why.c_str());
    closeAll();
    phase_ = Phase::Finished;
}

} // namespace otterstone::bench
