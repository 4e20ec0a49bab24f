#include "app/plan/planner.h"

#include <chrono>
#include <cmath>

#include <QtConcurrent>

#include "app/theme.h"

namespace otterstone::app {

namespace campaign = plan::campaign;

namespace {

using Clock = std::chrono::steady_clock;

constexpr auto kTellEvery = std::chrono::milliseconds(250);

} // namespace

std::optional<double> beginsAt(const Plan& plan, const campaign::JobKey& key, double moment) {
    for (const campaign::Placed& placed : plan.told.answer.schedule.placed) {
        if (plan.campaign.drawn.jobs[placed.job].key == key)
            return plan.campaign.begins + placed.from - moment;
    }
    return std::nullopt;
}

int movedBetween(const Plan& before, const Plan& after) {
    int moved = 0;
    for (const campaign::Placed& placed : after.told.answer.schedule.placed) {
        const auto was = beginsAt(before, after.campaign.drawn.jobs[placed.job].key, after.campaign.begins);
        if (was && !after.campaign.drawn.problem.jobs[placed.job].asNeeded && std::fabs(*was - placed.from) >= kMovedBy)
            ++moved;
    }
    return moved;
}

struct Planner::Order {
    QString path;
    campaign::Wishes wishes;
    double now = 0.0, seconds = 0.0;
    std::atomic<bool> enough = false; ///< the best so far will do
    std::atomic<bool> dropped = false;
};

Planner::Planner(QObject* parent) : QObject(parent) {}

Planner::~Planner() {
    drop();
    worker_.waitForFinished();
}

void Planner::drop() {
    if (order_)
        order_->dropped = true;
    planning_ = false;
}

void Planner::plan(const QString& path, const campaign::Wishes& wishes, double now, double seconds) {
    drop();
    order_ = std::make_shared<Order>();
    order_->path = path;
    order_->wishes = wishes;
    order_->now = now;
    order_->seconds = seconds;
    planning_ = true;
    // One after the other: a book is worked out by one worker at a time, and the last one ends at once.
    worker_ = QtConcurrent::run([before = worker_, order = order_, this]() mutable {
        before.waitForFinished();
        before = {};
        work(this, order);
    });
}

void Planner::stop() {
    if (order_)
        order_->enough = true;
}

void Planner::take(const std::shared_ptr<Order>& order, const PlanPointer& plan, const QString& wrong) {
    if (order != order_ || order->dropped)
        return;
    planning_ = plan && plan->searching;
    if (plan)
        Q_EMIT planned(plan);
    else
        Q_EMIT failed(wrong);
}

void Planner::work(Planner* to, const std::shared_ptr<Order>& order) {
    const auto tell = [&](const PlanPointer& plan, const QString& wrong = {}) {
        // The planner outlives its worker.
        QMetaObject::invokeMethod(
            to, [to, order, plan, wrong] { to->take(order, plan, wrong); }, Qt::QueuedConnection);
    };
    if (order->dropped)
        return;
    auto drawn = bench::drawCampaign(order->path, order->wishes, order->now);
    if (!drawn)
        return tell({}, qs(drawn.error().sentence()));
    Plan plan{std::move(*drawn), {}, false, true};
    const campaign::Problem& p = plan.campaign.drawn.problem;
    const auto until = [](double seconds) {
        return Clock::now() + std::chrono::duration_cast<Clock::duration>(std::chrono::duration<double>(seconds));
    };
    const auto end = until(order->seconds);
    auto told = Clock::now() - kTellEvery;
    double makespan = -1.0, value = -1.0;
    plan.told.answer = campaign::solve(p, [&](const campaign::Answer& best) {
        const auto now = Clock::now();
        const bool better = best.schedule.makespan != makespan || best.schedule.value != value;
        if (better && now - told >= kTellEvery && !order->dropped) {
            told = now;
            makespan = best.schedule.makespan;
            value = best.schedule.value;
            Plan soFar = plan;
            soFar.told.answer = best;
            tell(std::make_shared<const Plan>(std::move(soFar)));
            plan.campaign.fresh.clear(); // told once
        }
        return now < end && !order->enough && !order->dropped;
    });
    if (order->dropped)
        return;
    plan.told = campaign::tell(p, std::move(plan.told.answer));
    plan.sure = true;
    tell(std::make_shared<const Plan>(plan));
    plan.campaign.fresh.clear();
    plan.told.oneMore = campaign::oneMoreOf(p, plan.told.answer, [&]() -> campaign::GoOn {
        return [&, last = until(order->seconds * campaign::kOneMoreShare)](const campaign::Answer&) {
            return Clock::now() < last && !order->enough && !order->dropped;
        };
    });
    plan.searching = false;
    tell(std::make_shared<const Plan>(std::move(plan)));
}

} // namespace otterstone::app
