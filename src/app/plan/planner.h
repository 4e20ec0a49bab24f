// Plans a book's campaign in a worker's thread: a first answer at once, better ones as they are found, and in the end
// how sure it is and what one more piece would save.
#pragma once

#include <atomic>
#include <memory>

#include <QFuture>
#include <QObject>

#include "bench/campaign/book_campaign.h"
#include "core/plan/campaign/told.h"

namespace otterstone::app {

struct Plan {
    bench::BookCampaign campaign;
    plan::campaign::Told told;
    bool sure = false;      ///< how sure it is, and what is scarce, are in it
    bool searching = false; ///< a better one may follow
};
using PlanPointer = std::shared_ptr<const Plan>;

/// When a job begins in a plan, in s from a moment (s since 1970); nothing where it is not in it, or left out.
[[nodiscard]] std::optional<double> beginsAt(const Plan& plan, const plan::campaign::JobKey& key, double moment);
/// Less is not told as moved, s.
inline constexpr double kMovedBy = 300.0;
/// How many of the runs that are in both begin at another time, those apart that only bring a bank where another run
/// wants it.
[[nodiscard]] int movedBetween(const Plan& before, const Plan& after);

class Planner : public QObject {
    Q_OBJECT

public:
    explicit Planner(QObject* parent = nullptr);
    ~Planner() override; ///< waits for the worker, which stops at once
    /// Plans anew; what is under way is dropped. `seconds` is how long it searches at the most.
    void plan(const QString& path, const plan::campaign::Wishes& wishes, double now, double seconds);
    /// The best so far is good enough.
    void stop();
    /// What is under way is not wanted any more: nothing is heard of it.
    void drop();
    [[nodiscard]] bool isPlanning() const { return planning_; }

Q_SIGNALS:
    void planned(const otterstone::app::PlanPointer& plan);
    void failed(const QString& sentence);

private:
    struct Order; // what a worker is told
    void take(const std::shared_ptr<Order>& order, const PlanPointer& plan, const QString& wrong);
    static void work(Planner* to, const std::shared_ptr<Order>& order);

    std::shared_ptr<Order> order_;
    QFuture<void> worker_;
    bool planning_ = false;
};

} // namespace otterstone::app
