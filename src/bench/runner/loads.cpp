#include "bench/runner/loads.h"

#include <algorithm>

#include "bench/profiles/role.h"

#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

constexpr int kDrainMs = 200; // for the last "off" to leave this computer
// A meter shows within this what a switched load draws; what it read longer ago says nothing of now.
constexpr double kShows = 1.5, kStale = 5.0, kInsistEvery = 0.5; // s
constexpr qint64 kStaleMs = 5000;                                // where the bench's time stands still
constexpr double kStillFlows = 0.25, kLeastTelling = 0.1;        // of what was drawn before; A
constexpr int kTwice = 2;

} // namespace

void Loads::take(std::unique_ptr<ScpiDevice> first, std::unique_ptr<ScpiDevice> second) {
    loads_ = {};
    at(0).device = std::move(first);
    at(1).device = std::move(second);
    drawn_ = belied_ = std::nullopt;
}

void Loads::switchOff(double now) {
    for (int which = 0; which < kMost; ++which)
        switchOff(which, now);
}

void Loads::switchOff(int which, double now) {
    Load& l = at(which);
    if (l.device)
        l.device->switchOff();
    if (l.on || !l.off.isValid()) {
        l.offAt = now;
        l.off.start();
    }
    l.on = false;
}

void Loads::ensureOff(int which, double now) {
    if (at(which).device && !at(which).device->isOff())
        switchOff(which, now);
    at(which).on = false;
}

void Loads::switchedOn(int which) {
    at(which).on = at(which).wasOn = true;
    if (which == 0) {
        drawn_ = belied_ = std::nullopt;
        agreed_ = false;
    }
}

void Loads::confirmAnew() {
    for (Load& l : loads_) {
        if (l.device && l.device->link().isUp())
            l.device->switchOff();
    }
}

void Loads::meterReads(double amps, double now) {
    const Load& first = at(0);
    if (first.on) {
        drawn_ = amps;
        return;
    }
    const bool tells = first.wasOn && drawn_ && now - first.offAt >= kShows;
    const bool flows = tells && amps > std::max(kLeastTelling, kStillFlows * *drawn_);
    reads_ = flows ? reads_ + 1 : 0;
    belied_ = reads_ >= kTwice ? std::optional(amps) : std::nullopt;
    agreed_ = tells ? !flows : agreed_;
    readAt_ = now;
}

void Loads::insist(double now) {
    if (belied_ && now - readAt_ > kStale)
        belied_.reset();
    if (!belied_ || now - insistedAt_ < kInsistEvery)
        return;
    insistedAt_ = now;
    at(0).device->switchOff();
}

bool Loads::areProvenOff(double now) const {
    const Load& first = at(0);
    const bool told = first.wasOn && drawn_.value_or(0.0) > kLeastTelling;
    return areOff() && (!told || agreed_ || now - first.offAt > kStale || first.off.elapsed() > kStaleMs);
}

bool Loads::foundOn() const {
    return std::any_of(loads_.begin(), loads_.end(), [](const Load& l) { return l.device && l.device->foundOn(); });
}

bool Loads::areOff() const {
    return !belied_ && std::none_of(loads_.begin(), loads_.end(), [](const Load& l) {
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
    if (why.empty() && belied_)
        why = say("it says that it is off, and the meter on its path still reads {} A", showNumber(*belied_, 3));
    return why;
}

qint64 Loads::late() const {
    qint64 late = belied_ ? at(0).off.elapsed() : 0;
    for (const Load& l : loads_) {
        if (l.device && (l.wasOn || l.device->link().isUp()))
            late = std::max<qint64>(late, l.device->offOverdue());
    }
    return late;
}

bool Loads::reachable() const {
    return belied_ || std::any_of(loads_.begin(), loads_.end(), [](const Load& l) {
               return l.device && !l.device->isOff() && l.device->link().isUp();
           });
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
