#include "app/live/live_run.h"
#include "app/live/live_words.h"

namespace otterstone::app {

LiveRun::LiveRun(int number, QObject* parent) : QObject(parent), number_(number), standIn_(this), session_(this) {
    connect(&session_, &bench::Session::progressed, this, &LiveRun::progressed);
    connect(&session_, &bench::Session::started, this, &LiveRun::started);
    connect(&session_, &bench::Session::finished, this, [this](const bench::Outcome& outcome) {
        standIn_.stop();
        owesOff_ = !outcome.stillOn.empty();
        Q_EMIT ended(outcome);
    });
    connect(&standIn_, &bench::StandIn::ready, this, [this] {
        if (!std::exchange(waits_, false))
            return;
        bench::Plan plan = plan_;
        for (const auto* roles : {&plan.recipe.needs, &plan.recipe.uses}) {
            for (const bench::Role& role : *roles) {
                const auto at = standIn_.instruments().find(role); // the simulated bench hangs on no wall
                if (at != standIn_.instruments().end())
                    plan.instruments[role] = at->second;
            }
        }
        plan.rehearsal = standIn_.rehearsal();
        start(plan);
    });
    connect(&standIn_, &bench::StandIn::failed, this, [this](const QString& sentence) {
        waits_ = false;
        Q_EMIT failed(sentence);
    });
}

bool LiveRun::wantsHands() const { return isGoing() && app::wantsHands(progress()); }

bench::Claim LiveRun::claim() const {
    if (isGoing() && !waits_)
        return bench::claimOf(plan_);
    bench::Claim claim;
    if (owesOff_)
        claim.places = bench::claimOf(plan_).places;
    return claim;
}

void LiveRun::start(const bench::Plan& plan) {
    plan_ = plan;
    owesOff_ = false;
    session_.start(plan);
}

void LiveRun::rehearse(const bench::StandIn::Scene& scene, const bench::Plan& plan) {
    plan_ = plan;
    owesOff_ = false;
    waits_ = true;
    standIn_.start(scene);
}

void LiveRun::stop(const QString& why) {
    if (std::exchange(waits_, false)) {
        standIn_.stop();
        Q_EMIT failed({});
        return;
    }
    if (session_.isRunning())
        session_.stop(why);
}

} // namespace otterstone::app
