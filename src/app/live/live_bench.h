// What the live pages share: the session, a rehearsal's stand-in, the tester's own recipes and instruments, and runs
// that were left open.
#pragma once

#include "app/book_session.h"
#include "app/live/own_files.h"
#include "bench/runner/rehearsal.h"
#include "bench/runner/session.h"
#include "bench/runner/sleep_inhibitor.h"

namespace otterstone::app {

class LiveBench : public QObject {
    Q_OBJECT

public:
    explicit LiveBench(BookSession& session, QObject* parent = nullptr);

    [[nodiscard]] bench::Session& runner() { return runner_; }
    [[nodiscard]] bool isRunning() const { return runner_.isRunning() || starting_; }
    [[nodiscard]] const bench::Plan& plan() const { return runner_.plan(); }

    /// Writes it among the tester's own; whoever shows them hears changed().
    [[nodiscard]] Result<void> saveRecipe(const std::string& json);
    [[nodiscard]] Result<void> saveProfile(const bench::Profile& profile);

    /// The instrument that is set up for a role.
    [[nodiscard]] std::optional<bench::Instrument> instrument(const bench::Role& role) const;
    void setInstrument(const bench::Role& role, const QString& profile, const QString& address);

    /// How long a recipe will take with this bank, and what that rests on.
    struct Expectation {
        std::optional<double> wattHours, seconds;
        QString from;
    };
    [[nodiscard]] Expectation expect(const records::Bank& bank, const bench::Recipe& recipe) const;

    struct Choice {
        records::Bank bank;
        RecipeText recipe;
        bool rehearse = true;
        double speed = 500.0;
        std::optional<double> samplesPerSecond = {}; ///< of a rehearsal; chosen by the speed when not given
        double celsius = 60.0;
        records::StatedEnds ends = {};      ///< how it begins, as the tester says
        std::vector<std::string> gear = {}; ///< names of pieces; none named: as in the bank's last run of this kind
    };
    /// Begins; started() of the runner follows, or problem().
    void begin(const Choice& choice);
    /// Goes on with a run that was left open when the program ended.
    void goOn(const records::Run& run, double celsius);
    /// Closes such a run as it is; its load is switched off if it can be reached.
    void closeOpen(const records::Run& run);
    [[nodiscard]] std::vector<records::Run> openRuns() const;
    [[nodiscard]] QString sleepTrouble() const { return inhibitor_.trouble(); }

Q_SIGNALS:
    void problem(const QString& sentence);
    void ended(const otterstone::bench::Outcome& outcome);
    void changed();

private:
    [[nodiscard]] bench::Plan planFor(const Choice& choice) const;
    /// Every charger of the drawer with every cable, into the bank's best input.
    [[nodiscard]] std::vector<bench::Source> sourcesFor(const records::Bank& bank) const;
    void startOnStandIn();
    void sessionEnded(const bench::Outcome& outcome);

    BookSession& session_;
    bench::StandIn standIn_; ///< outlives the runner, which still says to its load that it be off
    bench::Session runner_;
    bench::SleepInhibitor inhibitor_;
    std::optional<Choice> waiting_; ///< for the stand-in
    bool starting_ = false;
};

} // namespace otterstone::app
