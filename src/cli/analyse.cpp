#include <iostream>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "core/findings/json.h"
#include "core/quantity/parse.h"
#include "core/trace/clock.h"
#include "logs/log.h"

namespace otterstone::cli {

namespace {

// A wrong option is wrong usage, not unreadable input; the two leave with different codes.
struct Wrong {
    Problem problem;
};

double number(const std::string& text, const char* option, Expect expect = Expect::AnyNumber) {
    const auto value = parseNumber(text, option, expect);
    if (!value)
        throw Wrong{value.error()};
    return *value;
}

double positive(const std::string& text, const char* option, Expect expect = Expect::AnyNumber) {
    const double value = number(text, option, expect);
    if (!(value > 0.0))
        throw Wrong{{"not_positive", option, "must be greater than 0.", ""}};
    return value;
}

// "volts=mV" and "time=2" into the mapping.
void readPair(const std::string& text, const char* option, std::map<logs::Role, std::string>& into) {
    const std::size_t equals = text.find('=');
    const auto role = logs::roleFromKey(text.substr(0, equals));
    if (equals == std::string::npos || !role || equals + 1 >= text.size())
        throw Wrong{{"bad_option", option, "“" + text + "” is not understood.",
                     std::string("Write it like ") + (std::string_view(option) == "--unit" ? "volts=mV" : "volts=VBUS or volts=2") +
                         "; known are time, date, volts, amps, watts, temperature, percent, energy and charge."}};
    into[*role] = text.substr(equals + 1);
}

double timeOption(const std::string& text, const char* option) {
    const auto seconds = parseDuration(text, option, 1.0);
    if (!seconds)
        throw Wrong{seconds.error()};
    return *seconds;
}

findings::Setup readSetup(const AnalyseOptions& o) {
    findings::Setup setup;
    label::Label label;
    if (!o.ratedWh.empty())
        label.energy = WattHours(positive(o.ratedWh, "--rated-wh"));
    if (!o.ratedMah.empty())
        label.capacity = AmpHours(positive(o.ratedMah, "--rated-mah", Expect::WholeNumber) / 1000.0);
    if (!o.cellVolts.empty())
        label.cellVolts = Volts(positive(o.cellVolts, "--cell-volts"));
    if (label.capacity && !label.cellVolts && !label.energy)
        throw Wrong{{"missing_option", "--rated-mah", "mAh alone are no energy.", "Add --cell-volts, usually 3.7."}};
    setup.rating = label::ratedEnergy(label);
    setup.cellVolts = label.cellVolts;
    if (!o.meter.empty()) {
        auto meter = path::parseMeter(o.meter, "--meter");
        if (!meter)
            throw Wrong{meter.error()};
        setup.meter = *meter;
    }
    if (!o.pathOhms.empty()) {
        auto ohms = parseMeasured(o.pathOhms, "--path-ohms", "path resistance");
        if (!ohms)
            throw Wrong{ohms.error()};
        if (ohms->value() < 0.0)
            throw Wrong{{"negative_resistance", "--path-ohms", "a resistance cannot be negative.", ""}};
        setup.pathOhms = *ohms;
    }
    if (!o.clockFactor.empty()) {
        auto clock = trace::parseClockFactor(o.clockFactor, "--clock-factor", "clock comparison");
        if (!clock)
            throw Wrong{clock.error()};
        setup.clock = *clock;
    }
    if (!o.maxGap.empty())
        setup.maxGap = timeOption(o.maxGap, "--max-gap");
    if (!o.from.empty())
        setup.from = timeOption(o.from, "--from");
    if (!o.to.empty())
        setup.to = timeOption(o.to, "--to");
    if (setup.from && setup.to && *setup.from >= *setup.to)
        throw Wrong{{"empty_window", "--from, --to", "the window ends before it begins.", ""}};
    return setup;
}

void printText(const findings::Finding& f) {
    std::cout << f.sentence << "\n\n";
    for (const Working& w : f.figures)
        std::cout << findings::asText(w);
    if (!f.phases.empty())
        std::cout << "\nphases:\n";
    for (const trace::Phase& p : f.phases)
        std::cout << "  " << trace::phaseName(p.kind) << " " << showNumber(p.from, 7) << " s to " << showNumber(p.to, 7)
                  << " s, " << showNumber(p.wattHours, 4) << " Wh\n";
    for (const Warning& w : f.warnings)
        std::cerr << "note: " << w.text << "\n";
}

int run(const AnalyseOptions& o) {
    const auto kind = findings::kindFromKey(o.kind);
    if (!kind)
        throw Wrong{{"bad_option", "--kind", "“" + o.kind + "” is unknown.", "Write --kind drain or --kind recharge."}};
    findings::Setup setup = readSetup(o);
    logs::Mapping mapping;
    for (const std::string& c : o.columns)
        readPair(c, "--column", mapping.columns);
    for (const std::string& u : o.units)
        readPair(u, "--unit", mapping.units);

    const auto log = logs::readLogFile(o.log, mapping);
    if (!log)
        return complain(log.error());
    setup.logName = log->name;
    setup.skippedLines = log->skippedLines;
    setup.counterWattHours = log->counterWattHours;
    setup.counterAmpHours = log->counterAmpHours;
    auto finding = findings::analyse(log->trace, *kind, setup);
    if (!finding)
        return complain(finding.error());
    finding->warnings.insert(finding->warnings.begin(), log->warnings.begin(), log->warnings.end());
    if (!o.json) {
        printText(*finding);
        return finish(kDone);
    }
    nlohmann::json out = findings::toContract(*finding);
    nlohmann::json columns = nlohmann::json::array();
    for (const logs::ColumnChoice& c : log->recognition.columns)
        columns.push_back({{"role", logs::roleKey(c.role)}, {"name", c.name}, {"reason", c.reason}});
    out["columns"] = columns;
    return print(out);
}

} // namespace

int analyse(const AnalyseOptions& options) try {
    return run(options);
} catch (const Wrong& wrong) {
    return complain(wrong.problem, kUsage);
}

} // namespace otterstone::cli
