// The runner's instruments: what they are connected to, and what their readings become.
#include <algorithm>
#include <cmath>

#include "bench/runner/runner.h"
#include "bench/runner/runner_source.h"
#include "core/quantity/format.h"

namespace otterstone::bench {

namespace {

constexpr int kAskMeterMs = 200;
constexpr double kLeastPollSeconds = 0.04; // real
constexpr std::size_t kMostFresh = 400;    // points handed to the window at once
constexpr double kFirstDisplay = 60.0;

std::string stillOnWords(const std::string& why) {
    return "THE LOAD IS STILL ON (" + why +
           "). Pull the plug out of the bank. It is told to switch off again and again.";
}

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
                     "the " + name + " refused a command: " + what.toStdString());
        });
        device->link().open();
        return device;
    };
    loads_[0] = scpi(role::load);
    loads_[1] = scpi(role::secondLoad);
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
                inStep_ = true;
                advancedAt_ = real_.elapsed();
                for (const auto& s : sources_) {
                    if (s->meter)
                        s->meter->takeRest();
                }
            });
        });
        const QString& address = plan_.rehearsal->controlAddress;
        const auto colon = address.lastIndexOf(QLatin1Char(':'));
        control_->connectToHost(address.left(colon), static_cast<quint16>(address.mid(colon + 1).toInt()));
    }
}

void Runner::askControl(const QByteArray& line, std::function<void(const QByteArray&)> answered) {
    if (!control_ || control_->state() != QAbstractSocket::ConnectedState)
        return;
    controlAnswers_.push_back(std::move(answered));
    control_->write(line + '\n');
    control_->flush();
}

bool Runner::allAnswer(std::string& missing) const {
    const auto because = [&missing](std::string text) {
        missing = std::move(text);
        return false;
    };
    for (int which = 0; which < 2; ++which) {
        if (loads_[which] && loads_[which]->link().isUp() && !loads_[which]->isOff()) // invariant 4
            return because(std::string("the ") + role::loads[which] +
                           " does not switch off: " + loads_[which]->whyNotOff().toStdString());
        if (loads_[which] && !loads_[which]->link().isUp())
            return because("the load does not answer at " + loads_[which]->link().address().text.toStdString() + ": " +
                           loads_[which]->link().trouble().toStdString());
    }
    for (const auto& [device, name] :
         {std::pair(triggers_[0].get(), role::trigger), std::pair(triggers_[1].get(), role::secondTrigger),
          std::pair(thermometer_.get(), role::thermometer)}) {
        if (device && !device->link().isUp())
            return because(std::string("the ") + name + " does not answer at " +
                           device->link().address().text.toStdString());
    }
    for (const auto& s : sources_) {
        if (s->meter && !s->meter->isUp())
            return because("the " + s->role + " cannot be opened: " + s->meter->trouble().toStdString());
    }
    if (!sources_.front()->meter && !loads_[0])
        return because("neither a meter nor a load that measures was chosen");
    return !control_ || inStep_ || because("the stand-in does not answer");
}

