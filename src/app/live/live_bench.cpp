#include "app/live/live_bench.h"

#include <QDateTime>
#include <QSettings>
#include <nlohmann/json.hpp>

#include "app/gear/lay_out.h"
#include "app/theme.h"
#include "bench/instruments/scpi_device.h"
#include "book/demo/demo.h"
#include "core/label/port_rules.h"
#include "core/label/rating.h"
#include "core/label/usb_facts.h"
#include "core/model/bank_json.h"
#include "core/path/bottleneck.h"
#include "core/path/cable.h"

namespace otterstone::app {

namespace {

constexpr double kSheetSamples = 10.0; // a second: the moment a source goes is short
constexpr double kMiddle = 0.7;        // state of charge
// What an ordinary bank hands out of what is printed on it, and takes in to be full. Common practice, no published
// source.
constexpr double kUsualShare = 0.85;
constexpr double kUsualIntake = 1.2;
constexpr double kSamplesAtLeast = 0.2; // per second, in the fastest rehearsal
constexpr double kLinesPerRealSecond = 2000.0;
constexpr int kTryOffMs = 10'000;

} // namespace

LiveBench::LiveBench(BookSession& session, QObject* parent)
    : QObject(parent), session_(session), standIn_(this), runner_(this) {
    connect(&runner_, &bench::Session::finished, this, &LiveBench::sessionEnded);
    connect(&standIn_, &bench::StandIn::ready, this, &LiveBench::startOnStandIn);
    connect(&standIn_, &bench::StandIn::failed, this, [this](const QString& sentence) {
        starting_ = false;
        Q_EMIT problem(sentence);
        Q_EMIT changed();
    });
}

Result<void> LiveBench::saveRecipe(const std::string& json) {
    auto saved = writeRecipe(json);
    if (saved)
        Q_EMIT changed();
    return saved;
}

Result<void> LiveBench::saveProfile(const bench::Profile& profile) {
    auto saved = writeProfile(profile);
    if (saved)
        Q_EMIT changed();
    return saved;
}

std::optional<bench::Instrument> LiveBench::instrument(const bench::Role& role) const {
    QSettings settings;
    const QString key = QStringLiteral("live/") + qs(role);
    const QString profile = settings.value(key + QStringLiteral("/profile")).toString();
    const QString address = settings.value(key + QStringLiteral("/address")).toString();
    if (address.isEmpty())
        return std::nullopt;
    const auto all = readProfiles().all;
    const auto named =
        std::find_if(all.begin(), all.end(), [&](const bench::Profile& p) { return qs(p.key) == profile; });
    return named == all.end() ? std::nullopt : std::optional(bench::Instrument{*named, {address}});
}

void LiveBench::setInstrument(const bench::Role& role, const QString& profile, const QString& address) {
    QSettings settings;
    const QString key = QStringLiteral("live/") + qs(role);
    settings.setValue(key + QStringLiteral("/profile"), profile);
    settings.setValue(key + QStringLiteral("/address"), address.trimmed());
    Q_EMIT changed();
}

LiveBench::Expectation LiveBench::expect(const records::Bank& bank, const bench::Recipe& recipe) const {
    Expectation e;
    const bool drain = recipe.kind != records::Kind::Recharge;
    if (records::hasSheet(recipe.kind)) { // its steps alone take time
        e.seconds = bench::estimateSeconds(
            bench::expand(recipe, bank.label, session_.isOpen() ? sourcesFor(bank) : std::vector<bench::Source>{}),
            bank.label, std::nullopt, std::nullopt);
        return e;
    }
    std::vector<double> earlier;
    if (session_.isOpen() && bank.id != records::kNew) {
        for (const auto& [run, f] : session_.book().cachedFindings(bank.id)) {
            if (f.kind == recipe.kind && kinds::answers(f, drain ? "usable_wh" : "put_in_wh"))
                earlier.push_back(f.portWattHours.value());
        }
    }
    if (!earlier.empty()) {
        double sum = 0.0;
        for (const double wh : earlier)
            sum += wh;
        e.wattHours = sum / static_cast<double>(earlier.size());
        e.from = earlier.size() == 1 ? tr("its earlier run") : tr("its %1 earlier runs").arg(earlier.size());
    } else if (const auto rating = label::ratedEnergy(bank.label)) {
        e.wattHours = rating->energy.value * (drain ? kUsualShare : kUsualIntake);
        e.from = drain ? tr("85 % of what is printed on it") : tr("1.2 times what is printed on it");
    }
    const std::optional<double> input =
        bank.label.inputWatts ? std::optional(bank.label.inputWatts->value) : std::nullopt;
    e.seconds = bench::estimateSeconds(recipe, bank.label, e.wattHours, input);
    return e;
}

bench::Plan LiveBench::planFor(const Choice& choice) const {
    bench::Plan plan;
    plan.sources = sourcesFor(choice.bank);
    plan.recipe = bench::expand(choice.recipe.recipe, choice.bank.label, plan.sources);
    plan.recipeText = choice.recipe.json;
    plan.label = choice.bank.label;
    plan.book = session_.book().path();
    plan.run.bank = choice.bank.id;
    plan.run.title = choice.recipe.recipe.name;
    plan.run.ambient = std::nullopt;
    plan.run.ends = choice.ends;
    plan.limits.celsius = choice.celsius;
    if (plan.recipe.hours)
        plan.limits.seconds = *plan.recipe.hours * 3600.0;
    const setup::Schools schools = session_.book().schools();
    plan.limits.fullShare = schools.fullShare;
    plan.limits.fullSeconds = schools.fullSeconds;
    const Expectation e = expect(choice.bank, plan.recipe);
    plan.expectedWattHours = e.wattHours;
    plan.expectedFrom = e.from;
    plan.rescueFolder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation);
    // The gear of the bank's last run of this kind: as a rule the same lies on the bench.
    const auto runs = session_.book().runs(choice.bank.id);
    for (const records::Run& run : runs) {
        if (run.kind != plan.recipe.kind || run.device || run.target)
            continue;
        for (const records::Stretch& s : records::kStretches)
            plan.run.*(s.piece) = run.*(s.piece);
        plan.run.ambient = run.ambient;
    }
    if (!choice.gear.empty()) {
        for (const records::Stretch& s : records::kStretches)
            (plan.run.*(s.piece)).reset();
        layOut(plan.run, session_.book().gear(), choice.gear);
    }
    for (const records::Gear& g : session_.book().gear()) {
        if (plan.run.cable == g.id)
            plan.cableAmps = label::usbFact(g.marked ? label::Fact::CableMarked : label::Fact::CableUnmarked);
    }
    if (plan.recipe.kind == records::Kind::PassThrough && !plan.run.charger) { // a source that is strong enough to tell
        double most = 0.0;
        for (const records::Gear& g : session_.book().gear()) {
            if (g.kind == records::GearKind::Charger && !g.tiers.empty() && g.watts.value_or(0.0) > most) {
                most = *g.watts;
                plan.run.charger = g.id;
            }
        }
    }
    return plan;
}

