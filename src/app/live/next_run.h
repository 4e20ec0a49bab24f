// What the plan has next for the gear that a run left free: kept, so that a key sets it up, or begun by itself where no
// hands are needed.
#pragma once

#include <map>

#include <QTimer>

#include "app/live/live_bench.h"
#include "app/plan/job_to_do.h"

namespace otterstone::app {

class NextRun : public QObject {
    Q_OBJECT

public:
    NextRun(BookSession& session, LiveBench& live, QObject* parent = nullptr);

    /// A run ended by itself, on this bench: what comes next there may begin by itself, made as that one was (rehearsed
    /// as quickly, on its set-up, under its limit). After any other end nothing does.
    void follow(int bench);
    void leave(int bench);
    /// What the plan has next there. What is to be told of it; `words` names it.
    [[nodiscard]] QString offer(int bench, const JobToDo& job, const QString& words);
    /// The last that was offered, once.
    [[nodiscard]] std::optional<JobToDo> take();
    /// Nothing begins by itself that waits to. False where nothing waits.
    bool keepBack();
    void clear();
    /// For so long it is told before it begins, s.
    void setNotice(double seconds) { notice_ = seconds; }

Q_SIGNALS:
    void problem(const QString& sentence);

private:
    void begin(int bench);

    /// What the offer rests on: what the campaign wishes, and how often the bank was run.
    [[nodiscard]] std::pair<std::string, std::size_t> groundOf(const JobToDo& job) const;

    BookSession& session_;
    LiveBench& live_;
    double notice_ = 60.0;
    std::optional<JobToDo> last_;
    std::map<int, LiveBench::Choice> like_; ///< by bench: what its last run was, where it ended by itself
    struct Waiting {
        JobToDo job;
        std::pair<std::string, std::size_t> ground;
        std::unique_ptr<QTimer> timer;
    };
    std::map<int, Waiting> waiting_;
};

} // namespace otterstone::app
