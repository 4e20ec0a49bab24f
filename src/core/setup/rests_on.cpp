#include "core/setup/rests_on.h"

#include "core/label/port_rules.h"
#include "core/label/rating.h"
#include "core/label/usb_facts.h"
#include "core/path/cable.h"

namespace otterstone::setup {

using namespace records;

namespace {

// What a charger offers: its stated tiers, else what the power rules make of its watts.
path::Side offered(const Gear& charger) {
    path::Side side{charger.tiers, charger.watts ? std::optional(Watts(*charger.watts)) : std::nullopt};
    if (side.tiers.empty() && charger.watts)
        side.tiers = path::powerRuleTiers(Watts(*charger.watts));
    return side;
}

std::optional<path::Prediction> predicted(const Bank& bank, const Run& run, const Gear& charger, const Gear* cable) {
    // The named port, else the one that takes the most.
    std::optional<path::Prediction> best;
    for (const label::Port& p : bank.label.ports) {
        path::Side side{p.tiersFor(label::Way::In),
                        bank.label.inputWatts ? bank.label.inputWatts : p.wattsFor(label::Way::In)};
        if (side.tiers.empty() || (!run.port.empty() && p.name != run.port))
            continue;
        const auto tier = predictTier(
            offered(charger),
            {Amps(label::usbFact(cable && cable->marked ? label::Fact::CableMarked : label::Fact::CableUnmarked))},
            side);
        if (tier && (!best || tier->best.watts() > best->best.watts()))
            best = tier;
    }
    return best;
}

std::optional<Measured> ohmsOf(const Gear& cable) {
    if (cable.ohms)
        return cable.ohms->measured(ErrorSource::ofBench(cable.name, "resistance"));
    if (cable.awg && cable.metres)
        return path::estimatedLoop(*cable.awg, *cable.metres, 20.0, cable.name).value;
    return std::nullopt;
}

double capOf(const Gear& cable) {
    return label::usbFact(cable.marked ? label::Fact::CableMarked : label::Fact::CableUnmarked);
}

} // namespace

const Gear* Bench::find(std::optional<Id> id) const {
    for (const Gear& g : gear) {
        if (id && g.id == *id)
            return &g;
    }
    return nullptr;
}

void takeMeter(const Gear& meter, path::Meter& accuracy, Measured& clock) {
    accuracy = meter.meter;
    clock = meter.clock.measured(ErrorSource::ofInstrument(meter.name, "clock comparison"));
}

Setup setupOf(const Bank& bank, const Run& run, const Bench& bench) {
    Setup s;
    s.schools = bench.schools;
    s.full = {bench.schools.fullShare, bench.schools.fullSeconds, {}};
    setRating(s, bank.label);
    s.cellVolts = bank.label.cellVolts;
    s.claimedRecharge = bank.label.rechargeTime;
    s.claimedInput = label::inputNeeded(bank.label);
    s.point = run.point;
    s.byDisplay = run.byDisplay;
    s.ambient = run.ambient;
    if (const Gear* meter = bench.find(run.meter)) {
        takeMeter(*meter, s.meter, s.clock);
        s.ownDraw = meter->ownDraw;
    } else if (const Gear* load = bench.find(run.load); load && run.point == path::Point::Load) {
        takeMeter(*load, s.meter, s.clock);
    }
    const Gear* cable = bench.find(run.cable);
    if (cable) {
        s.cableName = cable->name;
        s.pathOhms = ohmsOf(*cable);
    }
    if (const Gear* far = bench.find(run.farCable)) {
        s.farCableName = far->name;
        s.farOhms = ohmsOf(*far);
    } else { // a path without one: the meter sits right at the charger or the load
        s.farCableName = say("no further cable");
        s.farOhms = Measured(0.0);
    }
    if (const Gear* thermometer = bench.find(run.thermometer))
        s.thermometerKelvin = thermometer->kelvin;
    if (const Gear* charger = bench.find(run.charger)) {
        if (charger->watts)
            s.chargerWatts = Watts(*charger->watts);
        if (charger->efficiency)
            s.chargerEfficiency = charger->efficiency->measured(ErrorSource::ofBench(charger->name, "efficiency"));
        if (run.kind != Kind::Drain)
            s.predicted = predicted(bank, run, *charger, cable);
    }
    if (const Gear* device = bench.find(run.device))
        s.device = Device{device->name, device->battery, device->efficiency, device->watts};
    if (run.target) {
        for (const Bank& b : bench.banks) {
            if (b.id != run.target->bank)
                continue;
            const auto rating = label::ratedEnergy(b.label);
            s.target = TargetBank{b.name, rating ? std::optional(rating->energy.value) : std::nullopt,
                                  run.target->startPercent, run.target->endPercent, run.target->efficiency};
        }
    }
    s.from = run.from;
    s.to = run.to;
    s.marks = run.marks;
    s.ends = run.ends;
    s.run = std::to_string(run.id);
    s.logName = run.logName;
    s.skippedLines = run.skippedLines;
    s.counterWattHours = run.counterWattHours;
    s.counterAmpHours = run.counterAmpHours;
    return s;
}

Facts factsOf(const Bank& bank, const Run& run, const Bench& bench, std::optional<Measured> roundTrip) {
    Facts f;
    f.bank = bank.name;
    f.run = std::to_string(run.id);
    f.label = bank.label;
    if (const Gear* meter = bench.find(run.meter))
        f.meter = meter->meter;
    if (const Gear* cable = bench.find(run.cable); cable && run.point != path::Point::BankOut)
        f.pathOhms = ohmsOf(*cable);
    else if (run.byDisplay || run.point == path::Point::BankOut)
        f.pathOhms = Measured(0.0);
    if (const Gear* charger = bench.find(run.charger)) {
        f.charger = charger->name;
        f.chargerWatts = charger->watts;
    }
    if (const Gear* device = bench.find(run.device)) {
        f.device = device->name;
        if (device->battery)
            f.deviceWattHours = device->battery->value;
    }
    const auto priceOf = [&bench](const Gear& g) {
        return g.price ? std::optional(bench.prices.asFarAsKnown(*g.price, g.currency)) : std::nullopt;
    };
    for (const Gear& g : bench.gear) {
        if (g.kind == GearKind::Charger)
            f.chargers.push_back({g.name, offered(g), priceOf(g)});
        else if (g.kind == GearKind::Device && g.battery)
            f.devices.push_back({g.name, g.battery->value});
        else if (g.kind == GearKind::Cable)
            f.cables.push_back(
                {g.name, Amps(capOf(g)), ohmsOf(g) ? std::optional(ohmsOf(g)->value()) : std::nullopt, priceOf(g)});
    }
    f.roundTrip = std::move(roundTrip);
    return f;
}

} // namespace otterstone::setup
