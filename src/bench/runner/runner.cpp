#include "bench/runner/runner.h"

#include <algorithm>
#include <cmath>

#include <QDateTime>
#include <nlohmann/json.hpp>

#include "bench/runner/house.h"
#include "bench/runner/runner_source.h"
#include "core/quantity/format.h"

namespace otterstone::bench {

namespace {

constexpr int kTickMs = 10;
constexpr int kFlushMs = 250;
constexpr int kTellMs = 100;
constexpr int kConnectMs = 8000;
constexpr int kStillMs = 2000;
// Of a rehearsal, bench seconds that pass at once.
constexpr double kMostAtOnce = 20.0, kLeastAtOnce = 1.0, kChunksPerStep = 10.0, kMostReadingsAtOnce = 200.0,
                 kShortest = 1e-3;
constexpr double kFastestWarming = 0.1; // K/s; a bank takes minutes for a few kelvin

} // namespace

Runner::Runner(QObject* parent, SystemClocks clocks)
    : QObject(parent), clocks_(clocks), clock_(1.0, clocks), tick_(this) {
    tick_.setTimerType(Qt::PreciseTimer);
    tick_.setInterval(kTickMs);
    connect(&tick_, &QTimer::timeout, this, &Runner::tick);
    real_.start();
}

Runner::~Runner() { closeAll(); }

Role Runner::mainRole() const { return mainMeter(plan_.recipe.kind); }

void Runner::start(const Plan& plan) {
    closeAll();
    plan_ = plan;
    plan_.recipe = expand(plan.recipe, plan.label, plan.sources);
    const double speed = plan_.rehearsal ? plan_.rehearsal->speed : 1.0;
    clock_ = BenchClock(speed, clocks_);
    if (plan_.rehearsal)
        clock_.halt();
    advancing_ = inStep_ = false;
    tickedAt_ = advancedAt_ = real_.elapsed();
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
    recording_ = finishing_ = loadOn_ = secondOn_ = saidStillOn_ = wasOn_[0] = wasOn_[1] = false;
    pollEvery_ = 1.0;
    heatAskedAt_ = heatAskedAfter_ = 0.0;
    chunk_ = 0.0;
    differs_ = 0;
    gone_.reset();
    outputGone_ = false;
    seen_.clear();
    watch_ = {};
    watch_.keepReadings(records::hasSheet(plan_.recipe.kind));
    stuckSince_ = -1;
    step_ = 0;
    pluggedAt_ = -1.0;
    phase_ = Phase::Connecting;
    connectingSince_ = real_.elapsed();
    plan_.limits = houseLimits(plan_.limits);
    stops_ = std::make_unique<Stops>(plan_.limits, plan_.recipe.goneMeans);
    forecast_ = std::make_unique<Forecast>(mainRole() == role::meter, plan_.expectedWattHours);
    tiers_[0] = tiers_[1] = tierFor({}, plan_.label);
    if (const auto tooMuch = asksTooMuch(plan_)) { // invariant 7
        endRun({StopKind::Refused, tooMuch->sentence()});
        return;
    }
    connectInstruments();
    tick_.start();
    tell(true);
}

// A second meter that nobody named is one like the first, as a rule; what hangs at the wall is not.
std::optional<records::Id> Runner::pieceOf(const Source& s) const {
    const auto named = plan_.pieces.find(s.role);
    return named != plan_.pieces.end()    ? std::optional(named->second)
           : s.point == path::Point::Wall ? std::nullopt
                                          : plan_.run.meter;
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
                trueBefore_ = mainRole() == role::meter ? j.value("out_wh", 0.0) : j.value("in_wh", 0.0);
        });
    if (plan_.run.id != records::kNew) {
        Q_EMIT resumeRecording(plan_.book, plan_.run.id);
        return;
    }
    records::Run run = plan_.run;
    run.kind = plan_.recipe.kind;
    run.recipe = plan_.recipeText;
    run.startedAt = QDateTime::currentDateTime()
                        .toOffsetFromUtc(QDateTime::currentDateTime().offsetFromUtc())
                        .toString(Qt::ISODate)
                        .toStdString();
    if (run.title.empty())
        run.title = plan_.recipe.name;
    run.logName = plan_.rehearsal ? "rehearsed on the simulated bench" : "captured live";
    std::vector<book::LiveTrace> traces;
    for (const auto& s : sources_)
        traces.push_back({{s->point, false, s->point == run.point ? std::nullopt : pieceOf(*s), run.logName},
                          s->celsius || thermometer_ != nullptr,
                          s->percent});
    Q_EMIT beginRecording(plan_.book, run, traces);
}

