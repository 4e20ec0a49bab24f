// The runner's instruments: what they are connected to, and what their readings become.
#include <algorithm>
#include <cmath>

#include "bench/runner/house.h"
#include "bench/runner/runner.h"
#include "bench/runner/runner_source.h"
#include "core/label/port_rules.h"
#include "core/quantity/format.h"

#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

constexpr int kAskMeterMs = 200;
constexpr double kLeastPollSeconds = 0.04; // real
constexpr std::size_t kMostFresh = 400;    // points handed to the window at once

} // namespace

void Runner::connectInstruments() {
    const auto& all = plan_.instruments;
    const auto scpi = [&](const char* role) -> std::unique_ptr<ScpiDevice> {
        const auto at = all.find(role);
        if (at == all.end())
            return nullptr;
        auto device = std::make_unique<ScpiDevice>(at->second.profile, at->second.address);
        connect(device.get(), &ScpiDevice::refused, this, [this, name = std::string(role)](const QString& what) {
            if (phase_ == Phase::Running || phase_ == Phase::Waiting)
                mark(records::Mark::What::Instrument, std::nullopt,
                     say("the {} refused a command: {}", name, what.toStdString()));
        });
        if (plan_.rehearsal)
            device->beSimulated();
        device->link().open();
        return device;
    };
    auto first = scpi(role::load);
    loads_.take(std::move(first), scpi(role::secondLoad));
    triggers_[0] = scpi(role::trigger);
    triggers_[1] = scpi(role::secondTrigger);
    thermometer_ = scpi(role::thermometer);
    const auto meter = [&](const Role& role, path::Point point) {
        const auto at = all.find(role);
        auto source = std::make_unique<Source>();
        source->role = at == all.end() ? role::load : role;
        source->point = point;
        const std::size_t which = sources_.size();
        if (at != all.end()) {
            source->meter = std::make_unique<Meter>(at->second.profile, at->second.address, kAskMeterMs);
            if (at->second.profile.lines) {
                for (const auto& c : at->second.profile.lines->meaning) {
                    source->celsius |= c.role == logs::Role::Temperature;
                    source->percent |= c.role == logs::Role::Percent;
                }
            }
            Meter* m = source->meter.get();
            connect(m, &Meter::reading, this, [this, which](const logs::LiveReading& r) { meterReading(which, r); });
            connect(m, &Meter::spoiled, this, [this, which](const QString& why) { meterSpoiled(which, why); });
            connect(m, &Meter::down, this, [this, which](const QString& why) { meterGone(which, why); });
            connect(m, &Meter::up, this, [this, which] { meterBack(which); });
        }
        sources_.push_back(std::move(source));
        if (sources_.back()->meter)
            sources_.back()->meter->open();
    };
    // The trace at the bank's side first; where only a load measures, that one.
    meter(mainRole(), plan_.run.point);
    if (mainRole() == role::meter && all.contains(role::inputMeter))
        meter(role::inputMeter, path::Point::Charger);
    if (all.contains(role::wallMeter))
        meter(role::wallMeter, path::Point::Wall);
    if (plan_.rehearsal) {
        control_ = std::make_unique<QTcpSocket>();
        connect(control_.get(), &QTcpSocket::readyRead, this, [this] {
            while (control_->canReadLine()) {
                const QByteArray line = control_->readLine();
                if (controlAnswers_.empty())
                    continue;
                const auto answered = std::move(controlAnswers_.front());
                controlAnswers_.pop_front();
                if (answered)
                    answered(line);
            }
        });
        connect(control_.get(), &QTcpSocket::connected, this, [this] {
            askControl("LOCKstep ON", [this](const QByteArray& line) {
                clock_.sync(line.trimmed().toDouble());
                state_.inStep = true;
                state_.advancedAt = real_.elapsed();
                for (const auto& s : sources_) {
                    if (s->meter)
                        s->meter->takeRest();
                }
            });
        });
        const HostPort to = hostPort(plan_.rehearsal->controlAddress, 0).value_or(HostPort{});
        control_->connectToHost(to.host, to.port);
    }
}