std::vector<bench::Source> LiveBench::sourcesFor(const records::Bank& bank) const {
    const label::Port* into = nullptr;
    for (const label::Port& p : bank.label.ports) {
        const auto most = [](const label::Port& port) {
            return label::mostWatts(port, label::Way::In).value_or(Watts(0.0));
        };
        const auto better = [&] { return most(p) > most(*into); };
        if (p.takes() && (!into || better()))
            into = &p;
    }
    std::vector<bench::Source> all;
    const std::vector<records::Gear> gear = session_.book().gear();
    for (const records::Gear& charger : gear) {
        if (charger.kind != records::GearKind::Charger)
            continue;
        for (const records::Gear& cable : gear) {
            if (cable.kind != records::GearKind::Cable)
                continue;
            const double watts = charger.watts.value_or(18.0);
            const auto tiers = charger.tiers.empty() ? path::powerRuleTiers(Watts(watts)) : charger.tiers;
            const double ohms = cable.ohms ? cable.ohms->value
                                : cable.awg && cable.metres
                                    ? path::estimatedLoop(*cable.awg, *cable.metres).value.value()
                                    : 0.1;
            const nlohmann::json details{
                {"tiers", label::showTiers(tiers)},
                {"watts", watts},
                {"ohms", ohms},
                {"amps", label::usbFact(cable.marked ? label::Fact::CableMarked : label::Fact::CableUnmarked)},
                {"port", into ? into->name : ""}};
            all.push_back({charger.name, cable.name, into ? into->name : "", details.dump()});
        }
    }
    return all;
}

