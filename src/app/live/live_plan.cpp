#include "app/live/live_plan.h"

#include <algorithm>

#include <QDateTime>
#include <QStandardPaths>
#include <nlohmann/json.hpp>

#include "app/gear/lay_out.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "book/demo/demo.h"
#include "core/kinds/figure_keys.h"
#include "core/label/port_rules.h"
#include "core/label/rating.h"
#include "core/label/usb_facts.h"
#include "core/model/bank_json.h"
#include "core/path/bottleneck.h"
#include "core/path/cable.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace {

constexpr double kSheetSamples = 10.0;  // a second: the moment a source goes is short
constexpr double kMiddle = 0.7;         // state of charge
constexpr double kSamplesAtLeast = 0.2; // per second, in the fastest rehearsal
constexpr double kLinesPerRealSecond = 2000.0;
constexpr double kUsualCharger = 18.0; // W, where nobody wrote down more

// Every charger of the drawer with every cable, into the bank's best input.
std::vector<bench::Source> sourcesFor(const book::Book& book, const records::Bank& bank) {
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
    const std::vector<records::Gear> gear = book.gear();
    for (const records::Gear& charger : gear) {
        if (charger.kind != records::GearKind::Charger)
            continue;
        for (const records::Gear& cable : gear) {
            if (cable.kind != records::GearKind::Cable)
                continue;
            const double watts = charger.watts.value_or(kUsualCharger);
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

} // namespace

Expectation expectationOf(const book::Book* book, const records::Bank& bank, const bench::Recipe& recipe) {
    Expectation e;
    const bool drain = recipe.kind != records::Kind::Recharge;
    if (records::hasSheet(recipe.kind)) { // its steps alone take time
        e.seconds = bench::estimateSeconds(
            bench::expand(recipe, bank.label, book ? sourcesFor(*book, bank) : std::vector<bench::Source>{}),
            bank.label, std::nullopt, std::nullopt);
        return e;
    }
    std::vector<double> earlier;
    if (book && bank.id != records::kNew) {
        for (const auto& [run, f] : book->cachedFindings(bank.id)) {
            if (f.kind == recipe.kind && kinds::answers(f, drain ? key::usableWh : key::putInWh))
                earlier.push_back(f.portWattHours.value());
        }
    }
    if (!earlier.empty()) {
        double sum = 0.0;
        for (const double wh : earlier)
            sum += wh;
        e.wattHours = sum / static_cast<double>(earlier.size());
        e.from = earlier.size() == 1 ? QObject::tr("its earlier run")
                                     : QObject::tr("its %1 earlier runs").arg(earlier.size());
    } else if (const auto usual = label::usualEnergy(bank.label, drain ? label::Way::Out : label::Way::In)) {
        e.wattHours = usual->value;
        e.from = QObject::tr("%1 times what is printed on it")
                     .arg(onScreen(showNumber(drain ? label::kUsuallyOut : label::kUsuallyIn)));
    }
    const std::optional<double> input =
        bank.label.inputWatts ? std::optional(bank.label.inputWatts->value) : std::nullopt;
    e.seconds = bench::estimateSeconds(recipe, bank.label, e.wattHours, input);
    return e;
}

bench::Plan planFor(const book::Book& book, const LiveChoice& choice, const std::set<records::Id>& busy,
                    const std::vector<std::string>& here) {
    bench::Plan plan;
    plan.sources = sourcesFor(book, choice.bank);
    plan.recipe = bench::expand(choice.recipe.recipe, choice.bank.label, plan.sources);
    plan.recipeText = choice.recipe.json;
    plan.label = choice.bank.label;
    plan.book = book.path();
    plan.run.bank = choice.bank.id;
    plan.run.title = choice.recipe.recipe.name;
    plan.run.ambient = std::nullopt;
    plan.run.ends = choice.ends;
    plan.limits.celsius = choice.celsius;
    if (plan.recipe.hours)
        plan.limits.seconds = *plan.recipe.hours * 3600.0;
    const setup::Schools schools = book.schools();
    plan.limits.fullShare = schools.fullShare;
    plan.limits.fullSeconds = schools.fullSeconds;
    const Expectation e = expectationOf(&book, choice.bank, plan.recipe);
    plan.expectedWattHours = e.wattHours;
    plan.expectedFrom = e.from;
    plan.rescueFolder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation);
    // The gear of the bank's last run of this kind: as a rule the same lies on the bench.
    const auto runs = book.runs(choice.bank.id);
    for (const records::Run& run : runs) {
        if (run.kind != plan.recipe.kind || run.device || run.target)
            continue;
        for (const records::Stretch& s : records::kStretches)
            plan.run.*(s.piece) = run.*(s.piece);
        plan.run.ambient = run.ambient;
    }
    for (const records::Stretch& s : records::kStretches) {
        if (const auto piece = plan.run.*(s.piece); piece && busy.contains(*piece))
            (plan.run.*(s.piece)).reset();
    }
    const std::vector<records::Gear> drawer = book.gear();
    const auto named = [&](records::GearKind kind, const std::vector<std::string>& names) {
        return std::any_of(drawer.begin(), drawer.end(), [&](const records::Gear& g) {
            return g.kind == kind && std::find(names.begin(), names.end(), g.name) != names.end();
        });
    };
    for (const records::Stretch& s : records::kStretches) {
        if (!choice.gear.empty() || named(s.kind, here))
            (plan.run.*(s.piece)).reset();
    }
    layOut(plan.run, drawer, choice.gear.empty() ? here : choice.gear);
    // All that lies on the bench is not in each run's path.
    if (plan.recipe.kind == records::Kind::Drain && choice.gear.empty())
        plan.run.charger.reset();
    if (plan.recipe.kind == records::Kind::Recharge && choice.gear.empty())
        plan.run.load.reset();
    for (const records::Gear& g : drawer) {
        if (plan.run.cable == g.id)
            plan.cableAmps = label::usbFact(g.marked ? label::Fact::CableMarked : label::Fact::CableUnmarked);
    }
    if (plan.recipe.kind == records::Kind::PassThrough && !plan.run.charger) { // a source that is strong enough to tell
        double most = 0.0;
        for (const records::Gear& g : drawer) {
            if (g.kind == records::GearKind::Charger && !g.tiers.empty() && g.watts.value_or(0.0) > most &&
                !busy.contains(g.id)) {
                most = *g.watts;
                plan.run.charger = g.id;
            }
        }
    }
    return plan;
}

bench::StandIn::Scene sceneFor(const book::Book& book, const LiveChoice& choice, const bench::Plan& plan) {
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
    for (const records::Gear& g : book.gear()) {
        if (plan.run.meter == g.id)
            scene.meter = g.meter;
        if (plan.run.cable == g.id && g.ohms)
            scene.cableOhms = g.ohms->value;
        if (plan.run.charger == g.id) {
            scene.chargerWatts = g.watts.value_or(kUsualCharger);
            scene.chargerTiers = label::showTiers(g.tiers);
        }
    }
    return scene;
}

} // namespace otterstone::app
