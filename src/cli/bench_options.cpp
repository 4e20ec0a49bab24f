#include "cli/bench_options.h"

#include <CLI/CLI.hpp>

#include "cli/commands.h"

namespace otterstone::cli {

namespace {

// The options live as long as the program's command line does.
template<class Options>
Options& kept() {
    static Options options;
    return options;
}

void addPath(CLI::App& app, int& code) {
    PathOptions& o = kept<PathOptions>();
    auto* path = app.add_subcommand("path", "Sums along the energy path");
    path->require_subcommand(1);
    const auto sub = [&](const char* name, const char* what, int (*run)(const PathOptions&)) {
        auto* s = path->add_subcommand(name, what);
        s->add_flag("--json", o.json, "print one JSON object");
        s->callback([&o, &code, run] { code = run(o); });
        return s;
    };
    auto* resistance = sub("resistance", "Loop resistance from two readings, or from gauge and length", pathResistance);
    auto* near = resistance->add_option("--near", o.near, "volts near the source, e.g. 5.10±0.004");
    auto* far = resistance->add_option("--far", o.far, "volts far from it");
    auto* amps = resistance->add_option("--amps", o.amps, "the current");
    auto* gauge = resistance->add_option("--awg", o.awg, "wire gauge");
    auto* length = resistance->add_option("--metres", o.metres, "length");
    near->needs(far)->needs(amps)->excludes(gauge)->excludes(length);
    far->needs(near);
    amps->needs(near);
    gauge->needs(length);
    length->needs(gauge);
    auto* predict = sub("predict", "Which tier charger, cable and bank agree on, and which decides", pathPredict);
    predict->add_option("--charger", o.charger, "tiers offered, e.g. \"5V 3A; 9V 2.22A\"")->required();
    predict->add_option("--bank", o.bank, "tiers accepted")->required();
    predict->add_option("--cable-amps", o.cableAmps, "3, or 5 with a marker");
    predict->add_option("--measured", o.measured, "watts measured");
    auto* watts = sub("watts", "V × A against W, with the slips that would explain it", pathWatts);
    watts->add_option("volts", o.volts)->required();
    watts->add_option("amps", o.amps)->required();
    watts->add_option("watts", o.watts)->required();
    auto* own = sub("own-draw", "What a meter itself takes, by both views", pathOwnDraw);
    own->add_option("--amps", o.amps, "its draw, A")->required();
    own->add_option("--at-volts", o.volts, "at this voltage")->required();
    own->add_option("--volts", o.far, "mean volts of the run")->required();
    own->add_option("--time", o.time, "length of the run")->required();
    own->add_option("--energy", o.energy, "the energy it is held against, e.g. 76.7±0.4")->required();
}

} // namespace

void addBenchCommands(CLI::App& app, int& code) {
    addPath(app, code);

    CounterOptions& c = kept<CounterOptions>();
    auto* counters = app.add_subcommand("counters", "A finding from a meter's counters alone");
    counters->add_option("--kind", c.kind, "drain or recharge")->required();
    counters->add_option("--wh", c.wh, "energy, Wh");
    counters->add_option("--mah", c.mah, "charge, mAh");
    counters->add_option("--mean-volts", c.meanVolts, "mean volts");
    counters->add_option("--time", c.time, "how long it took");
    counters->add_option("--rated-wh", c.ratedWh, "rated energy, Wh");
    counters->add_option("--began", c.began, "how full the bank was: full, empty, 92 %, unknown");
    counters->add_option("--ended", c.ended, "a state, why it ended, or both: empty, unplugged at 45 %, unknown");
    counters->add_option("--meter", c.meter, "its accuracy");
    counters->add_flag("--json", c.json, "print one JSON object");
    counters->callback([&c, &code] { code = cli::counters(c); });

    TransferOptions& t = kept<TransferOptions>();
    auto* transfer = app.add_subcommand("transfer", "One bank emptied into another: a lower bound");
    transfer->add_option("--filled", t.filled, "how much of the target was filled, %")->required();
    transfer->add_option("--target-wh", t.targetWh, "its rating, Wh")->required();
    transfer->add_option("--source-wh", t.sourceWh, "the rating of the bank that gave, Wh")->required();
    transfer->add_option("--efficiency", t.efficiency, "the target's charging efficiency, %");
    transfer->add_flag("--json", t.json, "print one JSON object");
    transfer->callback([&t, &code] { code = cli::transfer(t); });

    DeviceOptions& d = kept<DeviceOptions>();
    auto* device = app.add_subcommand("device", "What arrived in a device, or whether it charges while it is used");
    device->add_option("--battery-wh", d.battery, "its battery, Wh");
    device->add_option("--efficiency", d.efficiency, "its charging efficiency, %");
    device->add_option("--from", d.from, "its display before, %");
    device->add_option("--to", d.to, "its display after, %");
    device->add_option("--energy", d.energy, "energy out of the bank's port, Wh");
    device->add_option("--use-watts", d.use, "what it burns in use, W");
    device->add_option("--supply-watts", d.supply, "what it is supplied with, W");
    device->add_flag("--json", d.json, "print one JSON object");
    device->callback([&d, &code] { code = cli::device(d); });

    BankOptions& b = kept<BankOptions>();
    auto* bank = app.add_subcommand("bank", "What the runs of one bank say together");
    bank->add_option("book", b.book, "the book")->required();
    bank->add_option("--bank", b.name, "the bank's name")->required();
    bank->add_option("--load-watts", b.load, "how long will it run this load?");
    bank->add_option("--battery-wh", b.battery, "how often will it charge a battery of this energy?");
    bank->add_flag("--json", b.json, "print one JSON object");
    bank->callback([&b, &code] { code = cli::bank(b); });

    GearOptions& g = kept<GearOptions>();
    auto* gear = app.add_subcommand("gear", "Correct a piece of gear in a book and list what changes");
    gear->add_option("book", g.book, "the book")->required();
    gear->add_option("--piece", g.piece, "its name")->required();
    gear->add_option("--clock-factor", g.clock, "true time ÷ its own, or both: \"1h / 56m36s\"");
    gear->add_option("--ohms", g.ohms, "loop resistance, e.g. 0.115±0.015");
    gear->add_option("--accuracy", g.accuracy, "e.g. \"volts 0.05%+2mV, amps 0.1%+3mA\"");
    gear->add_flag("--json", g.json, "print one JSON object");
    gear->callback([&g, &code] { code = cli::gear(g); });
}

} // namespace otterstone::cli