void LiveBench::begin(const Choice& choice) {
    if (isRunning() || !session_.isOpen())
        return;
    if (session_.book().readOnly()) {
        Q_EMIT problem(tr("This book is open for reading only; a run cannot be written into it. Open another book."));
        return;
    }
    if (choice.rehearse) {
        bench::StandIn::Scene scene;
        scene.bank = book::demoTruth(choice.bank.name).value_or(model::bankFromLabel(choice.bank.label));
        scene.empty = choice.recipe.recipe.kind == records::Kind::Recharge;
        scene.speed = choice.speed;
        const bool sheet = records::hasSheet(choice.recipe.recipe.kind);
        scene.samplesPerSecond = choice.samplesPerSecond ? *choice.samplesPerSecond
                                 : sheet                 ? kSheetSamples
                                         : std::clamp(kLinesPerRealSecond / choice.speed, kSamplesAtLeast, 1.0);
        if (sheet) // neither full nor empty: it must both take and give
            scene.charge = kMiddle;
        // The errors of its instruments are others each time, unless one is to be repeated.
        scene.seed = qEnvironmentVariableIsSet("OTTERSTONE_SEED")
                         ? qEnvironmentVariable("OTTERSTONE_SEED").toUInt()
                         : static_cast<unsigned>(QDateTime::currentSecsSinceEpoch() % 100000);
        // The rehearsal's meter and cable are those of the gear the run will name, so that its finding can be held
        // against the truth.
        const bench::Plan plan = planFor(choice);
        for (const records::Gear& g : session_.book().gear()) {
            if (plan.run.meter == g.id)
                scene.meter = g.meter;
            if (plan.run.cable == g.id && g.ohms)
                scene.cableOhms = g.ohms->value;
            if (plan.run.charger == g.id) {
                scene.chargerWatts = g.watts.value_or(18.0);
                scene.chargerTiers = label::showTiers(g.tiers);
            }
        }
        waiting_ = choice;
        starting_ = true;
        Q_EMIT changed();
        standIn_.start(scene);
        return;
    }
    bench::Plan plan = planFor(choice);
    for (const auto* roles : {&plan.recipe.needs, &plan.recipe.uses}) {
        for (const bench::Role& role : *roles) {
            if (const auto set = instrument(role))
                plan.instruments[role] = *set;
        }
    }
    for (const bench::Role& role : plan.recipe.needs) {
        const bool loadMeasures = role == "meter" && plan.instruments.contains("load");
        if (!plan.instruments.contains(role) && !loadMeasures) {
            Q_EMIT problem(
                tr("This recipe needs a %1, and none is set up. Choose one under “Instruments”, or rehearse.")
                    .arg(qs(role)));
            return;
        }
    }
    (void)inhibitor_.hold(tr("A power bank is being tested."));
    runner_.start(plan);
    Q_EMIT changed();
}

void LiveBench::startOnStandIn() {
    if (!waiting_)
        return;
    starting_ = false;
    bench::Plan plan = planFor(*waiting_);
    plan.run.title = tr("%1, rehearsed").arg(qs(plan.recipe.name)).toStdString();
    if (!records::hasSheet(plan.recipe.kind)) // the simulated bank is made so
        plan.run.ends.began = records::usualBeginning(plan.recipe.kind);
    for (const auto* roles : {&plan.recipe.needs, &plan.recipe.uses}) {
        for (const bench::Role& role : *roles)
            plan.instruments[role] = standIn_.instruments().at(role);
    }
    plan.rehearsal = standIn_.rehearsal();
    waiting_.reset();
    (void)inhibitor_.hold(tr("A test of a power bank is being rehearsed."));
    runner_.start(plan);
    Q_EMIT changed();
}