bool Runner::allAnswer(std::string& missing) const {
    const auto because = [&missing](std::string text) {
        missing = std::move(text);
        return false;
    };
    for (int which = 0; which < Loads::kMost; ++which) {
        if (loads_[which] && loads_[which]->link().isUp() && !loads_[which]->isOff()) // invariant 4
            return because(
                say("the {} does not switch off: {}", role::loads[which], loads_[which]->whyNotOff().toStdString()));
        if (loads_[which] && !loads_[which]->link().isUp())
            return because(say("the load does not answer at {}: {}", loads_[which]->link().address().text.toStdString(),
                               loads_[which]->link().trouble().toStdString()));
    }
    for (const auto& [device, name] :
         {std::pair(triggers_[0].get(), role::trigger), std::pair(triggers_[1].get(), role::secondTrigger),
          std::pair(thermometer_.get(), role::thermometer)}) {
        if (device && !device->link().isUp())
            return because(say("the {} does not answer at {}", name, device->link().address().text.toStdString()));
    }
    for (const auto& s : sources_) {
        if (s->meter && !s->meter->isUp())
            return because(say("the {} cannot be opened: {}", s->role, s->meter->trouble().toStdString()));
    }
    if (!sources_.front()->meter && !loads_[0])
        return because(say("neither a meter nor a load that measures was chosen"));
    return !control_ || state_.inStep || because(say("the stand-in does not answer"));
}

bool Runner::allRead(std::string& missing) const {
    for (const auto& s : sources_) {
        if (s->meter && s->readings == 0) {
            missing = say("nothing readable comes from the {}{}", s->role, s->whySilent());
            return false;
        }
    }
    if (thermometer_ && !state_.celsius) {
        missing = say("the thermometer says no temperature that can be one");
        return false;
    }
    return true;
}

void Runner::meterReading(std::size_t which, const logs::LiveReading& given) {
    Source& s = *sources_[which];
    const double now = clock_.now();
    const auto remark = [this](std::string text) {
        mark(records::Mark::What::Instrument, std::nullopt, std::move(text));
    };
    logs::LiveReading reading = given;
    const Range& most = s.meter ? s.meter->profile().most : loads_[0]->profile().most;
    if (reading.celsius && !(*reading.celsius >= most.leastCelsius && *reading.celsius <= most.mostCelsius))
        reading.celsius.reset();
    if (!(std::fabs(reading.volts) <= most.volts && std::fabs(reading.amps) <= most.amps &&
          std::fabs(reading.volts * reading.amps) <= most.watts)) { // invariant 6
        meterSpoiled(which, QStringLiteral("%1 V, %2 A, which it cannot read").arg(reading.volts).arg(reading.amps));
        return;
    }
    if (s.standsStill(reading, now)) {
        meterSpoiled(which, tr("the same line again and again, its clock too"));
        return;
    }
    if (state_.run == 0 || phase_ == Phase::Connecting || phase_ == Phase::Finished || state_.finishing) {
        s.last = reading;
        s.lastAt = now;
        ++s.readings;
        return;
    }
    const auto placed = s.keeper.place(reading.time, now);
    if (!placed) {
        s.bad(now, "a time stamp that fits nothing", remark);
        return;
    }
    s.good(now, remark);
    s.last = reading;
    book::LiveSample sample{placed->time, reading.volts, std::fabs(reading.amps)};
    if (reading.celsius || state_.celsius)
        sample.celsius = thermometer_ && state_.celsius ? *state_.celsius
                         : reading.celsius              ? *reading.celsius
                                                        : *state_.celsius;
    if (reading.percent)
        sample.percent = *reading.percent;
    state_.batch.samples[which].push_back(sample);
    if (!placed->remark.empty())
        remark(placed->remark);
    if (s.point == path::Point::Wall)
        return;
    if (which != 0) {
        state_.progress.inVolts = sample.volts;
        state_.progress.inAmps = sample.amps;
        state_.watch.inReading(sample.time, sample.volts, sample.amps);
        return;
    }
    state_.forecast->reading(sample.time, sample.volts, sample.amps);
    state_.watch.reading(sample.time, sample.volts, sample.amps);
    if (state_.progress.fresh.size() < kMostFresh) {
        state_.progress.fresh.push_back({sample.time, sample.volts, sample.amps});
    } else {
        // Many at once: every other goes, so that spikes are lost here only; the book has them all.
        for (std::size_t k = 0; 2 * k + 1 < state_.progress.fresh.size(); ++k)
            state_.progress.fresh[k] = state_.progress.fresh[2 * k + 1];
        state_.progress.fresh.resize(state_.progress.fresh.size() / 2);
        state_.progress.fresh.push_back({sample.time, sample.volts, sample.amps});
    }
    state_.progress.volts = sample.volts;
    state_.progress.amps = sample.amps;
    if (!std::isnan(sample.celsius))
        state_.progress.celsius = sample.celsius;
    if (s.meter && mainRole() == role::meter) {
        loads_.meterReads(sample.amps, now);
        if (!loads_.on(1))
            holdAgainstAsked(0, sample.volts, sample.amps, now);
    }
    if (phase_ == Phase::Closing)
        return;
    if (!state_.windowKnown && mainRole() == role::meter && !label::outputGone(sample.volts)) {
        state_.windowKnown = true;
        state_.stops->setLimits(windowFor(plan_, meantVolts(plan_.label, sample.volts)));
    }
    if (const auto stop = state_.stops->reading({sample.volts, sample.amps, reading.celsius}, now))
        stepOver(*stop);
}

