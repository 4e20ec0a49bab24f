#include <iostream>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/marks.h"
#include "cli/options.h"
#include "core/kinds/traced/hand.h"
#include "core/kinds/traced/json.h"
#include "core/trace/clock.h"
#include "logs/log.h"
#include "terminal/busy.h"

namespace otterstone::cli {

namespace {

// "volts=mV" and "time=2" into the mapping.
void readPair(const std::string& text, const char* option, std::map<logs::Role, std::string>& into) {
    const std::size_t equals = text.find('=');
    const auto role = logs::roleFromKey(text.substr(0, equals));
    if (equals == std::string::npos || !role || equals + 1 >= text.size())
        throw Wrong{{"bad_option", option, "“" + text + "” is not understood.",
                     std::string("Write it like ") +
                         (std::string_view(option) == "--unit" ? "volts=mV" : "volts=VBUS or volts=2") +
                         "; known are time, date, volts, amps, watts, temperature, percent, energy and charge."}};
    into[*role] = text.substr(equals + 1);
}

setup::Setup readSetup(const AnalyseOptions& o) {
    setup::Setup setup;
    label::Label label;
    if (!o.ratedWh.empty())
        label.energy = WattHours(positive(o.ratedWh, "--rated-wh"));
    if (!o.ratedMah.empty())
        label.capacity = AmpHours(positive(o.ratedMah, "--rated-mah", Expect::WholeNumber) / 1000.0);
    if (!o.cellVolts.empty())
        label.cellVolts = Volts(positive(o.cellVolts, "--cell-volts"));
    if (label.capacity && !label.cellVolts && !label.energy)
        throw Wrong{{"missing_option", "--rated-mah", "mAh alone are no energy.", "Add --cell-volts, usually 3.7."}};
    for (const std::string& school : o.schools) {
        const std::size_t equals = school.find('=');
        if (equals == std::string::npos ||
            !setAnswer(setup.schools, school.substr(0, equals), school.substr(equals + 1))) {
            std::string known;
            for (const setup::Question& q : setup::questions())
                known += (known.empty() ? "" : ", ") + q.key;
            throw Wrong{{"bad_option", "--school", "“" + school + "” is not understood.",
                         "Write QUESTION=ANSWER; questions are " + known + "."}};
        }
    }
    setRating(setup, label);
    setup.cellVolts = label.cellVolts;
    for (const std::string& mark : o.marks)
        setup.marks.push_back(readMark(mark));
    if (!o.began.empty())
        setup.ends.began = orWrong(records::parseBegan(o.began, "--began"));
    if (!o.ended.empty())
        orWrong(records::parseEnded(o.ended, "--ended", setup.ends));
    if (!o.ambient.empty())
        setup.ambient = orWrong(kinds::parseTemperature(o.ambient, "--ambient"));
    if (!o.point.empty()) {
        const auto point = path::pointFromName(o.point);
        if (!point)
            throw Wrong{{"bad_option", "--point", "“" + o.point + "” is no point of a path.",
                         "Known are wall, charger, meter, bank in, bank out and load."}};
        setup.point = *point;
    }
    if (!o.meter.empty()) {
        auto meter = path::parseMeter(o.meter, "--meter");
        if (!meter)
            throw Wrong{meter.error()};
        setup.meter = *meter;
    }
    if (!o.pathOhms.empty()) {
        auto ohms = parseMeasured(o.pathOhms, "--path-ohms", ErrorSource::ofBench("path", "resistance"));
        if (!ohms)
            throw Wrong{ohms.error()};
        if (ohms->value() < 0.0)
            throw Wrong{{"negative_resistance", "--path-ohms", "a resistance cannot be negative.", ""}};
        setup.pathOhms = *ohms;
    }
    if (!o.clockFactor.empty()) {
        auto clock = trace::parseClockFactor(o.clockFactor, "--clock-factor",
                                             ErrorSource::ofInstrument(setup.meter.name, "clock comparison"));
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

void printText(const kinds::Finding& f) {
    std::cout << f.sentence << "\n\n";
    for (const Working& w : f.figures)
        std::cout << kinds::asText(w);
    if (!f.phases.empty())
        std::cout << "\nphases:\n";
    for (const trace::Phase& p : f.phases)
        std::cout << "  " << trace::phaseName(p.kind) << " " << showNumber(p.from, 7) << " s to " << showNumber(p.to, 7)
                  << " s, " << showNumber(p.wattHours, 4) << " Wh\n";
    for (const kinds::Question& q : f.ends.questions) {
        std::cout << "\n" << q.sentence << "\n";
        for (const kinds::Answer& a : q.answers)
            std::cout << "  --" << q.key << " \"" << a.key << "\"  " << a.text << "\n";
    }
    for (const Warning& w : f.warnings)
        std::cerr << "note: " << w.text << "\n";
}

// The file holds rows as a person wrote them: time, V, A, W, %, °C, note, divided by tabs or semicolons.
int runByHand(const AnalyseOptions& o, records::Kind kind, setup::Setup setup) {
    if (o.hand != "joined" && o.hand != "held")
        throw Wrong{{"bad_option", "--hand", "“" + o.hand + "” is unknown.", "Write --hand joined or --hand held."}};
    const auto text = contentsOf(o.log);
    if (!text)
        return complain({"no_log", o.log, "there is no such file, or it cannot be read.", ""});
    const auto between = o.hand == "held" ? trace::Between::Held : trace::Between::Joined;
    auto read = kinds::readByHand(kinds::rowsFromText(*text), between);
    setup.hand = between;
    setup.logName = o.log;
    setup.marks.insert(setup.marks.end(), read.marks.begin(), read.marks.end());
    for (const kinds::HandRemark& r : read.remarks)
        std::cerr << "note: " << r.problem.sentence() << "\n";
    const auto finding = kinds::analyse(read.trace, kind, setup);
    if (!finding)
        return complain(finding.error());
    if (o.json)
        return print(kinds::toContract(*finding));
    printText(*finding);
    return finish(kDone);
}

int run(const AnalyseOptions& o) {
    const auto kind = records::kindFromKey(o.kind);
    if (!kind)
        throw Wrong{{"bad_option", "--kind", "“" + o.kind + "” is unknown.", "Write --kind drain or --kind recharge."}};
    setup::Setup setup = readSetup(o);
    logs::Mapping mapping;
    for (const std::string& c : o.columns)
        readPair(c, "--column", mapping.columns);
    for (const std::string& u : o.units)
        readPair(u, "--unit", mapping.units);

    if (!o.hand.empty())
        return runByHand(o, *kind, std::move(setup));
    const auto log = terminal::busyWith(terminal::kReadingLog, [&] { return logs::readLogFile(o.log, mapping); });
    if (!log)
        return complain(log.error());
    // Further traces of the run: "bank out=LOG", read by --also-meter.
    std::vector<logs::Log> further;
    further.reserve(o.also.size());
    for (const std::string& text : o.also) {
        const std::size_t equals = text.find('=');
        const auto point = path::pointFromName(text.substr(0, equals));
        if (equals == std::string::npos || !point)
            throw Wrong{{"bad_option", "--also", "“" + text + "” is not understood.",
                         "Write POINT=LOG, as in \"bank out=near.csv\"."}};
        auto read =
            terminal::busyWith(terminal::kReadingLog, [&] { return logs::readLogFile(text.substr(equals + 1), {}); });
        if (!read)
            return complain(read.error());
        further.push_back(std::move(*read));
        setup::Reading reading;
        reading.point = *point;
        reading.trace = &further.back().trace;
        if (!o.alsoMeter.empty())
            reading.meter = orWrong(path::parseMeter(o.alsoMeter, "--also-meter"));
        reading.meter.name = "second meter";
        setup.also.push_back(std::move(reading));
    }
    setup.logName = log->name;
    setup.skippedLines = log->skippedLines;
    setup.counterWattHours = log->counterWattHours;
    setup.counterAmpHours = log->counterAmpHours;
    auto finding = kinds::analyse(log->trace, *kind, setup);
    if (!finding)
        return complain(finding.error());
    finding->warnings.insert(finding->warnings.begin(), log->warnings.begin(), log->warnings.end());
    if (!o.json) {
        printText(*finding);
        return finish(kDone);
    }
    nlohmann::json out = kinds::toContract(*finding);
    nlohmann::json columns = nlohmann::json::array();
    for (const logs::ColumnChoice& c : log->recognition.columns)
        columns.push_back({{"role", logs::roleKey(c.role)}, {"name", c.name}, {"reason", c.reason}});
    out["columns"] = columns;
    return print(out);
}

} // namespace

int analyse(const AnalyseOptions& options) try { return run(options); } catch (const Wrong& wrong) {
    return complain(wrong.problem, kUsage);
}

} // namespace otterstone::cli