void LiveBench::sessionEnded(const bench::Outcome& outcome) {
    inhibitor_.release();
    standIn_.stop();
    if (outcome.run != records::kNew && session_.isOpen() && outcome.rescued.empty()) {
        const auto run = session_.book().run(outcome.run);
        session_.noteAddedRun(outcome.run, run ? qs(run->title) : QString());
    }
    Q_EMIT ended(outcome);
    Q_EMIT changed();
}

std::vector<records::Run> LiveBench::openRuns() const {
    std::vector<records::Run> all;
    if (!session_.isOpen() || isRunning())
        return all;
    for (const records::Bank& bank : session_.book().banks()) {
        for (const records::Run& run : session_.book().runs(bank.id)) {
            if (run.open)
                all.push_back(run);
        }
    }
    return all;
}

void LiveBench::goOn(const records::Run& run, double celsius) {
    const auto bank = session_.book().bank(run.bank);
    const auto recipe = bench::recipeFromJson(run.recipe, "recipe");
    if (!bank || !recipe) {
        Q_EMIT problem(tr("The recipe of this run cannot be read any more; close the run as it is."));
        return;
    }
    bench::Plan plan = planFor({*bank, {*recipe, run.recipe}, false, 1.0, {}, celsius});
    plan.run = run;
    const QDateTime last = QDateTime::fromString(qs(run.capturedAt), Qt::ISODateWithMs);
    plan.breakSeconds =
        last.isValid()
            ? std::max<double>(0.0, static_cast<double>(last.msecsTo(QDateTime::currentDateTimeUtc())) * 1e-3)
            : 0.0;
    for (const auto* roles : {&plan.recipe.needs, &plan.recipe.uses}) {
        for (const bench::Role& role : *roles) {
            if (const auto set = instrument(role))
                plan.instruments[role] = *set;
        }
    }
    for (const bench::Role& role : plan.recipe.needs) {
        if (plan.instruments.empty() || plan.instruments.contains(role) ||
            (role == "meter" && plan.instruments.contains("load")))
            continue;
        Q_EMIT problem(
            tr("This recipe needs a %1, and none is set up. Choose one under “Instruments”, or close the run as it is.")
                .arg(qs(role)));
        return;
    }
    if (plan.instruments.empty()) {
        Q_EMIT problem(tr(
            "No instruments are set up; a rehearsal that was cut short cannot be gone on with, its bench is gone. Close the run as it is."));
        return;
    }
    (void)inhibitor_.hold(tr("A power bank is being tested."));
    runner_.start(plan);
    Q_EMIT changed();
}

void LiveBench::closeOpen(const records::Run& run) {
    // Whoever finds an open run doesn't know whether a load was left on.
    for (const char* role : {"load", "second load"}) {
        const auto load = instrument(role);
        if (!load)
            continue;
        auto* device = new bench::ScpiDevice(load->profile, load->address, this);
        connect(device, &bench::ScpiDevice::switchedOff, device, &QObject::deleteLater);
        QTimer::singleShot(kTryOffMs, device, [this, device, role] {
            Q_EMIT problem(
                tr("The %1 could not be switched off (%2). See that it is, or pull the plug out of the bank.")
                    .arg(QString::fromUtf8(role), device->whyNotOff()));
            device->deleteLater();
        });
        device->link().open();
    }
    records::Run closed = run;
    closed.open = false;
    closed.stopped = "the program ended while it went; closed afterwards";
    if (auto done = session_.changeRun(closed, tr("close a run that was left open")); !done)
        Q_EMIT problem(qs(done.error().sentence()));
    Q_EMIT changed();
}

} // namespace otterstone::app