bool Runner::allRead(std::string& missing) const {
    for (const auto& s : sources_) {
        if (s->meter && s->readings == 0) {
            missing = "nothing readable comes from the " + s->role + s->whySilent();
            return false;
        }
    }
    if (thermometer_ && !celsius_) {
        missing = "the thermometer says no temperature that can be one";
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
    if (run_ == 0 || phase_ == Phase::Connecting || phase_ == Phase::Finished || finishing_) {
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
    if (reading.celsius || celsius_)
        sample.celsius = thermometer_ && celsius_ ? *celsius_ : reading.celsius ? *reading.celsius : *celsius_;
    if (reading.percent)
        sample.percent = *reading.percent;
    batch_.samples[which].push_back(sample);
    if (!placed->remark.empty())
        remark(placed->remark);
    if (s.point == path::Point::Wall)
        return;
    if (which != 0) {
        progress_.inVolts = sample.volts;
        progress_.inAmps = sample.amps;
        watch_.inReading(sample.time, sample.volts, sample.amps);
        return;
    }
    forecast_->reading(sample.time, sample.volts, sample.amps);
    watch_.reading(sample.time, sample.volts, sample.amps);
    if (progress_.fresh.size() < kMostFresh) {
        progress_.fresh.push_back({sample.time, sample.volts, sample.amps});
    } else {
        // Many at once: every other goes, so that spikes are lost here only; the book has them all.
        for (std::size_t k = 0; 2 * k + 1 < progress_.fresh.size(); ++k)
            progress_.fresh[k] = progress_.fresh[2 * k + 1];
        progress_.fresh.resize(progress_.fresh.size() / 2);
        progress_.fresh.push_back({sample.time, sample.volts, sample.amps});
    }
    progress_.volts = sample.volts;
    progress_.amps = sample.amps;
    if (!std::isnan(sample.celsius))
        progress_.celsius = sample.celsius;
    if (phase_ == Phase::Closing)
        return;
    if (const auto stop = stops_->reading({sample.volts, sample.amps, reading.celsius}, now))
        stepOver(*stop);
}

void Runner::meterSpoiled(std::size_t which, const QString& why) {
    Source& s = *sources_[which];
    if (run_ == 0 || phase_ == Phase::Finished) {
        ++s.spoiled;
        ++s.spoiledInRow;
        s.spoiledWhy = why.toStdString();
        return;
    }
    s.bad(clock_.now(), why.toStdString(),
          [this](std::string text) { mark(records::Mark::What::Instrument, std::nullopt, std::move(text)); });
}

void Runner::meterGone(std::size_t which, const QString& why) {
    if (run_ != 0 && phase_ != Phase::Finished)
        mark(records::Mark::What::Instrument, std::nullopt,
             "the " + sources_[which]->role + " is gone: " + why.toStdString());
}

void Runner::meterBack(std::size_t which) {
    if (run_ != 0 && phase_ != Phase::Finished)
        mark(records::Mark::What::Instrument, std::nullopt, "the " + sources_[which]->role + " is connected again");
}

void Runner::pollLoads() {
    // On the bench's clock; in a fast rehearsal no more often than the computer can do it, unless nothing else
    // measures.
    const double speed = plan_.rehearsal ? plan_.rehearsal->speed : 1.0;
    const bool only = secondOn_ || (!sources_.empty() && !sources_.front()->meter);
    const double now = clock_.now();
    const double often = only ? kPollSeconds : std::clamp(kLeastPollSeconds * speed, kPollSeconds, kLoadHearsWithin);
    pollEvery_ = often;
    if (now - polledAt_ < std::min(often, untilTooWarm()))
        return;
    polledAt_ = now;
    for (int which = 0; which < 2; ++which) {
        ScpiDevice* load = loads_[which].get();
        if (!load || load->waiting() > 0)
            continue;
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
                watch_.secondReading(**volts, *amps);
            if (which == 0 && amps)
                compare(*amps, clock_.now());
            letTimePass();
        });
    }
    if (thermometer_ && thermometer_->waiting() == 0) {
        heatAskedAfter_ = now - std::exchange(heatAskedAt_, now);
        thermometer_->ask("temperature", [this](std::optional<double> c) {
            celsius_ = c;
            if (!c) { // Stops hears of it by its silence
                letTimePass();
                return;
            }
            progress_.celsius = *c;
            if (phase_ == Phase::Running || phase_ == Phase::Waiting) {
                if (const auto stop = stops_->temperature(*c, clock_.now()))
                    stepOver(*stop);
            }
            letTimePass();
        });
    }
}

void Runner::closeAll(Loads which) {
    tick_.stop();
    for (auto& load : loads_) {
        if (load) {
            if (!load->isOff() && which == Loads::KeepThoseOn && !whyNotOff().empty())
                continue;
            if (!load->isOff()) {
                load->switchOff();
                load->link().drain(200);
            }
        }
        load.reset();
    }
    for (auto& trigger : triggers_)
        trigger.reset();
    thermometer_.reset();
    sources_.clear();
    control_.reset();
    controlAnswers_.clear();
}

