// The benches of the window: as many runs at once as there is gear, each on a bench of its own; the tester's set-ups,
// recipes and instruments; runs that were left open.
#pragma once

#include <deque>
#include <map>

#include <QTimer>

#include "app/book_session.h"
#include "app/live/live_plan.h"
#include "app/live/live_run.h"
#include "app/live/setups.h"
#include "bench/runner/sleep_inhibitor.h"

namespace otterstone::app {

class LiveBench : public QObject {
    Q_OBJECT

public:
    using Choice = LiveChoice;
    /// As many as there are keys to choose them by.
    static constexpr int kMost = 9;

    explicit LiveBench(BookSession& session, QObject* parent = nullptr);
    ~LiveBench() override;

    /// The one that keys and buttons mean.
    [[nodiscard]] LiveRun& chosen() const { return *chosen_; }
    [[nodiscard]] bench::Session& runner() { return chosen_->session(); }
    void choose(LiveRun& run);
    /// Those that go, in the order of their numbers.
    [[nodiscard]] std::vector<LiveRun*> going() const;
    [[nodiscard]] LiveRun* withNumber(int number) const;
    /// The first that goes with a bank.
    [[nodiscard]] LiveRun* goingWith(records::Id bank) const;
    [[nodiscard]] bool isRunning() const { return !going().empty(); }
    [[nodiscard]] bool hasRoom() const { return going().size() < static_cast<std::size_t>(kMost); }

    /// Writes it among the tester's own; whoever shows them hears changed().
    [[nodiscard]] Result<void> saveRecipe(const std::string& json);
    [[nodiscard]] Result<void> saveProfile(const bench::Profile& profile);

    [[nodiscard]] Setups& setups() { return setups_; }
    /// The instrument that plays a role in the set-up in use.
    [[nodiscard]] std::optional<bench::Instrument> instrument(const bench::Role& role) const;
    void setInstrument(const bench::Role& role, const QString& profile, const QString& address);

    [[nodiscard]] std::optional<records::Bank> bank(records::Id id) const;
    [[nodiscard]] Expectation expect(const records::Bank& bank, const bench::Recipe& recipe) const;

    /// Begins; started() follows, or problem().
    void begin(const Choice& choice);
    /// What the run that goes or went last on a bench was chosen to be, with the set-up it was made on; nothing for one
    /// that was gone on with.
    [[nodiscard]] std::optional<Choice> choiceOf(int number) const;
    [[nodiscard]] bool beganByItself(const LiveRun& run) const;
    /// Goes on with a run that was left open when the program ended.
    void goOn(const records::Run& run, double celsius);
    /// Closes such a run as it is; loads that no run uses are switched off if they can be reached.
    void closeOpen(const records::Run& run);
    [[nodiscard]] std::vector<records::Run> openRuns() const;
    /// Loads off, everywhere at once.
    void stopAll();
    [[nodiscard]] QString sleepTrouble() const { return inhibitor_.trouble(); }

Q_SIGNALS:
    void problem(const QString& sentence);
    void started(otterstone::app::LiveRun* run);
    void progressed(otterstone::app::LiveRun* run, const otterstone::bench::Progress& progress);
    void ended(const otterstone::bench::Outcome& outcome, otterstone::app::LiveRun* run);
    /// What goes, what is chosen, or what there is to choose from.
    void changed();

private:
    LiveRun& add();
    /// Where a run may be made: a bench that is free, best one whose load it takes over.
    [[nodiscard]] LiveRun* place(const bench::Claim& claim);
    /// Pieces of gear that are at work.
    [[nodiscard]] std::set<records::Id> busy() const;
    /// Who has what a plan wants, as a sentence; empty when it can be made.
    [[nodiscard]] QString whoHas(const bench::Plan& plan) const;
    /// Its instruments from the set-up. False, and a problem, when one it needs is missing.
    bool fitOut(bench::Plan& plan, const bench::SetupFile& setup, const QString& otherwise);
    void startOn(const bench::Plan& plan, const std::optional<Choice>& choice);
    /// One end after another, so that the window goes on in between.
    void tellNextEnd();
    void runEnded(LiveRun& run, const bench::Outcome& outcome);

    BookSession& session_;
    Setups setups_;
    bench::SleepInhibitor inhibitor_;
    std::vector<LiveRun*> runs_; ///< numbered from 1; at least one
    LiveRun* chosen_ = nullptr;
    std::map<int, Choice> choices_; ///< by the bench's number
    std::deque<std::pair<LiveRun*, bench::Outcome>> ends_;
    QTimer tellEnds_;
};

} // namespace otterstone::app
