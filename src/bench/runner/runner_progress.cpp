// What the runner tells whoever watches: the state of things, what is done, and what comes next.
#include <algorithm>
#include <cmath>

#include "bench/runner/runner.h"
#include "bench/runner/runner_source.h"

#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

constexpr int kTellMs = 100;
constexpr double kFirstDisplay = 60.0;

std::string stillOnWords(const std::string& why) {
    return say("THE LOAD IS STILL ON ({}). Pull the plug out of the bank. It is told to switch off again and again.",
               why);
}

} // namespace

void Runner::tell(bool always) {
    if (!always && real_.elapsed() - toldAt_ < kTellMs)
        return;
    toldAt_ = real_.elapsed();
    fillProgress();
    Q_EMIT progressed(state_.progress);
    state_.progress.fresh.clear();
    state_.progress.freshMarks.clear();
}

void Runner::fillProgress() {
    const double now = clock_.now();
    Progress& p = state_.progress;
    p.phase = phase_;
    p.run = state_.run;
    p.step = state_.step;
    p.loadOn = loads_.on(0);
    if (!sources_.empty()) {
        p.elapsed = sources_.front()->keeper.at(now);
        p.health.clear();
        for (const auto& s : sources_)
            p.health.push_back({s->role, s->meter ? s->meter->profile().name : say("the load's own reading"), "",
                                !s->meter || s->meter->isUp(), s->readings, s->spoiled,
                                s->meter ? s->meter->trouble().toStdString() : ""});
        for (const auto& [device, role] :
             {std::pair(loads_[0], role::load), std::pair(loads_[1], role::secondLoad),
              std::pair(triggers_[0].get(), role::trigger), std::pair(triggers_[1].get(), role::secondTrigger),
              std::pair(thermometer_.get(), role::thermometer)}) {
            if (device)
                p.health.push_back(
                    {role, device->identity().isEmpty() ? device->profile().name : device->identity().toStdString(),
                     device->link().address().text.toStdString(), device->link().isUp(), 0, 0,
                     device->link().trouble().toStdString()});
        }
    }
    p.wattHours = state_.forecast ? state_.forecast->wattHours() : 0.0;
    p.ampHours = state_.forecast ? state_.forecast->ampHours() : 0.0;
    p.toDo.clear();
    p.next.clear();
    p.nextAt.reset();
    p.ownEnd = state_.forecast ? state_.forecast->ownEnd() : std::nullopt;
    p.displayEnd = state_.forecast ? state_.forecast->displayEnd() : std::nullopt;
    p.ownFrom = plan_.expectedFrom.toStdString();
    if (records::hasSheet(plan_.recipe.kind)) // what a behaviour takes is in its steps, not in the bank's energy
        p.ownEnd = p.displayEnd = std::nullopt;
    p.claimEnd.reset();
    if (plan_.recipe.kind == records::Kind::Recharge && plan_.label.rechargeTime && state_.forecast &&
        state_.forecast->onset())
        p.claimEnd = *state_.forecast->onset() + plan_.label.rechargeTime->value * 3600.0;
    const auto& steps = plan_.recipe.steps;
    switch (phase_) {
    case Phase::Idle: p.doing = ""; return;
    case Phase::Connecting: p.doing = say("Connecting the instruments."); return;
    case Phase::Finished: p.doing = state_.stop ? say("Ended: {}.", state_.stop->why) : "Ended."; return;
    case Phase::StillOn:
        p.doing = p.stillOn.empty() ? say("Making sure that the load is off.") : stillOnWords(p.stillOn);
        return;
    case Phase::Closing:
        p.doing = !loads_.canSay()
                      ? say("The load was told to switch off, and cannot say whether it did: {}.", state_.stop->why)
                  : loads_.areProvenOff(now) ? say("Load off: {}.", state_.stop->why)
                  : p.stillOn.empty()        ? say("Switching the load off: {}.", state_.stop->why)
                                             : stillOnWords(p.stillOn);
        p.next = say("the run is closed");
        p.nextAt = p.elapsed + std::max(0.0, plan_.recipe.closingSeconds - (now - state_.closingSince));
        return;
    case Phase::Running:
    case Phase::Waiting: break;
    }
    if (state_.step >= steps.size())
        return;
    Recipe one = plan_.recipe;
    one.steps = {steps[state_.step]};
    one.closingSeconds = 0.0;
    if (one.steps.front().ofTier) {
        one.steps.front().level = levelAt(one.steps.front(), tierOf(one.steps.front()));
        one.steps.front().ofTier = false;
    }
    one.steps.front().ifGone = false; // it is being done
    if (const auto words = describe(one, plan_.label); !words.empty())
        p.doing = words.front();
    if (phase_ == Phase::Waiting)
        p.toDo = state_.asks.empty() ? steps[state_.step].text : state_.asks;
    // Whatever comes first: the next step, or the next look at the display.
    const Step& s = steps[state_.step];
    if (s.what != Step::Do::Tell && s.seconds > 0.0) {
        p.next = state_.step + 1 < steps.size() ? say("the next step") : say("the load goes off");
        p.nextAt = p.elapsed + std::max(0.0, s.seconds - (now - state_.stepSince));
    } else if (p.ownEnd) {
        p.next = plan_.recipe.kind == records::Kind::Drain ? say("cut-off, as predicted") : say("full, as predicted");
        p.nextAt = *p.ownEnd;
    }
    if (plan_.recipe.askDisplayEvery > 0.0 && (loads_.on(0) || state_.forecast->onset())) {
        const double due = state_.askedDisplayAt > 0.0 ? state_.askedDisplayAt + plan_.recipe.askDisplayEvery
                                                       : state_.forecast->onset().value_or(p.elapsed) + kFirstDisplay;
        if (!p.nextAt || due < *p.nextAt) {
            p.next = say("read the bank's display and stamp it (P)");
            p.nextAt = due;
        }
    }
}

} // namespace otterstone::bench
