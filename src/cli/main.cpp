// otterstone-cli: reads the command line and hands over to one subcommand. Needs no display.
#include <iostream>

#include <CLI/CLI.hpp>

#include "cli/bench_options.h"
#include "cli/commands.h"
#include "cli/document.h"
#include "cli/examples.h"
#include "cli/hand_over.h"
#include "cli/label_options.h"
#include "cli/live_options.h"
#include "core/quantity/version.h"
#include "terminal/plainly.h"

int main(int argc, char** argv) {
    namespace cli = otterstone::cli;
    CLI::App app{"Otterstone: measure, work out and judge portable power banks", "otterstone-cli"};
    app.require_subcommand(1);
    app.set_version_flag("--version", "otterstone-cli " + otterstone::versionWithCommit());
    otterstone::terminal::printPlainly();
    int code = cli::kDone;

    cli::AnalyseOptions a;
    auto* analyse = app.add_subcommand("analyse", "Work out a drain or recharge from a meter's log");
    analyse->add_option("log", a.log, "the log file")->required();
    analyse->add_option("--kind", a.kind, "drain or recharge")->required();
    analyse->add_flag("--json", a.json, "print one JSON object");
    analyse->add_option("--rated-wh", a.ratedWh, "rated energy as printed, Wh");
    analyse->add_option("--rated-mah", a.ratedMah, "capacity as printed, mAh");
    analyse->add_option("--cell-volts", a.cellVolts, "nominal cell voltage, V");
    analyse->add_option("--column", a.columns, "ROLE=NAME or ROLE=N, e.g. volts=VBUS");
    analyse->add_option("--unit", a.units, "ROLE=UNIT, e.g. volts=mV");
    analyse->add_option("--clock-factor", a.clockFactor,
                        "true time ÷ logged time, e.g. 1.06±0.001, or both: \"1h / 56m36s\"");
    analyse->add_option("--max-gap", a.maxGap, "a longer step than this is a gap, s");
    analyse->add_option("--from", a.from, "begin here, s on the log's clock");
    analyse->add_option("--to", a.to, "end here, s on the log's clock");
    analyse->add_option("--path-ohms", a.pathOhms, "loop resistance between port and meter, e.g. 0.085±0.01");
    analyse->add_option("--meter", a.meter, "e.g. \"volts 0.05%+2mV, amps 0.1%+3mA, clock 50ppm\"");
    analyse->add_option("--mark", a.marks, "a stamp, e.g. percent@1h12=45, leds@40min=2 of 4, trip@2h=heat");
    analyse->add_option("--began", a.began, "how full the bank was: full, empty, 92 %, 2 of 4, unknown");
    analyse->add_option("--ended", a.ended, "a state, why it ended, or both: empty, unplugged at 45 %, heat, unknown");
    analyse->add_option("--ambient", a.ambient, "ambient temperature, °C or °F");
    analyse->add_option("--point", a.point, "where the log was read: wall, charger, meter, bank in, bank out, load");
    analyse->add_option("--also", a.also, "one more trace of the run, e.g. \"bank out=near.csv\"");
    analyse->add_option("--also-meter", a.alsoMeter, "accuracy of the meter that read it");
    analyse->add_option("--school", a.schools, "QUESTION=ANSWER, e.g. full_when=gauge_says");
    analyse->add_option(
        "--hand", a.hand,
        "the file holds rows written by hand (time, V, A, W, %, °C, note); joined or held between them");
    analyse->callback([&] { code = cli::analyse(a); });

    cli::LabelOptions l;
    auto* label = app.add_subcommand("label", "Check what is printed on a bank");
    cli::addLabelOptions(*label, l, true);
    label->add_flag("--json", l.json, "print one JSON object");
    label->callback([&] { code = cli::label(l); });

    cli::addNewCommands(app, code);
    cli::addBenchCommands(app, code);
    cli::addSheetCommand(app, code);
    cli::addRowsCommand(app, code);
    cli::addRunCommands(app, code);
    cli::addLifeCommand(app, code);
    cli::addDevicesCommand(app, code);
    cli::addHouseCommand(app, code);
    cli::addPlanCommand(app, code);
    cli::addAttachCommand(app, code);
    cli::addJudgementCommands(app, code);
    const auto speaks = [argc, argv](const auto&) {
        return cli::handOver("otterstone-live", {argv + 1, argv + argc}, "the program that speaks to instruments",
                             "Install Otterstone whole.");
    };
    cli::addLiveCommands(app, code, {speaks, speaks});
    std::string book;
    std::string other;
    bool json = false;
    auto* demo = app.add_subcommand("demo", "Write the demo book of the Skerry Point survey");
    demo->add_option("book", book, "the book to write")->required();
    demo->callback([&] { code = cli::demo(book); });
    auto* exporting = app.add_subcommand("export", "Write a book as a bundle: book.json and CSV traces");
    exporting->add_option("book", book, "the book")->required();
    exporting->add_option("dir", other, "a new or empty folder")->required();
    exporting->callback([&] { code = cli::exportBook(book, other); });
    auto* importing = app.add_subcommand("import", "Read a bundle (folder or .zip) into a new book");
    importing->add_option("bundle", other, "the folder or .zip")->required();
    importing->add_option("book", book, "the book to write")->required();
    importing->callback([&] { code = cli::importBundle(other, book); });
    auto* rest =
        app.add_subcommand("bring-in", "Put the rest of a live run, that a full disk did not take, into its run");
    rest->add_option("book", book, "the book of that run")->required();
    rest->add_option("rescue", other, "the file that was named when the run ended: rescued-run-….json")->required();
    rest->callback([&] { code = cli::bringIn(book, other); });
    auto* check = app.add_subcommand("check", "Check that a book is whole");
    check->add_option("book", book, "the book")->required();
    check->callback([&] { code = cli::check(book); });
    auto* findings = app.add_subcommand("findings", "Print what the runs of a book say");
    findings->add_option("book", book, "the book")->required();
    findings->add_flag("--json", json, "print one JSON object");
    findings->callback([&] { code = cli::findings(book, json); });
    cli::addDocumentCommand(app, code);
    auto* version = app.add_subcommand("version", "Print the version");
    version->callback([&] {
        std::cout << "otterstone " << otterstone::versionWithCommit() << "\n";
        code = cli::finish(cli::kDone);
    });

    cli::addExamples(app);

    return cli::obeyed(app, argc, argv, code);
}
