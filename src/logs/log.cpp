#include "logs/log.h"

#include <algorithm>
#include <cmath>

#include "core/quantity/format.h"
#include "core/quantity/say.h"
#include "core/trace/counters.h"
#include "logs/rows.h"

namespace otterstone::logs {

namespace {

// The file's line, counted from 1, that gave a row.
std::size_t lineOf(const Rows& rows, const Recognition& recognition, std::size_t row) {
    std::size_t line = row;
    for (const std::uint32_t without : rows.lineless) {
        if (without > line)
            break;
        ++line;
    }
    return recognition.dialect.firstDataLine + line + 1;
}

// Volts and amps where only one of them and the watts were written.
void completeFromWatts(trace::Trace& t) {
    trace::Column& watts = t.watts;
    if (watts.empty() || t.volts.empty() == t.amps.empty())
        return;
    const bool amperesMissing = t.amps.empty();
    const trace::Readings& known = amperesMissing ? t.volts : t.amps;
    trace::Column missing(known.size());
    double last = 0.0;
    for (std::size_t k = 0; k < known.size(); ++k) {
        // With nothing flowing the quotient says nothing: no current, or the volts of a moment ago.
        const bool tells = std::fabs(known[k]) > 1e-9;
        missing[k] = tells ? watts[k] / known[k] : amperesMissing ? 0.0 : last;
        last = missing[k];
    }
    watts = {};
    (amperesMissing ? t.amps : t.volts) = trace::Readings(std::move(missing));
}

std::string clockWarning(const std::vector<trace::ClockRepair>& repairs, const Rows& rows, const Recognition& r) {
    std::string lines;
    for (std::size_t k = 0; k < repairs.size(); ++k)
        lines += (k > 0 ? ", " : "") + std::to_string(lineOf(rows, r, repairs[k].row));
    return say("The time steps back in line {}; it was mended from the rhythm of the rows around.", lines);
}

} // namespace

Result<Log> readLog(const OpenedLog& opened, const Mapping& hand, Progress* progress) {
    auto recognition = recognise(opened, hand);
    if (!recognition)
        return tl::unexpected(recognition.error());
    Log log;
    log.name = opened.name;
    log.recognition = std::move(*recognition);
    log.warnings = log.recognition.warnings;
    Rows rows = readRows(opened, log.recognition, progress);
    if (progress && progress->cancel.load())
        return problem("cancelled", log.name, "reading was stopped.");
    if (rows.endlessLine)
        return problem(
            "endless_line", log.name, say("it has a line of more than {} MB.", std::to_string(kLongestLine >> 20)),
            "Look whether the file is damaged: the disk may have been full, or the card pulled, while it was written. What stands before that line can be cut out and read.");
    log.skippedLines = rows.skipped;
    log.firstSkipped = rows.firstSkipped;
    if (rows.size() < 2) {
        std::string why = say("fewer than two lines hold a time and readings.");
        if (!rows.firstSkipped.empty())
            why = say("{} Line {}: {}.", why, std::to_string(rows.firstSkipped.front().line),
                      rows.firstSkipped.front().reason);
        return problem("no_rows", log.name, why, "Check that the right columns were chosen.");
    }

    trace::Column& time = rows.columns[SlotTime];
    if (isAbsolute(log.recognition.timeForm)) {
        double first = time.front();
        if (log.recognition.timeForm == TimeForm::SpreadsheetSerial)
            log.startedAt = first - 25569.0 * 86400.0; // days from 30 December 1899 to 1970
        else
            log.startedAt = first;
        for (double& t : time)
            t -= first;
    }
    const auto repairs = rows.stepsBack ? trace::repairClock(time) : Result<std::vector<trace::ClockRepair>>{};
    if (!repairs) {
        const std::size_t row = std::stoul(repairs.error().place);
        return problem(repairs.error().code,
                       say("{}, line {}", log.name, std::to_string(lineOf(rows, log.recognition, row))),
                       repairs.error().text, repairs.error().mend);
    }
    if (!repairs->empty())
        log.warnings.push_back({"clock_repaired", clockWarning(*repairs, rows, log.recognition)});
    if (time.back() <= time.front())
        return problem("time_stands_still", log.name, "all rows carry the same time.",
                       "Choose the column that counts up, or its unit.");

    log.trace.time = std::move(time);
    log.trace.volts = rows.take(SlotVolts);
    log.trace.amps = rows.take(SlotAmps);
    log.trace.watts = std::move(rows.columns[SlotWatts]);
    log.trace.temperature = rows.take(SlotTemperature);
    log.trace.percent = rows.take(SlotPercent);
    completeFromWatts(log.trace);
    // A reading that stands for hours shows its last digit only in how it is written.
    const auto written = [&](Role role) {
        const ColumnChoice* c = log.recognition.column(role);
        return c && c->writtenDecimals >= 0 ? std::pow(10.0, -c->writtenDecimals) * c->factor : 0.0;
    };
    log.trace.voltsStep = trace::resolutionOf(log.trace.volts, written(Role::Volts));
    log.trace.ampsStep = trace::resolutionOf(log.trace.amps, written(Role::Amps));
    log.counterWattHours = trace::counted(rows.take(SlotEnergy));
    log.counterAmpHours = trace::counted(rows.take(SlotCharge));
    if (log.skippedLines > 0) {
        std::string text = say("{}{} skipped:", std::to_string(log.skippedLines),
                               (log.skippedLines == 1 ? say(" line was") : say(" lines were")));
        for (const SkippedLine& s : log.firstSkipped)
            text = say("{} line {} ({}),", text, std::to_string(s.line), s.reason);
        text.back() = '.';
        if (log.skippedLines > log.firstSkipped.size())
            text = say("{} And so on.", text);
        log.warnings.push_back({"lines_skipped", text});
    }
    return log;
}

Result<Log> readLogFile(const std::string& path, const Mapping& hand, Progress* progress) {
    const auto opened = openFile(path);
    if (!opened)
        return tl::unexpected(opened.error());
    return readLog(*opened, hand, progress);
}

} // namespace otterstone::logs
