// One of the benches: a run as it goes, or the place where the next one will.
#pragma once

#include "bench/runner/claims.h"
#include "bench/runner/rehearsal.h"
#include "bench/runner/session.h"

namespace otterstone::app {

class LiveRun : public QObject {
    Q_OBJECT

public:
    /// `number`: from 1; it is what a tester presses to see it.
    explicit LiveRun(int number, QObject* parent = nullptr);

    [[nodiscard]] int number() const { return number_; }
    [[nodiscard]] bench::Session& session() { return session_; }
    [[nodiscard]] const bench::Progress& progress() const { return session_.progress(); }
    [[nodiscard]] const bench::Plan& plan() const { return plan_; }
    [[nodiscard]] bool isGoing() const { return waits_ || session_.isRunning(); }
    /// The stand-in of a rehearsal is being started.
    [[nodiscard]] bool isStarting() const { return waits_; }
    /// A person is wanted: to do something, or because a load is still on.
    [[nodiscard]] bool wantsHands() const;
    /// What it has to itself: while it goes, and while a load of its last run could not be switched off.
    [[nodiscard]] bench::Claim claim() const;
    [[nodiscard]] bool owesOff() const { return owesOff_; }

    void start(const bench::Plan& plan);
    /// First the simulated bench; then as start(), with its instruments.
    void rehearse(const bench::StandIn::Scene& scene, const bench::Plan& plan);
    void stop(const QString& why = {});

Q_SIGNALS:
    void started();
    void progressed(const otterstone::bench::Progress& progress);
    void ended(const otterstone::bench::Outcome& outcome);
    void failed(const QString& sentence);

private:
    int number_;
    bench::StandIn standIn_; ///< outlives the session, which still says to its load that it be off
    bench::Session session_;
    bench::Plan plan_;
    bool waits_ = false; ///< for the stand-in
    bool owesOff_ = false;
};

} // namespace otterstone::app
