// The subcommands of the measuring bench: path sums, counters, devices, a bank's runs together, a corrected piece of
// gear.
#include <iostream>

#include <nlohmann/json.hpp>

#include "book/store/ripples.h"
#include "book/store/together.h"
#include "cli/commands.h"
#include "cli/options.h"
#include "core/kinds/traced/device.h"
#include "core/kinds/traced/json.h"
#include "core/path/bottleneck.h"
#include "core/path/cable.h"
#include "core/path/own_draw.h"
#include "core/path/slips.h"
#include "core/trace/clock.h"

namespace otterstone::cli {

namespace {

using nlohmann::json;

int printWorking(const Working& w, bool asJson) {
    if (asJson)
        return print(shownJson(w));
    std::cout << kinds::asText(w);
    return finish(kDone);
}

Measured measured(const std::string& text, const char* option) {
    return orWrong(parseMeasured(text, option, ErrorSource::ofBench("", option)));
}

void printTogether(const together::BankFindings& b) {
    if (b.usableFigure)
        std::cout << kinds::asText(*b.usableFigure);
    if (b.usable)
        std::cout << "usable energy against load: " << b.usable->inWords() << "\n";
    for (const together::Pair& p : b.pairs)
        std::cout << p.sentence << " (" << p.figures.front().note << ")\n";
    for (const together::Pair& p : b.partTrips)
        std::cout << p.sentence << "\n";
    for (const together::Contradiction& c : b.contradictions)
        std::cout << c.sentence << "\n";
    for (const together::RepeatGroup& g : b.repeats)
        std::cout << g.sentence << "\n";
    if (b.efficiency)
        std::cout << kinds::asText(*b.efficiency);
    if (b.cycles)
        std::cout << kinds::asText(*b.cycles);
    for (const together::InputRow& in : b.inputs)
        std::cout << in.title << ": " << (in.plateau ? in.plateau->shown() : "unknown")
                  << (in.to80 ? ", 80 % after " + in.to80->shown() : "")
                  << (in.claim.empty() ? "" : "; claim: " + in.claim) << "\n";
    for (const std::string& line : b.life.sentences)
        std::cout << line << "\n";
    for (const life::SideBySide& beside : b.specimens)
        std::cout << beside.sentence << "\n";
    for (const std::string& m : b.missing)
        std::cerr << "note: " << m << "\n";
}

json togetherJson(const together::BankFindings& b) {
    json all{{"pairs", json::array()}, {"repeats", json::array()}, {"inputs", json::array()}, {"missing", b.missing}};
    const auto orNull = [](const std::optional<Working>& w) { return w ? shownJson(*w) : json(nullptr); };
    for (const together::Pair& p : b.pairs) {
        json figures = json::array();
        for (const Working& w : p.figures)
            figures.push_back(shownJson(w));
        all["pairs"].push_back(
            {{"drain", p.drain}, {"recharge", p.recharge}, {"sentence", p.sentence}, {"figures", figures}});
    }
    for (const together::RepeatGroup& g : b.repeats)
        all["repeats"].push_back({{"what", g.what},
                                  {"runs", g.runs},
                                  {"left_out", g.leftOut},
                                  {"sentence", g.sentence},
                                  {"figure", shownJson(g.working)}});
    for (const together::InputRow& in : b.inputs)
        all["inputs"].push_back({{"run", in.run},
                                 {"title", in.title},
                                 {"charger", in.charger},
                                 {"cable", in.cable},
                                 {"plateau_watts", orNull(in.plateau)},
                                 {"time_to_80", orNull(in.to80)},
                                 {"time_to_full", orNull(in.full)},
                                 {"claim", in.claim}});
    all["part_trips"] = json::array();
    for (const together::Pair& p : b.partTrips)
        all["part_trips"].push_back({{"drain", p.drain},
                                     {"recharge", p.recharge},
                                     {"sentence", p.sentence},
                                     {"figure", shownJson(p.figures.front())}});
    all["contradictions"] = json::array();
    for (const together::Contradiction& c : b.contradictions)
        all["contradictions"].push_back({{"runs", c.runs}, {"sentence", c.sentence}});
    all["usable"] = orNull(b.usableFigure);
    all["efficiency"] = orNull(b.efficiency);
    all["cycles"] = orNull(b.cycles);
    all["usable_curve"] = nullptr;
    if (b.usable)
        all["usable_curve"] = {{"e0_wh", b.usable->emptyLoadWattHours()},
                               {"p0_w", b.usable->overheadWatts()},
                               {"r_per_w", b.usable->resistance()},
                               {"most_wh", b.usable->most()},
                               {"loads", b.usable->loads()},
                               {"lowest_w", b.usable->lowest()},
                               {"highest_w", b.usable->highest()},
                               {"tier", b.usableTier}};
    return all;
}

} // namespace

int pathResistance(const PathOptions& o) {
    return guard([&] {
        if (!o.awg.empty()) {
            const double awg = positive(o.awg, "--awg", Expect::WholeNumber);
            if (awg > 40.0 || awg != static_cast<int>(awg))
                throw Wrong{{"bad_gauge", "--awg", "a gauge is a whole number up to 40.", ""}};
            return printWorking(path::estimatedLoop(static_cast<int>(awg), positive(o.metres, "--metres")), o.json);
        }
        const Measured amps = measured(o.amps, "--amps");
        if (amps.value() == 0.0)
            throw Wrong{{"no_current", "--amps", "without a current no resistance shows.", ""}};
        return printWorking(path::loopResistance(measured(o.near, "--near"), measured(o.far, "--far"), amps), o.json);
    });
}

int pathPredict(const PathOptions& o) {
    return guard([&] {
        const path::Side charger{orWrong(label::parseTiers(o.charger, "--charger")), {}};
        const path::Side bank{orWrong(label::parseTiers(o.bank, "--bank")), {}};
        const auto p =
            path::predictTier(charger, {Amps(o.cableAmps.empty() ? 3.0 : positive(o.cableAmps, "--cable-amps"))}, bank);
        if (!p)
            return complain(
                {"no_common_tier", "--charger, --bank", "they share no voltage.", "Write tiers like 5V 3A; 9V 2A."});
        Working w = p->working;
        if (!o.measured.empty()) {
            for (const std::string& why : whyBelow(Watts(positive(o.measured, "--measured")), *p))
                w.parts.push_back(remark("measured below predicted", why));
        }
        return printWorking(w, o.json);
    });
}

int pathWatts(const PathOptions& o) {
    return guard([&] {
        const auto check = orWrong(path::checkWatts(o.volts, o.amps, o.watts));
        if (!o.json) {
            std::cout << (check.agrees ? "V × A agrees with W: " + showNumber(check.product, 4) + " W."
                                       : check.sentence)
                      << "\n";
            return finish(kDone);
        }
        json slips = json::array();
        for (const path::Slip& s : check.slips)
            slips.push_back({{"which", s.which == path::Written::Volts  ? "volts"
                                       : s.which == path::Written::Amps ? "amps"
                                                                        : "watts"},
                             {"instead", s.instead}});
        return print(
            {{"product_w", check.product}, {"agrees", check.agrees}, {"slips", slips}, {"sentence", check.sentence}});
    });
}

int pathOwnDraw(const PathOptions& o) {
    return guard([&] {
        const double hours = timeOption(o.time, "--time") / 3600.0;
        const Measured energy = measured(o.energy, "--energy");
        return printWorking(path::ownDrawEnergy({positive(o.amps, "--amps"), positive(o.volts, "--at-volts")},
                                                positive(o.far, "--volts") * hours, hours,
                                                energy.hasDoubt() ? energy.u() : 0.0, "meter")
                                .working,
                            o.json);
    });
}

int counters(const CounterOptions& o) {
    return guard([&] {
        const auto kind = records::kindFromKey(o.kind);
        if (!kind)
            throw Wrong{
                {"bad_option", "--kind", "“" + o.kind + "” is unknown.", "Write --kind drain or --kind recharge."}};
        kinds::Counters n;
        const auto take = [](const std::string& text, const char* option, std::optional<double>& into) {
            if (!text.empty())
                into = number(text, option);
        };
        take(o.wh, "--wh", n.wattHours);
        take(o.mah, "--mah", n.milliampHours);
        take(o.meanVolts, "--mean-volts", n.meanVolts);
        if (!o.time.empty())
            n.seconds = timeOption(o.time, "--time");
        setup::Setup setup;
        label::Label label;
        if (!o.ratedWh.empty())
            label.energy = WattHours(positive(o.ratedWh, "--rated-wh"));
        setRating(setup, label);
        if (!o.meter.empty())
            setup.meter = orWrong(path::parseMeter(o.meter, "--meter"));
        if (!o.began.empty())
            setup.ends.began = orWrong(records::parseBegan(o.began, "--began"));
        if (!o.ended.empty())
            orWrong(records::parseEnded(o.ended, "--ended", setup.ends));
        const auto f = kinds::analyseCounters(n, *kind, setup);
        if (!f)
            return complain(f.error());
        if (o.json)
            return print(kinds::toContract(*f));
        std::cout << f->sentence << "\n";
        return finish(kDone);
    });
}

int transfer(const TransferOptions& o) {
    return guard([&] {
        std::optional<Stated> efficiency;
        if (!o.efficiency.empty())
            efficiency = Stated(positive(o.efficiency, "--efficiency") / 100.0);
        return printWorking(kinds::intoBank(positive(o.filled, "--filled") / 100.0, positive(o.targetWh, "--target-wh"),
                                            positive(o.sourceWh, "--source-wh"), efficiency, ""),
                            o.json);
    });
}

int device(const DeviceOptions& o) {
    return guard([&] {
        setup::Device d{"the device", {}, {}, {}};
        if (!o.battery.empty())
            d.batteryWattHours = Stated::of(measured(o.battery, "--battery-wh"));
        if (!o.efficiency.empty())
            d.chargingEfficiency = Stated(positive(o.efficiency, "--efficiency") / 100.0);
        if (!o.use.empty()) {
            d.inUseWatts = positive(o.use, "--use-watts");
            return printWorking(kinds::balanceInUse(d, measured(o.supply, "--supply-watts")).working, o.json);
        }
        if (!d.batteryWattHours)
            throw Wrong{{"missing_option", "--battery-wh", "what the device stores needs its battery's energy.",
                         "Or give --use-watts and --supply-watts."}};
        const double from = number(o.from, "--from"), to = number(o.to, "--to");
        if (!(to > from))
            throw Wrong{{"bad_option", "--from, --to", "the device must gain.",
                         "Write its display's percentages before and after."}};
        return printWorking(
            kinds::transferShare(kinds::storedInDevice(d, from, to, ""), measured(o.energy, "--energy")), o.json);
    });
}

int bank(const BankOptions& o) {
    return guard([&] {
        auto opened = book::Book::open(QString::fromStdString(o.book));
        if (!opened)
            return complain(opened.error());
        for (const records::Bank& b : (*opened)->banks()) {
            if (b.name != o.name)
                continue;
            const auto together = book::workOutTogether((*opened)->path(), b.id);
            if (!together)
                return complain(together.error());
            json all = togetherJson(*together);
            const auto answer = [&](const char* name, const Working& w) {
                if (!o.json)
                    std::cout << kinds::asText(w);
                all[name] = shownJson(w);
            };
            if (!together->usable && !(o.load.empty() && o.battery.empty()))
                return complain({"no_curve", o.name, "there is no curve of usable energy yet.",
                                 "Drain it from full to its cut-off once; a second load narrows the answer."});
            if (!o.load.empty())
                answer("runtime", together->usable->runtimeOf(positive(o.load, "--load-watts")));
            if (!o.battery.empty())
                answer("charges", together->usable->chargesOf(positive(o.battery, "--battery-wh")));
            if (o.json)
                return print(all);
            printTogether(*together);
            return finish(kDone);
        }
        return complain({"no_bank", o.book, "there is no bank “" + o.name + "” in this book.",
                         "The findings subcommand lists them."});
    });
}

int gear(const GearOptions& o) {
    return guard([&] {
        auto opened = book::Book::open(QString::fromStdString(o.book));
        if (!opened)
            return complain(opened.error());
        for (records::Gear g : (*opened)->gear()) {
            if (g.name != o.piece)
                continue;
            if ((!o.clock.empty() || !o.accuracy.empty()) && !g.reads())
                return complain(
                    {"not_of_this_gear", o.piece,
                     "a " + records::gearKey(g.kind) + " has neither a clock factor nor an accuracy of volts and amps.",
                     "Meters and loads have."});
            if (!o.ohms.empty() && g.kind != records::GearKind::Cable)
                return complain({"not_of_this_gear", o.piece,
                                 "a " + records::gearKey(g.kind) + " has no loop resistance.", "Cables have."});
            if (!o.clock.empty())
                g.clock = Stated::of(
                    orWrong(trace::parseClockFactor(o.clock, "--clock-factor", ErrorSource::ofBench("", "entered"))));
            if (!o.ohms.empty())
                g.ohms = Stated::of(measured(o.ohms, "--ohms"));
            if (!o.accuracy.empty()) {
                g.meter = orWrong(path::parseMeter(o.accuracy, "--accuracy"));
                g.meter.name = g.name;
            }
            const auto before = book::benchNow((*opened)->path());
            if (!before)
                return complain(before.error());
            if (auto saved = (*opened)->save(g); !saved)
                return complain(saved.error(), kOutput);
            json rows = json::array();
            std::vector<book::FreshFinding> fresh;
            const auto done = book::tellRipples((*opened)->path(), *before, g.id, [&](book::Rippled rippled) {
                std::move(rippled.fresh.begin(), rippled.fresh.end(), std::back_inserter(fresh));
                for (const book::Ripple& r : rippled.rows) {
                    if (!o.json)
                        std::cout << book::inWords(r) << std::endl; // as it is known, also into a pipe
                    json figures = json::array();
                    for (const auto& f : r.figures)
                        figures.push_back({{"figure", f.label}, {"before", f.before}, {"after", f.after}});
                    rows.push_back({{"bank", r.bank}, {"run", r.title}, {"figures", figures}});
                }
                return true;
            });
            if (!done)
                return complain(done.error());
            book::remember(**opened, fresh);
            return o.json ? print({{"changed", rows}}) : finish(kDone);
        }
        return complain({"no_gear", o.book, "there is no piece of gear “" + o.piece + "” in this book.", ""});
    });
}

} // namespace otterstone::cli
