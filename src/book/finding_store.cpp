#include "book/finding_store.h"

#include <QCryptographicHash>
#include <nlohmann/json.hpp>

#include "book/json_records.h"
#include "book/record_store.h"
#include "book/trace_store.h"
#include "core/findings/bank_findings.h"
#include "core/findings/json.h"
#include "core/json_text.h"
#include "core/label/usb_facts.h"
#include "core/path/cable.h"

namespace otterstone::book {

namespace {

const Gear* find(const std::vector<Gear>& gear, std::optional<Id> id) {
    for (const Gear& g : gear) {
        if (id && g.id == *id)
            return &g;
    }
    return nullptr;
}

} // namespace

namespace {

void takeMeter(const Gear& meter, path::Meter& accuracy, Measured& clock) {
    accuracy = meter.meter;
    clock = meter.clock.measured(ErrorSource::ofInstrument(meter.name, "clock comparison"));
}

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

} // namespace

Bench loadBench(Connection& c) { return {loadGear(c), loadSchools(c), loadBanks(c)}; }

findings::Setup setupOf(const Bank& bank, const Run& run, const Bench& bench) {
    const std::vector<Gear>& gear = bench.gear;
    findings::Setup s;
    s.schools = bench.schools;
    s.full = {bench.schools.fullShare, bench.schools.fullSeconds, {}};
    setRating(s, bank.label);
    s.cellVolts = bank.label.cellVolts;
    s.claimedRecharge = bank.label.rechargeTime;
    s.claimedInput = bank.label.inputWatts;
    s.point = run.point;
    s.byDisplay = run.byDisplay;
    s.ambient = run.ambient;
    if (run.hand)
        s.hand = run.hand->between;
    if (const Gear* meter = find(gear, run.meter)) {
        takeMeter(*meter, s.meter, s.clock);
        s.ownDraw = meter->ownDraw;
    } else if (const Gear* load = find(gear, run.load); load && run.point == path::Point::Load) {
        s.meter = load->meter;
    }
    const Gear* cable = find(gear, run.cable);
    if (cable) {
        s.cableName = cable->name;
        s.pathOhms = ohmsOf(*cable);
    }
    if (const Gear* far = find(gear, run.farCable)) {
        s.farCableName = far->name;
        s.farOhms = ohmsOf(*far);
    } else { // a path without one: the meter sits right at the charger or the load
        s.farCableName = "no further cable";
        s.farOhms = Measured(0.0);
    }
    if (const Gear* thermometer = find(gear, run.thermometer))
        s.thermometerKelvin = thermometer->kelvin;
    if (const Gear* charger = find(gear, run.charger)) {
        if (charger->watts)
            s.chargerWatts = Watts(*charger->watts);
        if (charger->efficiency)
            s.chargerEfficiency = charger->efficiency->measured(ErrorSource::ofBench(charger->name, "efficiency"));
        if (run.kind == findings::Kind::Recharge)
            s.predicted = predicted(bank, run, *charger, cable);
    }
    if (const Gear* device = find(gear, run.device))
        s.device = findings::Device{device->name, device->battery, device->efficiency, device->watts};
    if (run.target) {
        for (const Bank& b : bench.banks) {
            if (b.id != run.target->bank)
                continue;
            const auto rating = label::ratedEnergy(b.label);
            s.target = findings::TargetBank{b.name, rating ? std::optional(rating->energy.value) : std::nullopt,
                                            run.target->startPercent, run.target->endPercent, run.target->efficiency};
        }
    }
    s.from = run.from;
    s.to = run.to;
    s.marks = run.marks;
    s.run = std::to_string(run.id);
    s.logName = run.logName;
    s.skippedLines = run.skippedLines;
    s.counterWattHours = run.counterWattHours;
    s.counterAmpHours = run.counterAmpHours;
    return s;
}

namespace {

// A pair of a bank's own runs, as the pass-through sum needs it. Sheets of its own say nothing about it.
std::optional<Measured> roundTripOf(Connection& c, const Bank& bank, const Bench& bench) {
    std::vector<findings::RunEntry> entries;
    for (const Run& run : loadRuns(c, bank.id)) {
        if (run.sheet)
            continue;
        auto finding = cachedOrWorkedOut(c, bank, run, bench);
        if (!finding)
            continue;
        entries.push_back({run.id, run.title, run.startedAt, run.settling, "", "", run.device.has_value(),
                           run.target.has_value(), std::move(*finding)});
    }
    const auto together = findings::judgeTogether(std::move(entries), std::nullopt, bench.schools);
    return together.pairs.empty() ? std::nullopt : std::optional(together.pairs.front().roundTrip);
}

double capOf(const Gear& cable) {
    return label::usbFact(cable.marked ? label::Fact::CableMarked : label::Fact::CableUnmarked);
}

} // namespace

behaviour::Facts factsOf(Connection& c, const Bank& bank, const Run& run, const Bench& bench) {
    behaviour::Facts f;
    f.bank = bank.name;
    f.run = std::to_string(run.id);
    f.label = bank.label;
    if (const Gear* meter = find(bench.gear, run.meter))
        f.meter = meter->meter;
    if (const Gear* cable = find(bench.gear, run.cable); cable && run.point != path::Point::BankOut)
        f.pathOhms = ohmsOf(*cable);
    else if (run.byDisplay || run.point == path::Point::BankOut)
        f.pathOhms = Measured(0.0);
    if (const Gear* device = find(bench.gear, run.device)) {
        f.device = device->name;
        if (device->battery)
            f.deviceWattHours = device->battery->value;
    }
    for (const Gear& g : bench.gear) {
        if (g.kind == GearKind::Charger)
            f.chargers.push_back({g.name, offered(g), g.price});
        else if (g.kind == GearKind::Cable)
            f.cables.push_back(
                {g.name, Amps(capOf(g)), ohmsOf(g) ? std::optional(ohmsOf(g)->value()) : std::nullopt, g.price});
    }
    if (run.kind == findings::Kind::PassThrough)
        f.roundTrip = roundTripOf(c, bank, bench);
    return f;
}

std::string cacheKey(Connection& c, const Bank& bank, const Run& run, const Bench& bench) {
    nlohmann::json all{{"method", findings::kMethodVersion}, {"bank", toJson(bank)}, {"run", toJson(run)}};
    for (const Gear& g : bench.gear) {
        const bool offered =
            run.kind == findings::Kind::Matrix && (g.kind == GearKind::Charger || g.kind == GearKind::Cable);
        if (uses(run, g.id) || offered)
            all["gear"].push_back(toJson(g));
    }
    if (run.kind == findings::Kind::PassThrough) {
        for (const Run& other : loadRuns(c, bank.id)) {
            if (!other.sheet)
                all["others"].push_back(cacheKey(c, bank, other, bench));
        }
    }
    for (const Bank& b : bench.banks) {
        if (run.target && b.id == run.target->bank)
            all["target"] = toJson(b);
    }
    for (const findings::Question& q : findings::questions())
        all["schools"][q.key] = answerOf(bench.schools, q.key);
    all["schools"]["figures"] = {bench.schools.otherCellVolts, bench.schools.fullShare, bench.schools.fullSeconds};
    // Titles and notes are no part of any sum.
    for (const char* words : {"title", "notes"})
        all["run"].erase(words);
    all["bank"].erase("notes");
    const std::string text = jsonText(all);
    return QCryptographicHash::hash(QByteArray::fromStdString(text), QCryptographicHash::Sha256).toHex().toStdString();
}

std::optional<findings::Finding> cachedFinding(Connection& c, const Bank& bank, const Run& run, const Bench& bench) {
    QSqlQuery q = c.run("SELECT json FROM finding WHERE run_id = ? AND key = ?", run.id, cacheKey(c, bank, run, bench));
    if (!q.next())
        return std::nullopt;
    const auto json = parseJson(text(q.value(0)), "finding");
    return json ? findings::fromCache(*json) : std::nullopt;
}

Result<findings::Finding> workOut(Connection& c, const Bank& bank, const Run& run, const Bench& bench) {
    if (run.sheet) {
        auto said = behaviour::judge(*run.sheet, factsOf(c, bank, run, bench));
        if (!said)
            return tl::unexpected(said.error());
        findings::Finding f;
        f.kind = run.kind;
        f.sentence = std::move(said->sentence);
        f.figures = std::move(said->figures);
        f.warnings = std::move(said->warnings);
        return f;
    }
    findings::Setup setup = setupOf(bank, run, bench);
    if (run.countersOnly)
        return findings::analyseCounters(*run.countersOnly, run.kind, setup);
    std::vector<trace::Trace> also;
    also.reserve(run.also.size()); // the setup points at them
    for (const AlsoTrace& t : run.also) {
        findings::Reading reading;
        reading.point = t.point;
        reading.byDisplay = t.byDisplay;
        reading.trace = &also.emplace_back(loadTrace(c, run.id, t.key()));
        reading.meter.name = t.byDisplay ? "the bank's display" : "second meter";
        if (const Gear* meter = find(bench.gear, t.meter))
            takeMeter(*meter, reading.meter, reading.clock);
        setup.also.push_back(std::move(reading));
    }
    auto finding = findings::analyse(loadTrace(c, run.id), run.kind, setup);
    if (finding) {
        std::vector<Warning> fromLog;
        for (const auto& [code, words] : run.logWarnings)
            fromLog.push_back({code, words});
        finding->warnings.insert(finding->warnings.begin(), fromLog.begin(), fromLog.end());
    }
    return finding;
}

std::optional<findings::Finding> cachedOrWorkedOut(Connection& c, const Bank& bank, const Run& run,
                                                   const Bench& bench) {
    if (auto cached = cachedFinding(c, bank, run, bench))
        return cached;
    auto worked = workOut(c, bank, run, bench);
    return worked ? std::optional(std::move(*worked)) : std::nullopt;
}

void storeFinding(Connection& c, Id run, const std::string& key, const findings::Finding& finding) {
    c.run(
        "INSERT INTO finding VALUES (?,?,?) ON CONFLICT (run_id) DO UPDATE SET key = excluded.key, json = excluded.json",
        run, key, jsonText(findings::toCache(finding)));
}

} // namespace otterstone::book
