// otterstone-standin: a simulated bank on a simulated bench, behind a pseudo-terminal and loopback TCP ports.
#include <csignal>
#include <fstream>
#include <iostream>
#include <sstream>

#include <CLI/CLI.hpp>
#include <QCoreApplication>
#include <QSocketNotifier>
#include <nlohmann/json.hpp>
#include <unistd.h>

#include "book/demo/demo.h"
#include "core/model/bank_json.h"
#include "core/quantity/version.h"
#include "standin/station.h"

using namespace otterstone;

namespace {

constexpr int kWrongUsage = 2, kUnreadable = 3;
constexpr int kGraceMs = 3000;

int fail(int code, const std::string& sentence) {
    std::cerr << sentence << "\n";
    return code;
}

Result<model::Bank> bankFromFile(const std::string& path) {
    std::ifstream file(path);
    if (!file)
        return problem("no_bank", path, "the file cannot be opened.", "Check its name.");
    const auto json = nlohmann::json::parse(file, nullptr, false);
    if (json.is_discarded())
        return problem("no_bank", path, "this is not JSON.", "docs/live-bench.md describes the file.");
    return model::bankFromJson(json, path);
}

} // namespace

int main(int argc, char** argv) {
    QCoreApplication application(argc, argv);
    standin::Options options;
    std::string bankFile, demo, meter = "volts 0.05%+2mV, amps 0.1%+3mA, clock 50ppm", folder, tiers;
    std::vector<std::string> faults;
    bool empty = false, untilClosed = false;
    options.scene.charger.watts = 18.0;
    CLI::App app(
        "A simulated bench for rehearsing: a meter that prints lines, and a load, a trigger and a thermometer that speak SCPI.",
        "otterstone-standin");
    app.set_version_flag("--version", "otterstone-standin " + versionWithCommit());
    app.add_option("--bank", bankFile, "JSON file that describes the simulated bank");
    app.add_option("--demo", demo, "a bank of the demo scenario, by name");
    app.add_flag("--empty", empty, "begin with an empty bank instead of a full one");
    app.add_option("--charge", options.scene.stateOfCharge, "begin at this state of charge")
        ->check(CLI::Range(0.0, 1.0));
    app.add_option("--speed", options.speed, "seconds on the bench for each real one")->check(CLI::Range(0.01, 1e6));
    app.add_flag("--in-step", options.inStep, "let time pass only as the control port asks for it (LOCKstep, ADVance)");
    app.add_option("--rate", options.scene.samplesPerSecond, "lines a meter prints in a second of the bench")
        ->check(CLI::Range(0.01, 10000.0));
    app.add_option("--ambient", options.scene.ambient, "air temperature, °C")->check(CLI::Range(-40.0, 80.0));
    app.add_option("--cable-ohms", options.scene.outOhms, "loop resistance between bank and meter")
        ->check(CLI::Range(0.0, 10.0));
    app.add_option("--charger-watts", options.scene.charger.watts, "what the charger gives")
        ->check(CLI::Range(0.1, 500.0));
    app.add_option("--charger-tiers", tiers, "what it offers: \"5 V 3 A, 9 V 2 A\"");
    app.add_option("--meter", meter, "accuracy of the meters, within which their errors are drawn");
    app.add_option("--seed", options.scene.seed, "for these errors");
    app.add_option("--watchdog", options.scene.watchdogSeconds,
                   "seconds without a word after which the load switches off; 0: never");
    app.add_option("--baud", options.baud, "of the meters");
    app.add_option("--folder", folder, "where the meters' names are put; the working folder otherwise");
    app.add_option("--load-port", options.loadPort, "TCP port of the load; 0: any");
    app.add_option("--second-load-port", options.secondLoadPort, "");
    app.add_option("--trigger-port", options.triggerPort, "");
    app.add_option("--second-trigger-port", options.secondTriggerPort, "");
    app.add_option("--thermometer-port", options.thermometerPort, "");
    app.add_option("--control-port", options.controlPort, "");
    app.add_option("--modbus-port", options.modbusPort, "of the load as it speaks Modbus");
    app.add_option("--plug-port", options.plugPort, "of the page on which the plug in the wall tells its watts");
    app.add_option(
        "--fault", faults,
        "noise, silence, nan, partial, unplug, slow-clock, restart or wrong-baud, as \"name seconds value\"; repeatable");
    app.add_flag("--until-closed", untilClosed, "end soon after standard input is closed");
    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& error) {
        return app.exit(error) == 0 ? 0 : kWrongUsage;
    }
    if (!bankFile.empty()) {
        auto bank = bankFromFile(bankFile);
        if (!bank)
            return fail(kUnreadable, bank.error().sentence());
        options.scene.bank = *bank;
    } else if (!demo.empty()) {
        const auto bank = book::demoTruth(demo);
        if (!bank)
            return fail(kWrongUsage, "there is no bank “" + demo + "” in the demo.");
        options.scene.bank = *bank;
    }
    if (empty)
        options.scene.stateOfCharge = 0.0;
    const auto accuracy = path::parseMeter(meter, "--meter");
    if (!accuracy)
        return fail(kWrongUsage, accuracy.error().sentence());
    options.scene.meter = *accuracy;
    if (!tiers.empty()) {
        const auto offered = label::parseTiers(tiers, "--charger-tiers");
        if (!offered)
            return fail(kWrongUsage, offered.error().sentence());
        options.scene.charger.tiers = *offered;
    }
    options.scene.device.cells.ampHours = 3.0;
    options.scene.device.inputWatts = 12.0;
    options.scene.device.ports = {{"in", label::Direction::In, {}, {{Volts(5.0), Volts(5.0), Amps(2.4)}}, 0.0, 0.0}};
    options.scene.choosePorts();
    options.folder = folder.empty() ? QStringLiteral(".") : QString::fromStdString(folder);

    standin::Station station(options);
    for (const std::string& f : faults) {
        std::istringstream words(f);
        std::string key;
        double seconds = 0.0, value = 0.0;
        words >> key >> seconds >> value;
        const auto fault = standin::faultFromKey(key);
        if (!fault)
            return fail(
                kWrongUsage,
                "--fault: “" + key +
                    "” is none. Faults are noise, silence, nan, partial, unplug, slow-clock, restart, wrong-baud.");
        station.world().put(*fault, seconds, value);
    }
    if (auto started = station.start(); !started)
        return fail(kUnreadable, started.error().sentence());
    std::cout << station.whereabouts() << std::endl;

    // Names of the meters are taken away again.
    for (const int signal : {SIGINT, SIGTERM})
        std::signal(signal, [](int) { QCoreApplication::exit(0); });
    std::unique_ptr<QSocketNotifier> input;
    if (untilClosed) {
        input = std::make_unique<QSocketNotifier>(STDIN_FILENO, QSocketNotifier::Read);
        QObject::connect(input.get(), &QSocketNotifier::activated, [&input] {
            char byte = 0;
            if (::read(STDIN_FILENO, &byte, 1) <= 0) {
                input->setEnabled(false);
                QTimer::singleShot(kGraceMs, [] { QCoreApplication::exit(0); });
            }
        });
    }
    return QCoreApplication::exec();
}
