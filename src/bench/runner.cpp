#include "bench/runner.h"

#include <algorithm>
#include <cmath>

#include <QDateTime>
#include <nlohmann/json.hpp>

#include "bench/runner_source.h"
#include "core/quantity/format.h"

namespace otterstone::bench {

namespace {

constexpr int kTickMs = 10;
constexpr int kFlushMs = 250;
constexpr int kTellMs = 100;
constexpr int kConnectMs = 8000;
constexpr double kAskSeconds = 2.0;       // a tier is settled by then
constexpr double kTailSeconds = 2.0;      // watched on after a stop that was not orderly
constexpr double kHandsSeconds = 1.0;
// Of a rehearsal, bench seconds that pass at once.
constexpr double kMostAtOnce = 20.0, kLeastAtOnce = 1.0, kChunksPerStep = 10.0, kMostReadingsAtOnce = 200.0;

const char* outPort(const findings::Kind kind) { return kind == findings::Kind::Recharge || kind == findings::Kind::Matrix ? "input meter" : "meter"; }

} // namespace

Runner::Runner(QObject* parent, SystemClocks clocks) : QObject(parent), clocks_(clocks), clock_(1.0, clocks), tick_(this), poll_(this) {
    tick_.setTimerType(Qt::PreciseTimer);
    tick_.setInterval(kTickMs);
    connect(&tick_, &QTimer::timeout, this, &Runner::tick);
    real_.start();
}

Runner::~Runner() { closeAll(); }

Role Runner::mainRole() const { return outPort(plan_.recipe.kind); }

void Runner::start(const Plan& plan) {
    closeAll();
    plan_ = plan;
    plan_.recipe = expand(plan.recipe, plan.label, plan.sources);
    const double speed = plan_.rehearsal ? plan_.rehearsal->speed : 1.0;
    clock_ = BenchClock(speed, clocks_);
    if (plan_.rehearsal)
        clock_.halt();
    advancing_ = inStep_ = false;
    advancedAt_ = real_.elapsed();
    polledAt_ = -1e9;
    progress_ = {};
    progress_.steps = plan_.recipe.steps.size();
    batch_ = {};
    stop_.reset();
    celsius_.reset();
    trueBefore_.reset();
    trueAfter_.reset();
    rescued_.clear();
    run_ = 0;
    recording_ = finishing_ = loadOn_ = secondOn_ = false;
    gone_.reset();
    seen_.clear();
    watch_ = {};
    watch_.keepReadings(findings::hasSheet(plan_.recipe.kind));
    stuckSince_ = -1;
    step_ = 0;
    pluggedAt_ = -1.0;
    phase_ = Phase::Connecting;
    connectingSince_ = real_.elapsed();
    stops_ = std::make_unique<Stops>(plan_.limits, plan_.recipe.goneMeans);
    forecast_ = std::make_unique<Forecast>(mainRole() == "meter", plan_.expectedWattHours);
    tiers_[0] = tiers_[1] = tierFor({}, plan_.label);
    connectInstruments();
    tick_.start();
    tell(true);
}

// Everything answers: the run may be made.
void Runner::beginRun() {
    if (recording_)
        return;
    recording_ = true;
    if (plan_.rehearsal)
        askControl("TRUTh?", [this](const QByteArray& line) {
            const auto j = nlohmann::json::parse(line.toStdString(), nullptr, false);
            if (j.is_object())
                trueBefore_ = mainRole() == "meter" ? j.value("out_wh", 0.0) : j.value("in_wh", 0.0);
        });
    if (plan_.run.id != book::kNew) {
        Q_EMIT resumeRecording(plan_.book, plan_.run.id);
        return;
    }
    book::Run run = plan_.run;
    run.kind = plan_.recipe.kind;
    run.recipe = plan_.recipeText;
    run.startedAt = QDateTime::currentDateTime().toOffsetFromUtc(QDateTime::currentDateTime().offsetFromUtc()).toString(Qt::ISODate).toStdString();
    if (run.title.empty())
        run.title = plan_.recipe.name;
    run.logName = plan_.rehearsal ? "rehearsed on the simulated bench" : "captured live";
    std::vector<book::LiveTrace> traces;
    for (const auto& s : sources_)
        traces.push_back({{s->point, false, s->point == run.point ? std::nullopt : run.meter, run.logName}, s->celsius || thermometer_ != nullptr, s->percent});
    Q_EMIT beginRecording(plan_.book, run, traces);
}

void Runner::recorderBegun(long long run, double lastTime) {
    if (phase_ != Phase::Connecting)
        return;
    run_ = run;
    const double now = clock_.now();
    const bool again = plan_.run.id != book::kNew;
    for (auto& s : sources_) {
        s->keeper = TimeKeeper(again ? lastTime + plan_.breakSeconds : 0.0);
        s->lastAt = now;
        s->holeMarked = false;
    }
    batch_.samples.assign(sources_.size(), {});
    stops_->start(now);
    phase_ = Phase::Running;
    askedDisplayAt_ = 0.0;
    if (again) {
        mark(findings::Mark::What::Instrument, std::nullopt, "gone on with after a break of " + showDuration(plan_.breakSeconds));
        // What came before the first long step is done; that one is gone on with.
        const auto& steps = plan_.recipe.steps;
        while (step_ + 1 < steps.size() && steps[step_].ends == Ends::AtTime && steps[step_].what != Step::Do::Ask)
            ++step_;
    }
    beginStep();
}

void Runner::recorderFailed(const QString& sentence) { endRun({StopKind::BookLost, sentence.toStdString()}); }

void Runner::beginStep() {
    const double now = clock_.now();
    stepSince_ = now;
    // What is only done where an output went off.
    while (step_ < plan_.recipe.steps.size() && plan_.recipe.steps[step_].ifGone && !watch_.gone())
        ++step_;
    if (step_ >= plan_.recipe.steps.size()) {
        endRun(gone_ ? *gone_ : Stop{StopKind::Done, "all steps are done"});
        return;
    }
    const Step& s = plan_.recipe.steps[step_];
    // An output that goes away ends any step that draws something; a drain's end and a trip look alike.
    stops_->watchFor(s.what == Step::Do::Load && !s.off && s.load == 1 && !gone_, s.ends == Ends::AtTaper, s.ends == Ends::WhenSettled, now);
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
        const auto volts = [&tier](std::optional<double> given, double otherwise) { return !given ? otherwise : *given < 2.0 ? *given * tier.high.value : *given; };
        limits.lowVolts = volts(plan_.recipe.lowVolts, plan_.limits.lowVolts);
        limits.highVolts = volts(plan_.recipe.highVolts, plan_.limits.highVolts);
        stops_->setLimits(limits);
        break;
    }
    case Step::Do::Tell:
        if (s.hands == "replug" || s.hands == "source")
            loadsOff(); // nothing is plugged in under load
        if (plan_.rehearsal && !s.hands.empty()) {
            sayToHands(s);
        } else {
            phase_ = Phase::Waiting;
        }
        break;
    case Step::Do::Rest: break;
    case Step::Do::Load: applyLoad(s); break;
    }
    watch_.begin(s, tierOf(s).high.value, s.what == Step::Do::Load && !s.off ? s.again ? goneLevel_ : levelAt(s, tierOf(s)) : 0.0, sources_.empty() ? 0.0 : sources_.front()->keeper.at(now));
    watch_.expect(loadOn_, secondOn_);
    tell(true);
}