void Runner::recorderBegun(long long run, double lastTime) {
    if (phase_ != Phase::Connecting)
        return;
    run_ = run;
    const double now = clock_.now();
    const bool again = plan_.run.id != records::kNew;
    for (auto& s : sources_) {
        s->keeper = TimeKeeper(again ? lastTime + plan_.breakSeconds : 0.0);
        s->lastAt = now;
        s->holeMarked = false;
    }
    batch_.samples.assign(sources_.size(), {});
    stops_->start(now);
    watchHeat(now);
    phase_ = Phase::Running;
    askedDisplayAt_ = 0.0;
    if (again) {
        mark(records::Mark::What::Instrument, std::nullopt,
             "gone on with after a break of " + showDuration(plan_.breakSeconds));
        // What came before the first long step is done; that one is gone on with.
        const auto& steps = plan_.recipe.steps;
        while (step_ + 1 < steps.size() && steps[step_].ends == Ends::AtTime && steps[step_].what != Step::Do::Ask)
            ++step_;
    }
    beginStep();
}

void Runner::recorderFailed(const QString& sentence) { endRun({StopKind::BookLost, sentence.toStdString()}); }

void Runner::stop(const QString& why) {
    if (phase_ == Phase::Idle || phase_ == Phase::Finished)
        return;
    endRun({StopKind::Tester, why.isEmpty() ? "the tester stopped it" : why.toStdString()});
}

void Runner::stamp(records::Mark m) {
    if (phase_ != Phase::Running && phase_ != Phase::Waiting && phase_ != Phase::Closing)
        return;
    mark(m.what, m.number, std::move(m.text));
    if (m.what == records::Mark::What::Percent || m.what == records::Mark::What::Leds)
        askedDisplayAt_ = sources_.empty() ? 0.0 : sources_.front()->keeper.at(clock_.now());
    tell(true);
}

void Runner::mark(records::Mark::What what, std::optional<double> number, std::string text) {
    records::Mark m;
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
        conclude();
        return;
    }
    if (phase_ == Phase::Closing || phase_ == Phase::StillOn || phase_ == Phase::Finished)
        return;
    stop_ = stop;
    if (stop.kind == StopKind::CutOff && plan_.recipe.goneMeans == "trip" && !gone_)
        mark(records::Mark::What::Trip, std::nullopt, "over-current");
    mark(records::Mark::What::Stop, std::nullopt, stop.why);
    phase_ = Phase::Closing;
    closingSince_ = clock_.now();
    flush();
    tell(true);
}

qint64 Runner::stoodStill() {
    const qint64 now = real_.elapsed();
    const qint64 passed = now - std::exchange(tickedAt_, now);
    return passed >= kStillMs ? passed : 0;
}

void Runner::tick() {
    const double now = clock_.now();
    const qint64 still = stoodStill();
    if (phase_ == Phase::Connecting) {
        connectingSince_ += still;
        // In a rehearsal no more time passes than the meters' first lines take: a bank that is kept waiting goes to
        // sleep.
        std::string missing;
        const bool answer = allAnswer(missing);
        askThermometer();
        if (answer && allRead(missing))
            beginRun();
        else if (answer)
            letTimePass();
        if (!recording_ && real_.elapsed() - connectingSince_ > kConnectMs)
            endRun({StopKind::InstrumentLost, missing});
        tell(false);
        return;
    }
    if (phase_ == Phase::Running || phase_ == Phase::Waiting) {
        if (const double slept = clock_.sleptSince(); slept > 0.0) {
            mark(records::Mark::What::Instrument, std::nullopt, "the computer slept for " + showDuration(slept));
            if (loadOn_) {
                endRun({StopKind::Slept, "the computer slept for " + showDuration(slept) + " while a load was on"});
                return;
            }
            stops_->start(now);
            stops_->listenAnew(now);
        }
        if (still > 0) { // what came meanwhile still lies in the line
            stops_->listenAnew(now);
            for (auto& load : loads_) {
                if (load)
                    load->listenAnew();
            }
            mark(records::Mark::What::Instrument, std::nullopt,
                 "this computer stood still for " + showDuration(static_cast<double>(still) * 1e-3));
        } else {
            sources_.front()->lookForHoles(now, [this](std::string text) {
                mark(records::Mark::What::Instrument, std::nullopt, std::move(text));
            });
        }
        allowSilence();
        if (const auto stop = stops_->tick(now)) {
            Stop told = *stop;
            if (told.kind == StopKind::Silent)
                told.why += sources_.front()->whySilent();
            endRun(told);
        } else if (stuckSince_ >= 0 && static_cast<double>(real_.elapsed() - stuckSince_) * 1e-3 > plan_.giveUpAfter) {
            endRun({StopKind::BookLost, "the book could not be written for " + showDuration(plan_.giveUpAfter)});
        } else {
            watchLoads(now);
        }
    }
    sayWhatIsOpen();
    if (phase_ == Phase::StillOn) {
        waitOn();
        return;
    }
    checkSteps(now);
    if (finishing_ && stuckSince_ >= 0 &&
        static_cast<double>(real_.elapsed() - stuckSince_) * 1e-3 > plan_.giveUpAfter) {
        stuckSince_ = -1;
        Q_EMIT giveUpRecording(plan_.rescueFolder);
    }
    pollLoads();
    letTimePass();
    if (real_.elapsed() - flushedAt_ >= kFlushMs)
        flush();
    tell(false);
}

