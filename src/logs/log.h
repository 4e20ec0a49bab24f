// A log read as a whole: the trace, how it was recognised, and what was passed over.
#pragma once

#include <atomic>
#include <optional>
#include <string>
#include <vector>

#include "core/trace/clock.h"
#include "core/trace/trace.h"
#include "logs/recogniser.h"

namespace otterstone::logs {

/// Shared with another thread: how far the reading is, and whether it shall stop.
struct Progress {
    std::atomic<double> done{0.0};
    std::atomic<bool> cancel{false};
};

struct SkippedLine {
    std::size_t line = 0; ///< counted from 1
    std::string reason;
};

struct Log {
    trace::Trace trace;
    Recognition recognition;
    std::string name;
    std::size_t skippedLines = 0;
    std::vector<SkippedLine> firstSkipped;  ///< at most ten
    std::optional<double> startedAt;        ///< seconds since 1970 of the first row, when the log has dates
    std::optional<double> counterWattHours; ///< C5
    std::optional<double> counterAmpHours;
    std::vector<Warning> warnings;
};

/// Reads a log to its end. All problems of openFile and recognise, and: no_rows, time_stands_still,
/// time_runs_backwards, cancelled. Nothing is half-read: a problem or a whole log.
[[nodiscard]] Result<Log> readLog(const OpenedLog& opened, const Mapping& hand = {}, Progress* progress = nullptr);
[[nodiscard]] Result<Log> readLogFile(const std::string& path, const Mapping& hand = {}, Progress* progress = nullptr);

} // namespace otterstone::logs
