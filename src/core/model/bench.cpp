#include "core/model/bench.h"

#include <algorithm>
#include <cmath>

namespace otterstone::model {

namespace {

constexpr double kSlowVolts = 5.0;
constexpr double kSlowAmps = 2.4;
constexpr int kRounds = 4; // current and cable drop settle each other

} // namespace

struct Bench::Socket {
    enum class Has { Nothing, Charger, Load, Device };
    Has has = Has::Nothing;
    bool inwards = false; ///< energy comes in here
    int turn = 0;         ///< when it was plugged in, counted
    model::Cable cable;
    model::Charger charger;
    double chargerLimit = 0.0;
    model::Load load;
    Ask ask;
    std::unique_ptr<RunningBank> device;
    Flow flow;
    Off off = Off::No;
    double trippedAt = 0.0;
    double overFor = 0.0, lightFor = 0.0;
    double blackUntil = 0.0;

    [[nodiscard]] bool gives() const { return has == Has::Load || (has == Has::Device && !inwards); }
    [[nodiscard]] bool inUse() const {
        return off == Off::No && ((has == Has::Load && load.on) || (has == Has::Device && !inwards));
    }
};

Bench::Bench(const Bank& bank, double stateOfCharge, double ambient)
    : bank_(bank, stateOfCharge, ambient), sockets_(std::max<std::size_t>(1, bank.ports.size())) {}
Bench::~Bench() = default;
Bench::Bench(Bench&&) noexcept = default;

const RunningBank* Bench::device(std::size_t port) const { return sockets_.at(port).device.get(); }
const Flow& Bench::flow(std::size_t port) const { return sockets_.at(port).flow; }
std::size_t Bench::ports() const { return sockets_.size(); }
const Load& Bench::load(std::size_t port) const { return sockets_.at(port).load; }

Off Bench::off(std::size_t port) const {
    const Socket& s = sockets_.at(port);
    if (s.off != Off::No || !s.gives())
        return s.off;
    if (bank_.empty())
        return Off::Empty;
    if (bank_.heat().tripped())
        return Off::TooHot;
    return charging() && bank_.bank().passThrough == PassThrough::Refuses ? Off::Refused : Off::No;
}

void Bench::wake(Socket& socket, bool replugged) {
    const Recovery& recovery = bank_.bank().recovery;
    if (socket.off == Off::Tripped) {
        const bool helps = recovery.how == Recovery::How::Replug ? replugged
                           : recovery.how == Recovery::How::WaitThenReplug
                               ? replugged && seconds_ - socket.trippedAt >= recovery.seconds
                               : recovery.how == Recovery::How::Button && !replugged;
        if (!helps)
            return;
    }
    socket.off = Off::No;
    socket.overFor = socket.lightFor = 0.0;
}

void Bench::somethingPlugged(std::size_t port) {
    const double until = seconds_ + bank_.bank().renegotiateSeconds;
    for (std::size_t k = 0; k < sockets_.size(); ++k) {
        if (k != port)
            sockets_[k].blackUntil = until;
    }
    wake(sockets_[port], true);
    bank_.heat().replug();
    sockets_[port].turn = ++plugged_;
}

void Bench::plugCharger(std::size_t port, const Charger& charger, Cable cable) {
    unplug(port);
    Socket& s = sockets_[port];
    s.has = Socket::Has::Charger;
    s.inwards = true;
    s.charger = charger;
    s.cable = cable;
    s.chargerLimit = 0.0;
    somethingPlugged(port);
}

void Bench::plugLoad(std::size_t port, Cable cable, Ask ask) {
    unplug(port);
    Socket& s = sockets_[port];
    s.has = Socket::Has::Load;
    s.cable = cable;
    s.ask = ask;
    somethingPlugged(port);
}

void Bench::plugDevice(std::size_t port, const Bank& device, double stateOfCharge, Cable cable, bool forceOut) {
    unplug(port);
    Socket& s = sockets_[port];
    s.has = Socket::Has::Device;
    s.device = std::make_unique<RunningBank>(device, stateOfCharge, bank_.heat().caseCelsius());
    s.cable = cable;
    const auto dual = [](const Bank& b, std::size_t k) {
        return k < b.ports.size() && b.ports[k].direction == label::Direction::Both;
    };
    s.inwards = !forceOut && dual(bank_.bank(), port) && dual(device, 0) &&
                bank_.bank().dualRole == DualRole::TakesFirst && device.dualRole == DualRole::GivesFirst;
    somethingPlugged(port);
}

void Bench::unplug(std::size_t port) {
    Socket& s = sockets_.at(port);
    if (s.has == Socket::Has::Nothing)
        return;
    s.has = Socket::Has::Nothing;
    s.inwards = false;
    s.device.reset();
    s.flow = {};
    for (std::size_t k = 0; k < sockets_.size(); ++k) {
        if (k != port)
            sockets_[k].blackUntil = seconds_ + bank_.bank().renegotiateSeconds;
    }
}

void Bench::pressButton() {
    for (Socket& s : sockets_)
        wake(s, false);
}

void Bench::setLowCurrentMode(bool on) { lowModeUntil_ = on ? seconds_ + bank_.bank().lightLoad.lowModeSeconds : -1.0; }
void Bench::limitCharger(std::size_t port, double watts) { sockets_.at(port).chargerLimit = watts; }
void Bench::ask(std::size_t port, Ask ask) { sockets_.at(port).ask = ask; }
void Bench::setLoad(std::size_t port, const Load& load) { sockets_.at(port).load = load; }

bool Bench::charging() const {
    return std::any_of(sockets_.begin(), sockets_.end(), [](const Socket& s) { return s.inwards; });
}

std::size_t Bench::outputsInUse() const {
    return static_cast<std::size_t>(
        std::count_if(sockets_.begin(), sockets_.end(), [](const Socket& s) { return s.inUse(); }));
}

// What a socket offers in this step, its firmware's rules applied. Amps 0: it is off.
Ask Bench::offered(std::size_t port) const {
    const Socket& s = sockets_[port];
    const Bank& b = bank_.bank();
    if (off(port) != Off::No || seconds_ < s.blackUntil)
        return {kSlowVolts, 0.0};
    const Port& p = b.ports[port];
    // A device asks for the best both know; who hangs a trigger on it, for what the trigger is set to.
    const Ask asked = s.has == Socket::Has::Device && !s.device->bank().ports.empty()
                          ? bestAgreed(p.gives, s.device->bank().ports.front().takes, s.cable.amps, s.ask)
                          : s.ask;
    const Ask slow = agreed(p.gives, {kSlowVolts, asked.amps}, p.watts);
    const bool slowed =
        charging() && (b.passThrough == PassThrough::SourceFirst || b.passThrough == PassThrough::SlowsBoth);
    const std::size_t inUse = outputsInUse() + (s.inUse() ? 0 : 1);
    Ask offer = slowed ? slow : agreed(p.gives, asked, p.watts);
    if (inUse >= 2) {
        switch (b.sharing.policy) {
        case Sharing::Policy::Independent: break;
        case Sharing::Policy::FallBackToFive: offer = slow; break;
        case Sharing::Policy::FirstKeeps: {
            const auto first = std::min_element(sockets_.begin(), sockets_.end(), [](const Socket& a, const Socket& c) {
                return (a.inUse() ? a.turn : 1 << 30) < (c.inUse() ? c.turn : 1 << 30);
            });
            if (&*first != &s) {
                const double left = std::max(0.0, b.sharing.totalWatts - first->flow.portVolts * first->flow.amps);
                offer = {kSlowVolts, std::min(slow.amps, left / kSlowVolts)};
            }
            break;
        }
        case Sharing::Policy::SplitAmps: offer = {kSlowVolts, b.sharing.totalAmps / static_cast<double>(inUse)}; break;
        }
    }
    offer.amps = std::min(offer.amps, s.cable.amps);
    return offer;
}

void Bench::trip(Socket& s) {
    s.off = Off::Tripped;
    s.trippedAt = seconds_;
    s.overFor = 0.0;
    s.flow = {};
}

// Over-current and next to no current, watched over time.
void Bench::mind(Socket& s, double amps, Ask offer, double seconds) {
    const Bank& b = bank_.bank();
    const auto port = static_cast<std::size_t>(&s - sockets_.data());
    double limit = b.ports[port].tripAmps > 0.0 ? b.ports[port].tripAmps : b.overCurrentAmps;
    if (b.sharing.policy == Sharing::Policy::SplitAmps && outputsInUse() >= 2)
        limit = std::min(limit, offer.amps * 1.05);
    s.overFor = amps > limit ? s.overFor + seconds : 0.0;
    if (amps > limit && s.overFor >= b.overCurrentSeconds) {
        trip(s);
        return;
    }
    const bool light = b.lightLoad.belowAmps > 0.0 && amps < b.lightLoad.belowAmps && seconds_ >= lowModeUntil_;
    s.lightFor = light ? s.lightFor + seconds : 0.0;
    if (light && s.lightFor >= b.lightLoad.afterSeconds) {
        s.off = Off::Asleep;
        s.flow = {};
    }
}

void Bench::flowOut(double seconds) {
    portWatts_ = outputLoss_ = 0.0;
    const Bank& b = bank_.bank();
    for (std::size_t k = 0; k < sockets_.size(); ++k) {
        Socket& s = sockets_[k];
        if (!s.gives())
            continue;
        if (s.off == Off::Tripped && b.recovery.how == Recovery::How::ByItself &&
            seconds_ - s.trippedAt >= b.recovery.seconds)
            s.off = Off::No;
        const Ask offer = offered(k);
        s.flow = {};
        if (offer.amps <= 0.0)
            continue;
        const double sag = b.output.outputOhms;
        double amps = 0.0;
        if (s.device) {
            for (int round = 0; round < kRounds; ++round) {
                const double far = std::max(0.1, offer.volts - amps * (sag + s.cable.ohms));
                amps = s.device->takes(far, far * offer.amps, 0.0, seconds) / far;
            }
        } else {
            amps = s.load.amps(offer.volts, sag + s.cable.ohms);
        }
        mind(s, amps, offer, seconds);
        if (s.off != Off::No)
            continue;
        const double portVolts = offer.volts - sag * amps;
        s.flow = {portVolts, portVolts - s.cable.ohms * amps, amps, false, offer.volts};
        portWatts_ += portVolts * amps;
        outputLoss_ += b.output.loss(amps);
    }
    if (b.sharing.policy == Sharing::Policy::Independent && b.sharing.totalWatts > 0.0 &&
        portWatts_ > b.sharing.totalWatts) {
        for (Socket& s : sockets_) {
            if (s.gives() && s.off == Off::No)
                trip(s);
        }
        portWatts_ = outputLoss_ = 0.0;
    }
}

void Bench::flowIn(double outputWatts, double seconds) {
    const Bank& b = bank_.bank();
    inputWatts_ = 0.0;
    double inputAmps = 0.0;
    sourceLimits_ = false;
    const bool slowed =
        outputsInUse() > 0 && (b.passThrough == PassThrough::LoadFirst || b.passThrough == PassThrough::SlowsBoth);
    for (std::size_t k = 0; k < sockets_.size(); ++k) {
        Socket& s = sockets_[k];
        if (!s.inwards)
            continue;
        s.flow = {};
        const auto& gives = s.device ? s.device->bank().ports.front().gives : s.charger.tiers;
        const double most = s.device               ? 1e9
                            : s.chargerLimit > 0.0 ? std::min(s.chargerLimit, s.charger.watts)
                                                   : s.charger.watts;
        Ask tier = bestAgreed(gives, b.ports[k].takes, s.cable.amps, {s.charger.volts, most / s.charger.volts});
        if (slowed)
            tier = {kSlowVolts, std::min(kSlowAmps, s.cable.amps)};
        if (tier.amps <= 0.0 || seconds_ < s.blackUntil || (s.device && s.device->empty()))
            continue;
        double amps = 0.0;
        double volts = tier.volts;
        for (int round = 0; round < kRounds; ++round) {
            volts = tier.volts - amps * s.cable.ohms;
            const double available =
                std::min({most - amps * amps * s.cable.ohms, tier.amps * volts, b.inputWatts - inputWatts_});
            const double wanted = bank_.takes(volts, 1e9, outputWatts, seconds) - inputWatts_;
            sourceLimits_ = available < wanted;
            amps = std::max(0.0, std::min(available, wanted)) / volts;
        }
        volts = tier.volts - amps * s.cable.ohms;
        s.flow = {volts, tier.volts, amps, true, tier.volts};
        inputWatts_ += volts * amps;
        inputAmps += amps;
    }
    inputVolts_ = inputAmps > 0.0 ? inputWatts_ / inputAmps : kSlowVolts;
}

void Bench::step(double seconds) {
    flowOut(seconds);
    flowIn(portWatts_ + outputLoss_, seconds);
    const double carried = inputWatts_ - (inputWatts_ > 0.0 ? bank_.bank().input.loss(inputWatts_ / inputVolts_) : 0.0);
    const double net = portWatts_ + outputLoss_ - carried;
    if (portWatts_ + outputLoss_ > 0.0 && net > 0.0 && !bank_.canGive(net, seconds)) {
        for (Socket& s : sockets_) {
            if (s.gives())
                s.flow = {};
        }
        portWatts_ = outputLoss_ = 0.0;
        flowIn(0.0, seconds);
    }
    bank_.advance(inputWatts_, inputVolts_, portWatts_, outputLoss_, sourceLimits_, seconds);
    const double hours = seconds / 3600.0;
    for (Socket& s : sockets_) {
        const Flow& f = s.flow;
        const double far = f.farVolts * f.amps;
        const double near = f.portVolts * f.amps;
        ledger_.inCables += std::fabs(far - near) * hours;
        if (s.inwards) {
            ledger_.intoPorts += near * hours;
            if (s.device) {
                if (f.amps > 0.0)
                    (void)s.device->canGive(far + s.device->bank().output.loss(f.amps), seconds);
                s.device->advance(0.0, kSlowVolts, far, f.amps > 0.0 ? s.device->bank().output.loss(f.amps) : 0.0,
                                  false, seconds);
            } else {
                ledger_.fromChargers += far * hours;
                ledger_.fromWall += (far / s.charger.efficiency + s.charger.idleWatts) * hours;
            }
        } else {
            ledger_.outOfPorts += near * hours;
            if (s.device) {
                const bool limited =
                    f.amps > 0.0 && f.amps >= offered(static_cast<std::size_t>(&s - sockets_.data())).amps - 1e-9;
                s.device->advance(far, std::max(0.1, f.farVolts), 0.0, 0.0, limited, seconds);
            } else {
                ledger_.toLoads += far * hours;
            }
        }
    }
    seconds_ += seconds;
}

} // namespace otterstone::model
