#include "bench/runner/loads.h"

#include <algorithm>

#include "bench/profiles/role.h"

#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

constexpr int kDrainMs = 200; // for the last "off" to leave this computer

} // namespace

void Loads::take(std::unique_ptr<ScpiDevice> first, std::unique_ptr<ScpiDevice> second) {
    at(0) = {std::move(first)};
    at(1) = {std::move(second)};
}

void Loads::switchOff() {
    for (int which = 0; which < kMost; ++which)
        switchOff(which);
}

void Loads::switchOff(int which) {
    if (at(which).device)
        at(which).device->switchOff();
    at(which).on = false;
}

void Loads::ensureOff(int which) {
    if (at(which).device && !at(which).device->isOff())
        at(which).device->switchOff();
    at(which).on = false;
}

void Loads::switchedOn(int which) { at(which).on = at(which).wasOn = true; }

bool Loads::areOff() const {
    return std::none_of(loads_.begin(), loads_.end(), [](const Load& l) {
        return l.device && !l.device->isOff() && (l.wasOn || l.device->link().isUp());
    });
}

bool Loads::canSay() const {
    return std::all_of(loads_.begin(), loads_.end(), [](const Load& l) { return !l.device || l.device->canSayOff(); });
}

std::string Loads::whyNotOff() const {
    std::string why;
    for (int which = 0; which < kMost; ++which) {
        const Load& l = at(which);
        if (l.device && !l.device->isOff() && (l.wasOn || l.device->saysOn()))
            why += (why.empty() ? "" : "; ") + (at(1).device ? say("the {}: ", role::loads[which]) : std::string()) +
                   l.device->whyNotOff().toStdString();
    }
    return why;
}

qint64 Loads::late() const {
    qint64 late = 0;
    for (const Load& l : loads_) {
        if (l.device && (l.wasOn || l.device->link().isUp()))
            late = std::max<qint64>(late, l.device->offOverdue());
    }
    return late;
}

bool Loads::reachable() const {
    return std::any_of(loads_.begin(), loads_.end(),
                       [](const Load& l) { return l.device && !l.device->isOff() && l.device->link().isUp(); });
}

void Loads::listenAnew() {
    for (const Load& l : loads_) {
        if (l.device)
            l.device->listenAnew();
    }
}

void Loads::close(bool keepThoseOn) {
    for (Load& l : loads_) {
        if (l.device && !l.device->isOff()) {
            if (keepThoseOn && !whyNotOff().empty())
                continue;
            l.device->switchOff();
            l.device->link().drain(kDrainMs);
        }
        l = {};
    }
}

} // namespace otterstone::bench