void Runner::fillProgress() {
    const double now = clock_.now();
    Progress& p = progress_;
    p.phase = phase_;
    p.run = run_;
    p.step = step_;
    p.loadOn = loadOn_;
    if (!sources_.empty()) {
        p.elapsed = sources_.front()->keeper.at(now);
        p.health.clear();
        for (const auto& s : sources_)
            p.health.push_back({s->role, s->meter ? s->meter->profile().name : "the load's own reading", "",
                                !s->meter || s->meter->isUp(), s->readings, s->spoiled,
                                s->meter ? s->meter->trouble().toStdString() : ""});
        for (const auto& [device, role] :
             {std::pair(loads_[0].get(), role::load), std::pair(loads_[1].get(), role::secondLoad),
              std::pair(triggers_[0].get(), role::trigger), std::pair(triggers_[1].get(), role::secondTrigger),
              std::pair(thermometer_.get(), role::thermometer)}) {
            if (device)
                p.health.push_back(
                    {role, device->identity().isEmpty() ? device->profile().name : device->identity().toStdString(),
                     device->link().address().text.toStdString(), device->link().isUp(), 0, 0,
                     device->link().trouble().toStdString()});
        }
    }
    p.wattHours = forecast_ ? forecast_->wattHours() : 0.0;
    p.ampHours = forecast_ ? forecast_->ampHours() : 0.0;
    p.toDo.clear();
    p.next.clear();
    p.nextAt.reset();
    p.ownEnd = forecast_ ? forecast_->ownEnd() : std::nullopt;
    p.displayEnd = forecast_ ? forecast_->displayEnd() : std::nullopt;
    p.ownFrom = plan_.expectedFrom.toStdString();
    if (records::hasSheet(plan_.recipe.kind)) // what a behaviour takes is in its steps, not in the bank's energy
        p.ownEnd = p.displayEnd = std::nullopt;
    p.claimEnd.reset();
    if (plan_.recipe.kind == records::Kind::Recharge && plan_.label.rechargeTime && forecast_ && forecast_->onset())
        p.claimEnd = *forecast_->onset() + plan_.label.rechargeTime->value * 3600.0;
    const auto& steps = plan_.recipe.steps;
    switch (phase_) {
    case Phase::Idle: p.doing = ""; return;
    case Phase::Connecting: p.doing = "Connecting the instruments."; return;
    case Phase::Finished: p.doing = stop_ ? "Ended: " + stop_->why + "." : "Ended."; return;
    case Phase::StillOn:
        p.doing = p.stillOn.empty() ? "Making sure that the load is off." : stillOnWords(p.stillOn);
        return;
    case Phase::Closing:
        p.doing = !loadsCanSay() ? "The load was told to switch off, and cannot say whether it did: " + stop_->why + "."
                  : loadsAreOff()     ? "Load off: " + stop_->why + "."
                  : p.stillOn.empty() ? "Switching the load off: " + stop_->why + "."
                                      : stillOnWords(p.stillOn);
        p.next = "the run is closed";
        p.nextAt = p.elapsed + std::max(0.0, plan_.recipe.closingSeconds - (now - closingSince_));
        return;
    case Phase::Running:
    case Phase::Waiting: break;
    }
    if (step_ >= steps.size())
        return;
    Recipe one = plan_.recipe;
    one.steps = {steps[step_]};
    one.closingSeconds = 0.0;
    if (one.steps.front().ofTier) {
        one.steps.front().level = levelAt(one.steps.front(), tierOf(one.steps.front()));
        one.steps.front().ofTier = false;
    }
    one.steps.front().ifGone = false; // it is being done
    if (const auto words = describe(one, plan_.label); !words.empty())
        p.doing = words.front();
    if (phase_ == Phase::Waiting)
        p.toDo = steps[step_].text;
    // Whatever comes first: the next step, or the next look at the display.
    const Step& s = steps[step_];
    if (s.what != Step::Do::Tell && s.seconds > 0.0) {
        p.next = step_ + 1 < steps.size() ? "the next step" : "the load goes off";
        p.nextAt = p.elapsed + std::max(0.0, s.seconds - (now - stepSince_));
    } else if (p.ownEnd) {
        p.next = plan_.recipe.kind == records::Kind::Drain ? "cut-off, as predicted" : "full, as predicted";
        p.nextAt = *p.ownEnd;
    }
    if (plan_.recipe.askDisplayEvery > 0.0 && (loadOn_ || forecast_->onset())) {
        const double due = askedDisplayAt_ > 0.0 ? askedDisplayAt_ + plan_.recipe.askDisplayEvery
                                                 : forecast_->onset().value_or(p.elapsed) + kFirstDisplay;
        if (!p.nextAt || due < *p.nextAt) {
            p.next = "read the bank's display and stamp it (P)";
            p.nextAt = due;
        }
    }
}

} // namespace otterstone::bench