double Runner::untilTooWarm() const {
    return progress_.celsius ? std::max(kLeastAtOnce, (stops_->limits().celsius - *progress_.celsius) / kFastestWarming)
                             : HUGE_VAL;
}

// In step with the stand-in, whatever the speed: nothing happens between what is said to an instrument and its hearing
// it, and no reading is late. Chunks are short against the present step and hold few readings; the stand-in ends one
// where a reading jumps.
void Runner::letTimePass() {
    if (!inStep_ || advancing_ || !controlAnswers_.empty() || !control_ ||
        control_->state() != QAbstractSocket::ConnectedState)
        return;
    for (const ScpiDevice* device :
         {loads_[0].get(), loads_[1].get(), triggers_[0].get(), triggers_[1].get(), thermometer_.get()}) {
        if (device && device->waiting() > 0)
            return;
    }
    const qint64 now = real_.elapsed();
    double most = kMostAtOnce;
    if (!sources_.empty() && sources_.front()->readings > 1)
        most = std::min(most, kMostReadingsAtOnce * std::max(1e-3, sources_.front()->usualStep));
    const bool within = phase_ == Phase::Running && step_ < plan_.recipe.steps.size();
    const Step* step = within ? &plan_.recipe.steps[step_] : nullptr;
    if (phase_ == Phase::Connecting || phase_ == Phase::Waiting ||
        (step && (step->what == Step::Do::Ask || step->what == Step::Do::Tell || step->off)))
        most = std::min(most, kLeastAtOnce);
    else if (step && step->seconds > 0.0)
        most = std::clamp(step->seconds / kChunksPerStep, kLeastAtOnce, std::max(kLeastAtOnce, most));
    most = std::min(most, untilTooWarm());
    // Not beyond the moment at which a load that is on wants to hear something: its watchdog would switch it off.
    if (loadOn_ || secondOn_)
        most = std::clamp(polledAt_ + kLoadHearsWithin - clock_.now(), kShortest, most);
    const double seconds = std::min(most, static_cast<double>(now - advancedAt_) * 1e-3 * plan_.rehearsal->speed);
    if (seconds <= 0.0)
        return;
    chunk_ = seconds;
    advancedAt_ = now;
    advancing_ = true;
    const auto heard = [this](const QByteArray& line) {
        const QList<QByteArray> answer = line.trimmed().split(' ');
        bool ok = false;
        if (const double t = answer.front().toDouble(&ok); ok)
            clock_.sync(t);
        for (const auto& s : sources_) {
            if (s->meter && answer.size() == 3)
                s->meter->takeIn(answer[s->role == role::inputMeter ? 2 : 1].toLongLong());
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
        mark(records::Mark::What::Instrument, std::nullopt,
             "the book could not be written for a while; nothing is missing");
    tell(true);
}

void Runner::recorderRescued(const QString& file) {
    rescued_ = file.toStdString();
    if (file.isEmpty() && stop_)
        stop_->why += "; what the book did not take could not be kept in any other folder either";
}

void Runner::recorderFinished() { conclude(); }

void Runner::report() {
    const std::string stillOn = whyNotOff();
    closeAll(Loads::KeepThoseOn);
    phase_ = Phase::Finished;
    progress_.stillOn.clear();
    tell(true);
    Outcome outcome;
    outcome.run = run_;
    outcome.stop = stop_.value_or(Stop{});
    outcome.rescued = rescued_;
    outcome.stillOn = stillOn;
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
