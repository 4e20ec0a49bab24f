// Samples in chunks: written once, read by chunk summaries or as a whole.
#pragma once

#include <vector>

#include "book/names.h"
#include "book/store/sql.h"
#include "core/records/run.h"
#include "core/trace/trace.h"

namespace otterstone::book {

inline constexpr std::size_t kChunkRows = 4096;

struct Range {
    double min = 0.0;
    double max = 0.0;
};

/// One chunk's summary: enough to draw a curve of any length without its samples.
struct ChunkSummary {
    int seq = 0;
    double first = 0.0;
    double last = 0.0;
    long long samples = 0;
    double wattHours =
        0.0; ///< from the last sample before this chunk to its own last: the sums over all chunks are the totals
    double ampHours = 0.0;
    Range volts, amps, watts, temperature;
};

/// Internal to the folder and its tests; Book wraps them. All throw SqlError.
Id saveTrace(Connection& connection, Id run, const std::string& point, const trace::Trace& trace, bool main = true);
/// Rows [first, first + count) as chunk `seq`, in the place of what was there.
void storeChunk(Connection& connection, Id trace, int seq, const trace::Trace& t, std::size_t first, std::size_t count);
/// The trace's row: of the main one, or of the one read at a point (AlsoTrace::key()); nothing when it is not there.
[[nodiscard]] std::optional<Id> findTrace(Connection& connection, Id run, const std::string& point = {});
[[nodiscard]] trace::Trace loadTrace(Connection& connection, Id run, const std::string& point = {});
[[nodiscard]] trace::Trace loadChunks(Connection& connection, Id trace, int firstSeq, int lastSeq);
/// Columns of one part of a trace that are not equally long are cut to what all of them have, its summary made anew.
/// One sentence for each run of which something was cut; none as a rule, and then nothing was read but lengths.
[[nodiscard]] std::vector<std::string> cutToWhatAllHave(Connection& connection);

[[nodiscard]] std::vector<ChunkSummary> loadSummaries(Connection& connection, Id trace);
/// The summary of rows [first, first + count) of a trace.
[[nodiscard]] ChunkSummary summarise(const trace::Trace& trace, std::size_t first, std::size_t count);

} // namespace otterstone::book
