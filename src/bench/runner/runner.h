// Runs a recipe on the instruments. Lives in a thread of its own, so that a busy window delays neither a reading nor a
// stop.
//
// Invariants, cited by number in tests (tests/bench/safety_test.cpp drives each with a bench of its own):
//  1. Whatever ends a run, the loads are switched off first; then it is written down why.
//  2. A load that cannot be reached is switched off as soon as it can be, before anything else is said to it.
//  3. Off means that the load said so when asked (ScpiDevice::isOff). Until then it is told again twice a second, and
//  after kLateMs the run says in the
//     loudest words that it is on; nothing ends before, but by whoever is told so.
//  4. No run begins before its loads are off and every instrument it was given has said something readable.
//  5. A limit whose sensor is missing, speaks no number, jumps or stands still is broken: the run stops (Stops,
//  HeatWatch).
//  6. An answer that is no number, or that the instrument cannot give (its profile's range), is no reading.
//  7. No step asks for more than load, port and cable bear, and no limit is missing or beyond the house's (house.h),
//  whoever wrote the recipe.
//  8. A load that is on answers, and draws what the meter reads; else the run stops.
//  9. Every sample that is shown has been handed to the recorder.
// 10. What an instrument did wrong stands as a mark on the trace.
// 11. What flows is what this run asked for, all the time: more of it, or any while nothing was asked for, stops the
//     run. A load's word that it is off does not stand against a meter on its path.
// 12. Whoever did not watch for kUnwatchedSeconds (a computer that slept or stood still, a clock that was set) goes on
//     with no load.
#pragma once

#include <memory>

#include <QElapsedTimer>
#include <QObject>
#include <QTcpSocket>
#include <QTimer>

#include "bench/instruments/meter.h"
#include "bench/runner/bench_clock.h"
#include "bench/runner/loads.h"
#include "bench/runner/plan.h"
#include "bench/runner/runner_state.h"
#include "bench/runner/time_keeper.h"

namespace otterstone::bench {

class Runner : public QObject {
    Q_OBJECT

public:
    explicit Runner(QObject* parent = nullptr, SystemClocks clocks = {});
    ~Runner() override;

    // Called through the runner's thread.
    void start(const otterstone::bench::Plan& plan);
    /// The tester stops it, with a reason of their own.
    void stop(const QString& why);
    /// The program ends: loads off, and the run closed with all there is.
    void shutDown();
    /// Done what was asked for.
    void goOn();
    /// At the present moment of the run; its `at` is set here.
    void stamp(otterstone::records::Mark mark);

    // The recorder's answers.
    void recorderBegun(long long run, double lastTime);
    void recorderFailed(const QString& sentence);
    void recorderCommitted(double upTo);
    void recorderStuck(const QString& sentence);
    void recorderFreed();
    void recorderRescued(const QString& file);
    void recorderFinished();

Q_SIGNALS:
    void progressed(const otterstone::bench::Progress& progress);
    void finished(const otterstone::bench::Outcome& outcome);
    // To the recorder.
    void beginRecording(const QString& book, const otterstone::records::Run& run,
                        const std::vector<otterstone::book::LiveTrace>& traces);
    void resumeRecording(const QString& book, long long run);
    void record(const otterstone::book::Batch& batch);
    void finishRecording(const otterstone::book::Closing& closing);
    void giveUpRecording(const QString& folder);

private:
    struct Source; ///< one meter and what became of its readings

    // Instruments.
    void connectInstruments();
    /// Whether every instrument answers, and every meter has said something readable; otherwise what is missing.
    [[nodiscard]] bool allAnswer(std::string& missing) const;
    [[nodiscard]] bool allRead(std::string& missing) const;
    void meterReading(std::size_t which, const logs::LiveReading& reading);
    void meterSpoiled(std::size_t which, const QString& why);
    void meterGone(std::size_t which, const QString& why);
    void meterBack(std::size_t which);
    void pollLoads();
    /// Seconds in which no bank, however fast it warms, comes to its limit; at least one.
    [[nodiscard]] double untilTooWarm() const;
    /// A rehearsal's bench goes on for a moment, once everybody has heard what was said to them.
    void letTimePass();
    void askControl(const QByteArray& line, std::function<void(const QByteArray&)> answered = {});
    [[nodiscard]] Role mainRole() const;
    [[nodiscard]] std::optional<records::Id> pieceOf(const Source& source) const;

    // Steps.
    void beginRun();
    void beginStep();
    void nextStep();
    void applyLoad(const Step& step);
    void loadsOff();
    void waitForOff(int milliseconds);
    void watchLoads(double now);
    void watchHeat(double now);
    /// Sources of temperature that are heard more seldom, in a fast rehearsal, may be silent for longer.
    void allowSilence();
    void askThermometer();
    /// What load and meter say of the same current.
    void compare(double amps, double now);
    /// What is drawn, held against what was asked for: somebody else may have turned a knob.
    void holdAgainstAsked(int which, double volts, double amps, double now);
    /// What a load says that it is set to, where it can be asked.
    void askWhatIsSet(int which);
    void watchAfterEnd();
    /// Load off, and the present step waits until goOn().
    void askWhetherToGoOn(const std::string& why);
    void conclude();
    void waitOn();
    void sayWhatIsOpen();
    void endRun(const Stop& stop);
    void tryToBringBack(const Stop& stop);
    void closeStep();
    void close(const std::string& why);
    void sayToHands(const Step& step);
    void markPlugged(const Step& told);
    [[nodiscard]] const label::Tier& tierOf(const Step& step) const { return state_.tiers[step.load == 2 ? 1 : 0]; }
    void stepOver(const Stop& stop);
    void tick();
    /// Real milliseconds that passed unnoticed before this tick: the computer, or this program, stood still. 0 as a
    /// rule.
    [[nodiscard]] qint64 stoodStill();
    /// Whether the run goes on after what the clocks say of the time since the last tick; `still`: seconds in which
    /// this program did nothing.
    [[nodiscard]] bool wasWatched(double now, double still);
    void checkSteps(double now);
    void mark(records::Mark::What what, std::optional<double> number, std::string text);
    void flush();
    void tell(bool always);
    void fillProgress();
    void report();
    /// A load that could not be switched off is told on, after its run is over, until it is or the next run begins.
    void closeAll(bool keepLoadsThatAreOn = false);

    Plan plan_;
    Phase phase_ = Phase::Idle;
    RunState state_;
    SystemClocks clocks_;
    BenchClock clock_;
    std::vector<std::unique_ptr<Source>> sources_;
    Loads loads_;
    std::unique_ptr<ScpiDevice> triggers_[2], thermometer_;
    std::unique_ptr<QTcpSocket> control_; ///< of the stand-in
    std::deque<std::function<void(const QByteArray&)>> controlAnswers_;
    QTimer tick_;
    QElapsedTimer real_;
    qint64 tickedAt_ = 0, flushedAt_ = 0, toldAt_ = 0; ///< real milliseconds
};

} // namespace otterstone::bench
