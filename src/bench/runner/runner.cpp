#include "bench/runner/runner.h"

#include <algorithm>
#include <cmath>

#include <QDateTime>
#include <nlohmann/json.hpp>

#include "bench/runner/house.h"
#include "bench/runner/runner_source.h"
#include "core/quantity/format.h"

#include "core/quantity/say.h"
#include "watcher/guard.h"

namespace otterstone::bench {

namespace {

constexpr int kTickMs = 10;
constexpr int kFlushMs = 250;
constexpr int kConnectMs = 8000;
constexpr int kStillMs = 2000;
constexpr double kUnwatched = watcher::kUnwatchedSeconds;

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
    state_ = {};
    tickedAt_ = state_.advancedAt = state_.connectingSince = real_.elapsed();
    state_.progress.steps = plan_.recipe.steps.size();
    state_.watch.keepReadings(records::hasSheet(plan_.recipe.kind));
    phase_ = Phase::Connecting;
    plan_.limits = houseLimits(plan_.limits);
    state_.forecast = std::make_unique<Forecast>(mainRole() == role::meter, plan_.expectedWattHours);
    state_.tiers[0] = state_.tiers[1] = tierFor({}, plan_.label);
    state_.stops = std::make_unique<Stops>(plan_.limits, plan_.recipe.goneMeans);
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
    if (state_.recording)
        return;
    state_.recording = true;
    if (plan_.rehearsal)
        askControl("TRUTh?", [this](const QByteArray& line) {
            const auto j = nlohmann::json::parse(line.toStdString(), nullptr, false);
            if (j.is_object())
                state_.trueBefore = mainRole() == role::meter ? j.value("out_wh", 0.0) : j.value("in_wh", 0.0);
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
    run.logName = plan_.rehearsal ? say("rehearsed on the simulated bench") : say("captured live");
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
    state_.run = run;
    const double now = clock_.now();
    const bool again = plan_.run.id != records::kNew;
    for (auto& s : sources_) {
        s->keeper = TimeKeeper(again ? lastTime + plan_.breakSeconds : 0.0);
        s->lastAt = now;
        s->holeMarked = false;
    }
    state_.batch.samples.assign(sources_.size(), {});
    state_.stops->start(now);
    watchHeat(now);
    phase_ = Phase::Running;
    state_.askedDisplayAt = 0.0;
    if (again) {
        mark(records::Mark::What::Instrument, std::nullopt,
             say("gone on with after a break of {}", showDuration(plan_.breakSeconds)));
        // What came before the first long step is done; that one is gone on with.
        const auto& steps = plan_.recipe.steps;
        while (state_.step + 1 < steps.size() && steps[state_.step].ends == Ends::AtTime &&
               steps[state_.step].what != Step::Do::Ask)
            ++state_.step;
    }
    beginStep();
}

void Runner::recorderFailed(const QString& sentence) { endRun({StopKind::BookLost, sentence.toStdString()}); }

void Runner::stop(const QString& why) {
    if (phase_ == Phase::Idle || phase_ == Phase::Finished)
        return;
    endRun({StopKind::Tester, why.isEmpty() ? say("the tester stopped it") : why.toStdString()});
}

void Runner::stamp(records::Mark m) {
    if (phase_ != Phase::Running && phase_ != Phase::Waiting && phase_ != Phase::Closing)
        return;
    mark(m.what, m.number, std::move(m.text));
    if (m.what == records::Mark::What::Percent || m.what == records::Mark::What::Leds)
        state_.askedDisplayAt = sources_.empty() ? 0.0 : sources_.front()->keeper.at(clock_.now());
    tell(true);
}

void Runner::mark(records::Mark::What what, std::optional<double> number, std::string text) {
    records::Mark m;
    m.at = sources_.empty() ? 0.0 : sources_.front()->keeper.at(clock_.now());
    m.what = what;
    m.number = number;
    m.text = std::move(text);
    state_.forecast->mark(m);
    state_.batch.marks.push_back(m);
    state_.progress.freshMarks.push_back(m);
    state_.progress.lastMark = m;
    ++state_.progress.marks;
}

void Runner::close(const std::string& why) {
    state_.closed = true;
    Q_EMIT finishRecording({why, sheetFromSteps(plan_.recipe.kind, state_.seen, plan_.sources)});
}

void Runner::endRun(const Stop& stop) {
    if (phase_ == Phase::Running || phase_ == Phase::Waiting)
        closeStep();
    loadsOff(); // invariant 1
    if (phase_ == Phase::Connecting || phase_ == Phase::Idle) {
        state_.stop = stop;
        if (state_.run != 0) {
            close(stop.why);
            state_.finishing = true;
            return;
        }
        conclude();
        return;
    }
    if (phase_ == Phase::Closing || phase_ == Phase::StillOn || phase_ == Phase::Finished)
        return;
    state_.stop = stop;
    if (stop.kind == StopKind::CutOff && plan_.recipe.goneMeans == "trip" && !state_.gone)
        mark(records::Mark::What::Trip, std::nullopt, "over-current");
    mark(records::Mark::What::Stop, std::nullopt, stop.why);
    phase_ = Phase::Closing;
    state_.closingSince = clock_.now();
    flush();
    tell(true);
}

qint64 Runner::stoodStill() {
    const qint64 now = real_.elapsed();
    const qint64 passed = now - std::exchange(tickedAt_, now);
    return passed >= kStillMs ? passed : 0;
}

// Invariant 12. False: the run ended.
bool Runner::wasWatched(double now, double still) {
    const double slept = clock_.sleptSince(), set = clock_.setSince();
    const std::string what =
        slept > 0.0        ? say("the computer slept for {}", showDuration(slept))
        : still > 0.0      ? say("this computer stood still for {}", showDuration(still))
        : set > kUnwatched ? say("the computer's clock went on by {} at once: it slept, or was set", showDuration(set))
                           : std::string();
    if (what.empty())
        return true;
    mark(records::Mark::What::Instrument, std::nullopt, what);
    const bool resumes = plan_.recipe.steps[state_.step].what == Step::Do::Load && !loads_.on(1);
    if (loads_.anyOn() && (slept > 0.0 || still > kUnwatched || (set > kUnwatched && !resumes))) {
        endRun({StopKind::Slept, say("{}, and nobody watched the load meanwhile", what)});
        return false;
    }
    if (set > kUnwatched && loads_.on(0)) // every reading is there: whether it slept, the tester knows
        askWhetherToGoOn(say("{}. The load is off. If all is well at the bench, go on", what));
    if (slept > 0.0)
        state_.stops->start(now);
    state_.stops->listenAnew(now); // what came meanwhile still lies in the line
    loads_.listenAnew();
    return true;
}

void Runner::tick() {
    const double now = clock_.now();
    const qint64 still = stoodStill();
    if (phase_ == Phase::Connecting) {
        state_.connectingSince += still;
        // In a rehearsal no more time passes than the meters' first lines take: a bank that is kept waiting goes to
        // sleep.
        std::string missing;
        const bool answer = allAnswer(missing);
        askThermometer();
        if (answer && allRead(missing))
            beginRun();
        else if (answer)
            letTimePass();
        if (!state_.recording && real_.elapsed() - state_.connectingSince > kConnectMs)
            endRun({StopKind::InstrumentLost, missing});
        tell(false);
        return;
    }
    if (phase_ == Phase::Running || phase_ == Phase::Waiting) {
        if (!wasWatched(now, static_cast<double>(still) * 1e-3))
            return;
        if (still == 0) {
            sources_.front()->lookForHoles(now, [this](std::string text) {
                mark(records::Mark::What::Instrument, std::nullopt, std::move(text));
            });
        }
        allowSilence();
        if (const auto stop = state_.stops->tick(now)) {
            Stop told = *stop;
            if (told.kind == StopKind::Silent)
                told.why += sources_.front()->whySilent();
            endRun(told);
        } else if (state_.stuckSince >= 0 &&
                   static_cast<double>(real_.elapsed() - state_.stuckSince) * 1e-3 > plan_.giveUpAfter) {
            endRun({StopKind::BookLost, say("the book could not be written for {}", showDuration(plan_.giveUpAfter))});
        } else {
            watchLoads(now);
        }
    }
    watchAfterEnd();
    loads_.insist(now);
    sayWhatIsOpen();
    if (phase_ == Phase::StillOn) {
        waitOn();
        return;
    }
    checkSteps(now);
    if (state_.closed && state_.stuckSince >= 0 &&
        static_cast<double>(real_.elapsed() - state_.stuckSince) * 1e-3 > plan_.giveUpAfter) {
        state_.stuckSince = -1;
        Q_EMIT giveUpRecording(plan_.rescueFolder);
    }
    pollLoads();
    letTimePass();
    if (real_.elapsed() - flushedAt_ >= kFlushMs)
        flush();
    tell(false);
}

void Runner::flush() {
    flushedAt_ = real_.elapsed();
    if (state_.run == 0 || state_.batch.empty())
        return;
    Q_EMIT record(state_.batch);
    state_.batch = {};
    state_.batch.samples.assign(sources_.size(), {});
}

void Runner::recorderCommitted(double upTo) { state_.progress.committedTo = upTo; }

void Runner::recorderStuck(const QString& sentence) {
    if (state_.stuckSince < 0)
        state_.stuckSince = real_.elapsed();
    state_.progress.bookTrouble = sentence.toStdString();
    tell(true);
}

void Runner::recorderFreed() {
    state_.stuckSince = -1;
    state_.progress.bookTrouble.clear();
    if (phase_ == Phase::Running || phase_ == Phase::Waiting)
        mark(records::Mark::What::Instrument, std::nullopt,
             say("the book could not be written for a while; nothing is missing"));
    tell(true);
}

void Runner::recorderRescued(const QString& file) {
    state_.rescued = file.toStdString();
    if (file.isEmpty() && state_.stop)
        state_.stop->why =
            say("{}; what the book did not take could not be kept in any other folder either", state_.stop->why);
}

void Runner::recorderFinished() { conclude(); }

void Runner::report() {
    const std::string stillOn = loads_.whyNotOff();
    closeAll(true);
    phase_ = Phase::Finished;
    state_.progress.stillOn.clear();
    tell(true);
    Outcome outcome;
    outcome.run = state_.run;
    outcome.stop = state_.stop.value_or(Stop{});
    outcome.rescued = state_.rescued;
    outcome.stillOn = stillOn;
    if (!state_.meddled.empty())
        outcome.stop = {StopKind::InstrumentLost, say("{}; {}", outcome.stop.why, state_.meddled)};
    if (state_.trueBefore && state_.trueAfter)
        outcome.trueWattHours = *state_.trueAfter - *state_.trueBefore;
    Q_EMIT finished(outcome);
}

} // namespace otterstone::bench
