#include "cli/examples.h"

#include <string>
#include <vector>

#include <CLI/CLI.hpp>

namespace otterstone::cli {

namespace {

struct Example {
    const char* command; ///< with what stands before it: "path watts"
    std::vector<const char*> lines;
};

const std::vector<Example>& examples() {
    static const std::vector<Example> kAll = {
        {"new", {"new bench.otterstone"}},
        {"add-bank",
         {R"(add-bank bench.otterstone --name "Cobble 10" --mah 10000 --cell-volts 3.7 --port "C1 both 5Vx3A 9Vx2A" --recharge-hours 3)",
          R"(add-bank bench.otterstone --name "Cobble 10, the second" --like "Cobble 10")"}},
        {"add-gear",
         {R"(add-gear bench.otterstone --kind meter --name "Pocket meter" --accuracy "volts 0.5%+10mV, amps 1%+10mA")",
          R"(add-gear bench.otterstone --kind cable --name "Blue cable" --ohms 0.115±0.015 --marked)"}},
        {"add-run",
         {R"(add-run bench.otterstone drain.csv --bank "Cobble 10" --kind drain --meter "Pocket meter" --began full --ended empty)",
          R"(add-run bench.otterstone evening.csv --bank "Cobble 10" --kind notebook --title "An evening's devices")"}},
        {"answer",
         {"answer bench.otterstone --run 12 began=92%", R"(answer bench.otterstone --bank "Cobble 10" began=usual)"}},
        {"list", {"list bench.otterstone questions"}},
        {"attach", {R"(attach bench.otterstone label.jpg --bank "Cobble 10" --caption "The label" --on-sheet)"}},
        {"analyse",
         {R"(analyse drain.csv --kind drain --rated-wh 37 --path-ohms 0.115±0.015 --meter "volts 0.05%+2mV, amps 0.1%+3mA")"}},
        {"label", {R"(label --mah 20000 --cell-volts 3.7 --printed "14.8V 18.5Wh")"}},
        {"counters", {"counters --kind drain --wh 31.2 --mah 6240 --time 6h10 --rated-wh 37"}},
        {"transfer", {"transfer --filled 80 --target-wh 37 --source-wh 74"}},
        {"device", {"device --battery-wh 26.4 --from 12 --to 87 --energy 24.1"}},
        {"path predict", {R"(path predict --charger "5V 3A; 9V 2.22A" --bank "5V 3A; 9V 2A" --cable-amps 3)"}},
        {"path resistance",
         {"path resistance --near 5.10±0.004 --far 4.87±0.004 --amps 2.0", "path resistance --awg 24 --metres 1"}},
        {"path watts", {"path watts 19.3 3.28 63.3"}},
        {"path own-draw", {"path own-draw --amps 0.006 --at-volts 5 --volts 5.05 --time 6h10 --energy 31.2±0.4"}},
        {"behaviour", {R"(behaviour sharing rows.csv --book bench.otterstone --bank "Cobble 10")"}},
        {"rows", {"rows bench.otterstone --run 4"}},
        {"bank",
         {R"(bank bench.otterstone --bank "Cobble 10" --load-watts 7)",
          R"(bank bench.otterstone --bank "Cobble 10" --battery-wh 12)"}},
        {"gear", {R"(gear bench.otterstone --piece "Pocket meter" --clock-factor 0.94)"}},
        {"devices", {R"(devices bench.otterstone "Field tablet")"}},
        {"house", {R"(house bench.otterstone --currency EUR --rates "USD 0.92; GBP 1.15 on 2026-11-20")"}},
        {"life", {R"(life bench.otterstone --bank "Cobble 10" --counts "2026-08-10: 487 Wh out")"}},
        {"findings", {"findings bench.otterstone --json"}},
        {"claims", {R"(claims bench.otterstone --bank "Cobble 10")"}},
        {"observations", {R"(observations bench.otterstone --bank "Cobble 10")"}},
        {"choose", {"choose bench.otterstone --purpose plane"}},
        {"use", {R"(use bench.otterstone --need "Camera 2 W 8 h" --days 5)"}},
        {"plan", {R"(plan bench.otterstone --hours "daily 8-22" --unattended stop)"}},
        {"report",
         {R"(report bench.otterstone --bank "Cobble 10" --out cobble.html)", "report bench.otterstone --out all.pdf"}},
        {"live",
         {R"(live bench.otterstone --bank "Cobble 10" --recipe gentle-drain --meter printing-meter@/dev/ttyUSB0 --load scpi-load@192.168.1.20:5025 --checked)"}},
        {"recipe", {"recipe gentle-drain"}},
        {"instrument", {"instrument scpi-load"}},
        {"listen", {"listen /dev/ttyUSB0"}},
        {"demo", {"demo skerry-point.otterstone"}},
        {"export", {"export bench.otterstone bundle"}},
        {"import", {"import bundle.zip bench.otterstone"}},
        {"bring-in", {"bring-in bench.otterstone rescued-run-12-20260311-204500.json"}},
        {"check", {"check bench.otterstone"}},
    };
    return kAll;
}

// Throws of a command that there is not: then no command runs, and that is seen at once.
CLI::App& commandNamed(CLI::App& app, const std::string& name) {
    const std::size_t space = name.find(' ');
    CLI::App& first = *app.get_subcommand(name.substr(0, space));
    return space == std::string::npos ? first : commandNamed(first, name.substr(space + 1));
}

} // namespace

void addExamples(CLI::App& app) {
    for (const Example& e : examples()) {
        std::string words = e.lines.size() == 1 ? "Example:" : "Examples:";
        for (const char* line : e.lines)
            words += std::string("\n  otterstone-cli ") + line;
        commandNamed(app, e.command).footer(words);
    }
}

} // namespace otterstone::cli
