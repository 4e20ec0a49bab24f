// The live bench as the window holds it: runner and recorder in their threads, everything else by signals.
#pragma once

#include <QObject>
#include <QThread>

#include "bench/runner/bench_clock.h"
#include "bench/runner/plan.h"
#include "bench/runner/progress.h"

namespace otterstone::bench {

class Recorder;
class Runner;

class Session : public QObject {
    Q_OBJECT

public:
    explicit Session(QObject* parent = nullptr, SystemClocks clocks = {});
    /// Switches the loads off and keeps what was measured.
    ~Session() override;

    [[nodiscard]] bool isRunning() const { return running_; }
    [[nodiscard]] const Progress& progress() const { return progress_; }
    [[nodiscard]] const Plan& plan() const { return plan_; }

    void start(const Plan& plan);
    void stop(const QString& why = {});
    /// Loads off and what was measured kept, at once: what the destructor does. Nothing can be started any more.
    void end();
    void goOn();
    void stamp(const records::Mark& mark);

Q_SIGNALS:
    void started();
    void progressed(const otterstone::bench::Progress& progress);
    void finished(const otterstone::bench::Outcome& outcome);
    // To the runner's thread.
    void startWanted(const otterstone::bench::Plan& plan, QPrivateSignal);
    void stopWanted(const QString& why, QPrivateSignal);
    void goOnWanted(QPrivateSignal);
    void stampWanted(const otterstone::records::Mark& mark, QPrivateSignal);
    void shutDownWanted(QPrivateSignal);

private:
    QThread runnerThread_, recorderThread_;
    Runner* runner_;
    Recorder* recorder_;
    Plan plan_;
    Progress progress_;
    bool running_ = false;
};

} // namespace otterstone::bench