// What a person would do at a bench of plugs and buttons, said to the stand-in.
void Runner::sayToHands(const Step& s) {
    std::string command;
    const std::string which = std::to_string(s.load);
    if (s.hands == "load")
        command = "HANDs:LOAD " + which + " " + s.port;
    else if (s.hands == "load out")
        command = "HANDs:LOAD " + which + " OUT";
    else if (s.hands == "source")
        command = "HANDs:SOURce " + (s.source >= 0 && static_cast<std::size_t>(s.source) < plan_.sources.size() ? plan_.sources[static_cast<std::size_t>(s.source)].details : std::string("{}"));
    else if (s.hands == "replug")
        command = "HANDs:REPLug";
    else if (s.hands == "button")
        command = "HANDs:BUTTon";
    else if (s.hands == "low mode")
        command = "HANDs:LOWMode ON";
    else
        command = std::string(s.hands.starts_with("charger") ? "HANDs:CHARger" : "HANDs:DEVice") + (s.hands.ends_with(" in") ? " IN" : " OUT");
    askControl(QByteArray::fromStdString(command));
}

void Runner::applyLoad(const Step& s) {
    const double now = clock_.now();
    for (int which = 0; which < 2; ++which) {
        if (!loads_[which])
            continue;
        const bool mine = which == s.load - 1;
        if (!mine) {
            if (!s.keepOther) {
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
        (which == 0 ? loadOn_ : secondOn_) = true;
        const double volts = tierOf(s).high.value;
        const double amps = s.mode == Mode::Current ? level : s.mode == Mode::Power ? level / volts : level > 0.0 ? volts / level : 0.0;
        if (which == 0)
            stops_->expect(amps, now);
    }
}

void Runner::loadsOff() {
    for (auto& load : loads_) {
        if (load)
            load->switchOff();
    }
    loadOn_ = secondOn_ = false;
    if (stops_)
        stops_->expect(0.0, clock_.now());
}

// What the present step showed.
void Runner::closeStep() {
    if (step_ < plan_.recipe.steps.size() && !sources_.empty())
        seen_.push_back(watch_.end(sources_.front()->keeper.at(clock_.now())));
}

void Runner::nextStep() {
    if (phase_ == Phase::Waiting)
        phase_ = Phase::Running;
    closeStep();
    if (gone_ && !plan_.recipe.steps[step_].as.empty() && watch_.flows()) {
        // It is back: nothing more need be tried.
        mark(findings::Mark::What::Note, std::nullopt, "the output is on again");
        const Stop stop = *gone_;
        step_ = plan_.recipe.steps.size();
        endRun(stop);
        return;
    }
    ++step_;
    beginStep();
}

void Runner::goOn() {
    if (phase_ != Phase::Waiting)
        return;
    const Step& s = plan_.recipe.steps[step_];
    if (s.hands.ends_with(" in"))
        mark(findings::Mark::What::Plugged, std::nullopt, "");
    else if (s.hands.ends_with(" out"))
        mark(findings::Mark::What::Unplugged, std::nullopt, "");
    nextStep();
}

void Runner::stop(const QString& why) {
    if (phase_ == Phase::Idle || phase_ == Phase::Finished)
        return;
    endRun({StopKind::Tester, why.isEmpty() ? "the tester stopped it" : why.toStdString()});
}

void Runner::shutDown() {
    if (run_ != 0 && !finishing_ && (phase_ == Phase::Running || phase_ == Phase::Waiting || phase_ == Phase::Closing)) {
        loadsOff();
        if (!stop_) {
            stop_ = Stop{StopKind::Tester, "the window was closed"};
            mark(findings::Mark::What::Stop, std::nullopt, stop_->why);
        }
        flush();
        closeStep();
        close(stop_->why);
    }
    closeAll();
    phase_ = Phase::Finished;
}

void Runner::stamp(findings::Mark m) {
    if (phase_ != Phase::Running && phase_ != Phase::Waiting && phase_ != Phase::Closing)
        return;
    mark(m.what, m.number, std::move(m.text));
    if (m.what == findings::Mark::What::Percent || m.what == findings::Mark::What::Leds)
        askedDisplayAt_ = sources_.empty() ? 0.0 : sources_.front()->keeper.at(clock_.now());
    tell(true);
}

void Runner::mark(findings::Mark::What what, std::optional<double> number, std::string text) {
    findings::Mark m;
    m.at = sources_.empty() ? 0.0 : sources_.front()->keeper.at(clock_.now());
    m.what = what;
    m.number = number;
    m.text = std::move(text);
    forecast_->mark(m);
    batch_.marks.push_back(m);
    progress_.freshMarks.push_back(m);
    progress_.lastMark = m;
    ++progress_.marks;
}

// The step is over, or the run is: which, the kind of stop and the step say.
void Runner::stepOver(const Stop& stop) {
    const Step& s = plan_.recipe.steps[std::min(step_, plan_.recipe.steps.size() - 1)];
    if ((stop.kind == StopKind::CutOff || stop.kind == StopKind::InstrumentLost) && plan_.recipe.goneMeans == "noted") {
        mark(findings::Mark::What::Note, std::nullopt, "the output went off");
        stops_->watchFor(false, s.ends == Ends::AtTaper, s.ends == Ends::WhenSettled, clock_.now());
        return;
    }
    if (stop.kind == StopKind::CutOff && !plan_.recipe.afterGone.empty() && !gone_) {
        tryToBringBack(stop);
        return;
    }
    const bool stepsEnd = stop.kind == StopKind::TaperEnd || stop.kind == StopKind::Settled;
    if (stepsEnd && (s.ends == Ends::AtTaper || s.ends == Ends::WhenSettled) && step_ + 1 < plan_.recipe.steps.size()) {
        mark(findings::Mark::What::Note, std::nullopt, stop.why);
        nextStep();
        return;
    }
    endRun(stop);
}

// The steps that remain give way to those that bring an output back.
void Runner::tryToBringBack(const Stop& stop) {
    const Step& s = plan_.recipe.steps[step_];
    goneLevel_ = levelAt(s, tierOf(s));
    if (plan_.recipe.goneMeans == "trip")
        mark(findings::Mark::What::Trip, std::nullopt, "over-current");
    else
        mark(findings::Mark::What::Note, std::nullopt, stop.why);
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

void Runner::close(const std::string& why) {
    Q_EMIT finishRecording({why, sheetFromSteps(plan_.recipe.kind, seen_, plan_.sources)});
}

void Runner::endRun(const Stop& stop) {
    if (phase_ == Phase::Running || phase_ == Phase::Waiting)
        closeStep();
    loadsOff(); // invariant 1
    if (phase_ == Phase::Connecting || phase_ == Phase::Idle) {
        stop_ = stop;
        if (run_ != 0) {
            close(stop.why);
            finishing_ = true;
            return;
        }
        report();
        return;
    }
    if (phase_ == Phase::Closing || phase_ == Phase::Finished)
        return;
    stop_ = stop;
    if (stop.kind == StopKind::CutOff && plan_.recipe.goneMeans == "trip" && !gone_)
        mark(findings::Mark::What::Trip, std::nullopt, "over-current");
    mark(findings::Mark::What::Stop, std::nullopt, stop.why);
    phase_ = Phase::Closing;
    closingSince_ = clock_.now();
    flush();
    tell(true);
}

void Runner::checkSteps(double now) {
    if (phase_ == Phase::Closing) {
        const double tail = stop_ && isOrderly(stop_->kind) && stop_->kind != StopKind::Tester ? plan_.recipe.closingSeconds : kTailSeconds;
        if (now - closingSince_ >= tail && !finishing_) {
            finishing_ = true;
            flush();
            if (plan_.rehearsal)
                askControl("TRUTh?", [this](const QByteArray& line) {
                    const auto j = nlohmann::json::parse(line.toStdString(), nullptr, false);
                    if (j.is_object())
                        trueAfter_ = mainRole() == "meter" ? j.value("out_wh", 0.0) : j.value("in_wh", 0.0);
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
    if (s.what == Step::Do::Tell && s.hands.ends_with(" in"))
        mark(findings::Mark::What::Plugged, std::nullopt, "");
    if (s.what == Step::Do::Tell && s.hands.ends_with(" out"))
        mark(findings::Mark::What::Unplugged, std::nullopt, "");
    nextStep();
}

void Runner::tick() {
    const double now = clock_.now();
    if (phase_ == Phase::Connecting) {
        letTimePass();
        std::string missing;
        if (instrumentsReady(missing))
            beginRun();
        else if (real_.elapsed() - connectingSince_ > kConnectMs)
            endRun({StopKind::InstrumentLost, missing});
        tell(false);
        return;
    }
    if (phase_ == Phase::Running || phase_ == Phase::Waiting) {
        if (const double slept = clock_.sleptSince(); slept > 0.0) {
            mark(findings::Mark::What::Instrument, std::nullopt, "the computer slept for " + showDuration(slept));
            if (loadOn_) {
                endRun({StopKind::Slept, "the computer slept for " + showDuration(slept) + " while a load was on"});
                return;
            }
            stops_->start(now);
        }
        sources_.front()->lookForHoles(now, [this](std::string text) { mark(findings::Mark::What::Instrument, std::nullopt, std::move(text)); });
        if (const auto stop = stops_->tick(now)) {
            Stop told = *stop;
            if (told.kind == StopKind::Silent)
                told.why += sources_.front()->whySilent();
            endRun(told);
        } else if (loadOn_ && loads_[0] && !loads_[0]->link().isUp()) {
            endRun({StopKind::InstrumentLost, "the load cannot be reached: " + loads_[0]->link().trouble().toStdString()});
        } else if (stuckSince_ >= 0 && static_cast<double>(real_.elapsed() - stuckSince_) * 1e-3 > plan_.giveUpAfter) {
            endRun({StopKind::BookLost, "the book could not be written for " + showDuration(plan_.giveUpAfter)});
        }
    }
    checkSteps(now);
    if (finishing_ && stuckSince_ >= 0 && static_cast<double>(real_.elapsed() - stuckSince_) * 1e-3 > plan_.giveUpAfter) {
        stuckSince_ = -1;
        Q_EMIT giveUpRecording(plan_.rescueFolder);
    }
    pollLoads();
    letTimePass();
    if (real_.elapsed() - flushedAt_ >= kFlushMs)
        flush();
    tell(false);
}

// In step with the stand-in, whatever the speed: nothing happens between what is said to an instrument and its hearing it, and no reading is
// late. Chunks are short against the present step and hold few readings.
void Runner::letTimePass() {
    if (!inStep_ || advancing_ || !controlAnswers_.empty() || !control_ || control_->state() != QAbstractSocket::ConnectedState)
        return;
    for (const ScpiDevice* device : {loads_[0].get(), loads_[1].get(), triggers_[0].get(), triggers_[1].get(), thermometer_.get()}) {
        if (device && device->waiting() > 0)
            return;
    }
    const qint64 now = real_.elapsed();
    double most = kMostAtOnce;
    if (!sources_.empty() && sources_.front()->readings > 1)
        most = std::min(most, kMostReadingsAtOnce * std::max(1e-3, sources_.front()->usualStep));
    const bool within = phase_ == Phase::Running && step_ < plan_.recipe.steps.size();
    const Step* step = within ? &plan_.recipe.steps[step_] : nullptr;
    if (phase_ == Phase::Connecting || phase_ == Phase::Waiting || (step && (step->what == Step::Do::Ask || step->what == Step::Do::Tell || step->off)))
        most = std::min(most, kLeastAtOnce);
    else if (step && step->seconds > 0.0)
        most = std::clamp(step->seconds / kChunksPerStep, kLeastAtOnce, std::max(kLeastAtOnce, most));
    const double seconds = std::min(most, static_cast<double>(now - advancedAt_) * 1e-3 * plan_.rehearsal->speed);
    if (seconds <= 0.0)
        return;
    advancedAt_ = now;
    advancing_ = true;
    const auto heard = [this](const QByteArray& line) {
        const QList<QByteArray> answer = line.trimmed().split(' ');
        bool ok = false;
        if (const double t = answer.front().toDouble(&ok); ok)
            clock_.sync(t);
        for (const auto& s : sources_) {
            if (s->meter && answer.size() == 3)
                s->meter->takeIn(answer[s->role == "input meter" ? 2 : 1].toLongLong());
        }
        advancing_ = false;
        QTimer::singleShot(0, this, [this] {
            if (phase_ != Phase::Finished && phase_ != Phase::Idle)
                tick();
        });
    };
    askControl("ADVance " + QByteArray::number(seconds, 'f', 6), heard);
}

void Runner::flush() {
    flushedAt_ = real_.elapsed();
    if (run_ == 0 || batch_.empty())
        return;
    Q_EMIT record(batch_);
    batch_ = {};
    batch_.samples.assign(sources_.size(), {});
}

void Runner::recorderCommitted(double upTo) { progress_.committedTo = upTo; }

void Runner::recorderStuck(const QString& sentence) {
    if (stuckSince_ < 0)
        stuckSince_ = real_.elapsed();
    progress_.bookTrouble = sentence.toStdString();
    tell(true);
}

void Runner::recorderFreed() {
    stuckSince_ = -1;
    progress_.bookTrouble.clear();
    if (phase_ == Phase::Running || phase_ == Phase::Waiting)
        mark(findings::Mark::What::Instrument, std::nullopt, "the book could not be written for a while; nothing is missing");
    tell(true);
}

void Runner::recorderRescued(const QString& file) { rescued_ = file.toStdString(); }

void Runner::recorderFinished() { report(); }

void Runner::report() {
    closeAll();
    phase_ = Phase::Finished;
    tell(true);
    Outcome outcome;
    outcome.run = run_;
    outcome.stop = stop_.value_or(Stop{});
    outcome.rescued = rescued_;
    if (trueBefore_ && trueAfter_)
        outcome.trueWattHours = *trueAfter_ - *trueBefore_;
    Q_EMIT finished(outcome);
}

void Runner::tell(bool always) {
    if (!always && real_.elapsed() - toldAt_ < kTellMs)
        return;
    toldAt_ = real_.elapsed();
    fillProgress();
    Q_EMIT progressed(progress_);
    progress_.fresh.clear();
    progress_.freshMarks.clear();
}

} // namespace otterstone::bench