void Runner::meterSpoiled(std::size_t which, const QString& why) {
    Source& s = *sources_[which];
    if (state_.run == 0 || phase_ == Phase::Finished) {
        ++s.spoiled;
        ++s.spoiledInRow;
        s.spoiledWhy = why.toStdString();
        return;
    }
    s.bad(clock_.now(), why.toStdString(),
          [this](std::string text) { mark(records::Mark::What::Instrument, std::nullopt, std::move(text)); });
}

void Runner::meterGone(std::size_t which, const QString& why) {
    if (state_.run != 0 && phase_ != Phase::Finished)
        mark(records::Mark::What::Instrument, std::nullopt,
             say("the {} is gone: {}", sources_[which]->role, why.toStdString()));
}

void Runner::meterBack(std::size_t which) {
    if (state_.run != 0 && phase_ != Phase::Finished)
        mark(records::Mark::What::Instrument, std::nullopt, say("the {} is connected again", sources_[which]->role));
}

void Runner::pollLoads() {
    // On the bench's clock; in a fast rehearsal no more often than the computer can do it, unless nothing else
    // measures.
    const double speed = plan_.rehearsal ? plan_.rehearsal->speed : 1.0;
    const bool only = loads_.on(1) || (!sources_.empty() && !sources_.front()->meter);
    const double now = clock_.now();
    const double often = only ? kPollSeconds : std::clamp(kLeastPollSeconds * speed, kPollSeconds, kLoadHearsWithin);
    state_.pollEvery = often;
    if (now - state_.polledAt < std::min(often, untilTooWarm()))
        return;
    state_.polledAt = now;
    for (int which = 0; which < Loads::kMost; ++which) {
        ScpiDevice* load = loads_[which];
        if (!load || load->waiting() > 0)
            continue;
        load->look();
        askWhatIsSet(which);
        // Also what keeps a load's own watchdog quiet.
        auto volts = std::make_shared<std::optional<double>>();
        load->ask("volts", [volts](std::optional<double> v) { *volts = v; });
        load->ask("amps", [this, which, volts](std::optional<double> amps) {
            if (which == 0 && *volts && amps && !sources_.empty() && !sources_.front()->meter)
                meterReading(0, {std::nullopt, **volts, *amps, {}, {}});
            if (which == 0 && !(*volts && amps) && loads_[0] && loads_[0]->link().isUp() && !sources_.empty() &&
                !sources_.front()->meter)
                meterSpoiled(0, tr("no answer that is a reading"));
            if (which == 1 && *volts && amps)
                state_.watch.secondReading(**volts, *amps);
            if (*volts && amps && (which == 1 || !sources_.front()->meter))
                holdAgainstAsked(which, **volts, std::fabs(*amps), clock_.now());
            if (which == 0 && amps)
                compare(*amps, clock_.now());
            letTimePass();
        });
    }
    if (thermometer_ && thermometer_->waiting() == 0) {
        state_.heatAskedAfter = now - std::exchange(state_.heatAskedAt, now);
        thermometer_->ask("temperature", [this](std::optional<double> c) {
            state_.celsius = c;
            if (!c) { // Stops hears of it by its silence
                letTimePass();
                return;
            }
            state_.progress.celsius = *c;
            if (phase_ == Phase::Running || phase_ == Phase::Waiting) {
                if (const auto stop = state_.stops->temperature(*c, clock_.now()))
                    stepOver(*stop);
            }
            letTimePass();
        });
    }
}

void Runner::closeAll(bool keepLoadsThatAreOn) {
    tick_.stop();
    loads_.close(keepLoadsThatAreOn);
    for (auto& trigger : triggers_)
        trigger.reset();
    thermometer_.reset();
    sources_.clear();
    control_.reset();
    controlAnswers_.clear();
}

} // namespace otterstone::bench
