#include "book/store/trace_store.h"

#include <bit>
#include <cmath>
#include <cstring>
#include <utility>

#include "core/quantity/parse.h"
#include "core/quantity/say.h"
#include "core/trace/integral.h"

namespace otterstone::book {

// The format is little-endian float64; every machine Debian 12 builds Qt 6 for in practice is, and this says so.
static_assert(std::endian::native == std::endian::little, "sample blobs are little-endian");

namespace {

QByteArray bytesOf(const double* values, std::size_t count) {
    return {reinterpret_cast<const char*>(values), static_cast<qsizetype>(count * sizeof(double))};
}

// Null where nothing was recorded.
QByteArray blob(const trace::Column& column, std::size_t first, std::size_t count) {
    return column.empty() ? QByteArray() : bytesOf(column.data() + first, count);
}

QByteArray blob(const trace::Readings& column, std::size_t first, std::size_t count) {
    return column.empty() ? QByteArray() : bytesOf(column.part(first, count).data(), count);
}

// Chunks of ours hold kChunkRows; anything far beyond would only fill the memory.
constexpr std::size_t kMostRows = 64 * kChunkRows;
constexpr int kMustBeThere = 4; // time, volts, amps, watts; the columns behind them may lack a sample

trace::Column samplesOf(const QByteArray& bytes, const char* name, bool mayLack) {
    const auto size = static_cast<std::size_t>(bytes.size());
    if (size % sizeof(double) != 0 || size / sizeof(double) > kMostRows)
        throw Damage(name, "this is no row of samples");
    trace::Column values(size / sizeof(double));
    if (size > 0)
        std::memcpy(values.data(), bytes.constData(), size);
    for (const double v : values) {
        if (!(std::fabs(v) <= kLargestFigure) && !(mayLack && std::isnan(v)))
            throw Damage(name, "a sample in it is no number that was ever read");
    }
    return values;
}

void append(trace::Column& column, const trace::Column& values) {
    column.insert(column.end(), values.begin(), values.end());
}
void append(trace::Readings& column, const trace::Column& values) { column.append(values); }

void requireRising(const trace::Column& time, double last) {
    for (const double t : time) {
        if (t < std::exchange(last, t))
            throw Damage("time_s", "time steps back");
    }
}

void widen(Range& range, double value, bool& any) {
    if (std::isnan(value))
        return;
    range.min = any ? std::min(range.min, value) : value;
    range.max = any ? std::max(range.max, value) : value;
    any = true;
}

template<class C>
Range rangeOf(const C& column, std::size_t first, std::size_t count) {
    Range range;
    bool any = false;
    for (std::size_t k = first; k < first + count && !column.empty(); ++k)
        widen(range, column[k], any);
    return range;
}

} // namespace

ChunkSummary summarise(const trace::Trace& t, std::size_t first, std::size_t count) {
    ChunkSummary s;
    s.first = t.time[first];
    s.last = t.time[first + count - 1];
    s.samples = static_cast<long long>(count);
    trace::Totals totals;
    const auto sample = [&](std::size_t k) {
        return trace::Sample{t.time[k], t.hasCurrent() ? t.volts[k] : 0.0, t.hasCurrent() ? t.amps[k] : 0.0,
                             t.power(k)};
    };
    for (std::size_t k = first == 0 ? 0 : first - 1; k + 1 < first + count; ++k)
        addStep(sample(k), sample(k + 1), totals);
    s.wattHours = totals.wattHours;
    s.ampHours = totals.ampHours;
    s.volts = rangeOf(t.volts, first, count);
    s.amps = rangeOf(t.amps, first, count);
    s.temperature = rangeOf(t.temperature, first, count);
    bool any = false;
    for (std::size_t k = first; k < first + count; ++k)
        widen(s.watts, t.power(k), any);
    return s;
}

Id saveTrace(Connection& connection, Id run, const std::string& point, const trace::Trace& t, bool main) {
    // One that was taken away from this point waits for an undo no longer.
    connection.run("DELETE FROM trace WHERE run_id = ? AND point = ? AND removed = 1", run, point);
    const Id id =
        connection
            .run("INSERT INTO trace (run_id, point, samples, volts_step, amps_step, main) VALUES (?,?,?,?,?,?)", run,
                 point, static_cast<long long>(t.size()), t.voltsStep, t.ampsStep, main)
            .lastInsertId();
    int seq = 0;
    for (std::size_t first = 0; first < t.size(); first += kChunkRows, ++seq)
        storeChunk(connection, id, seq, t, first, std::min(kChunkRows, t.size() - first));
    return id;
}

void storeChunk(Connection& connection, Id trace, int seq, const trace::Trace& t, std::size_t first,
                std::size_t count) {
    Answer insert = connection.prepare(
        "INSERT OR REPLACE INTO chunk (trace_id, seq, first_s, last_s, samples, energy_wh, charge_ah,"
        " volts_min, volts_max, amps_min, amps_max, watts_min, watts_max, temperature_min,"
        " temperature_max, time_s, volts_v, amps_a, watts_w, temperature_c, percent)"
        " VALUES (?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?)");
    const ChunkSummary s = summarise(t, first, count);
    insert.bind(trace);
    insert.bind(seq);
    insert.bind(s.first);
    insert.bind(s.last);
    insert.bind(s.samples);
    insert.bind(s.wattHours);
    insert.bind(s.ampHours);
    for (const auto& [range, column] : {std::pair(s.volts, !t.volts.empty()), std::pair(s.amps, !t.amps.empty()),
                                        std::pair(s.watts, true), std::pair(s.temperature, !t.temperature.empty())}) {
        insert.bind(column ? std::optional(range.min) : std::nullopt);
        insert.bind(column ? std::optional(range.max) : std::nullopt);
    }
    trace::Trace::eachColumn(t, [&](const auto& c, const char*) { insert.bind(blob(c, first, count)); });
    insert.execute();
}

std::optional<Id> findTrace(Connection& connection, Id run, const std::string& point) {
    Answer q = point.empty()
                   ? connection.run("SELECT id FROM trace WHERE run_id = ? AND main = 1", run)
                   : connection.run("SELECT id FROM trace WHERE run_id = ? AND point = ? AND main = 0 AND removed = 0",
                                    run, point);
    return q.next() ? std::optional<Id>(q.value(0).whole()) : std::nullopt;
}

trace::Trace loadChunks(Connection& connection, Id trace, int firstSeq, int lastSeq) {
    trace::Trace t;
    Answer query = connection.run("SELECT volts_step, amps_step FROM trace WHERE id = ?", trace);
    if (!query.next())
        return t;
    t.voltsStep = Row(query).number(0);
    t.ampsStep = Row(query).number(1);
    query = connection.run("SELECT time_s, volts_v, amps_a, watts_w, temperature_c, percent FROM chunk"
                           " WHERE trace_id = ? AND seq BETWEEN ? AND ? ORDER BY seq",
                           trace, firstSeq, lastSeq);
    const Row row(query);
    while (query.next()) {
        int at = 0;
        const std::size_t before = t.size();
        std::size_t rows = 0;
        trace::Trace::eachColumn(t, [&](auto& c, const char* name) {
            const int which = at++;
            const bool isTime = which == 0;
            const trace::Column values = samplesOf(row.blob(which), name, which >= kMustBeThere);
            rows = isTime ? values.size() : rows;
            // A column was recorded throughout or not at all.
            const bool recorded = before == 0 ? !values.empty() : !c.empty();
            if (values.size() != (isTime || recorded ? rows : 0))
                throw Damage(name, "it is not as long as the time beside it");
            if (isTime)
                requireRising(values, before == 0 ? -HUGE_VAL : c[before - 1]);
            append(c, values);
        });
        if (t.watts.empty() && (t.volts.empty() || t.amps.empty()) && rows > 0)
            throw Damage("volts_v", "neither volts and amps nor watts are there");
    }
    return t;
}

trace::Trace loadTrace(Connection& connection, Id run, const std::string& point) {
    const auto id = findTrace(connection, run, point);
    return id ? loadChunks(connection, *id, 0, 1 << 30) : trace::Trace{};
}

std::vector<std::string> cutToWhatAllHave(Connection& c) {
    struct Part {
        Id run = kNew, trace = kNew;
        int seq = 0;
        long long bytes = 0; ///< that all have
    };
    constexpr long long kOne = sizeof(double);
    std::vector<Part> parts;
    {
        Answer q = c.run("SELECT run_id, trace_id, seq, chunk.samples, length(time_s), length(volts_v), length(amps_a),"
                         " length(watts_w), length(temperature_c), length(percent) FROM chunk"
                         " JOIN trace ON trace.id = trace_id ORDER BY trace_id, seq");
        while (q.next()) {
            long long least = q.value(4).whole(), most = std::max(least, q.value(3).whole() * kOne);
            for (int column = 5; column < 10; ++column) {
                if (const long long bytes = q.value(column).whole(); bytes > 0) { // none: nothing was recorded
                    least = std::min(least, bytes);
                    most = std::max(most, bytes);
                }
            }
            if (least != most || least % kOne != 0)
                parts.push_back({q.value(0).whole(), q.value(1).whole(), static_cast<int>(q.value(2).whole()),
                                 least / kOne * kOne});
        }
    }
    if (parts.empty())
        return {};
    std::vector<std::string> told;
    Transaction all(c);
    for (const Part& p : parts) {
        if (p.bytes == 0)
            c.run("DELETE FROM chunk WHERE trace_id = ? AND seq = ?", p.trace, p.seq);
        else
            c.run("UPDATE chunk SET samples = ?1 / 8, time_s = substr(time_s, 1, ?1), volts_v = substr(volts_v, 1, ?1),"
                  " amps_a = substr(amps_a, 1, ?1), watts_w = substr(watts_w, 1, ?1),"
                  " temperature_c = substr(temperature_c, 1, ?1), percent = substr(percent, 1, ?1)"
                  " WHERE trace_id = ?2 AND seq = ?3",
                  p.bytes, p.trace, p.seq);
        const trace::Trace t = loadChunks(c, p.trace, p.seq - 1, p.seq);
        const auto count = static_cast<std::size_t>(p.bytes / kOne);
        if (count > 0)
            storeChunk(c, p.trace, p.seq, t, t.size() - count, count);
        c.run("UPDATE trace SET samples = (SELECT coalesce(sum(samples), 0) FROM chunk WHERE trace_id = trace.id)"
              " WHERE id = ?",
              p.trace);
        told.push_back(
            say("run {}: the columns of a trace were not equally long; it was cut to the samples that all of them have",
                std::to_string(p.run)));
    }
    all.commit();
    told.erase(std::unique(told.begin(), told.end()), told.end());
    return told;
}

std::vector<ChunkSummary> loadSummaries(Connection& connection, Id trace) {
    std::vector<ChunkSummary> all;
    Answer q = connection.run(
        "SELECT seq, first_s, last_s, chunk.samples, energy_wh, charge_ah, volts_min, volts_max, amps_min,"
        " amps_max, watts_min, watts_max, temperature_min, temperature_max FROM chunk"
        " WHERE trace_id = ? ORDER BY seq",
        trace);
    const Row row(q);
    while (q.next()) {
        ChunkSummary s;
        s.seq = static_cast<int>(std::clamp(row.whole(0), 0LL, 1LL << 30));
        s.first = row.number(1);
        s.last = row.number(2);
        s.samples = row.whole(3);
        if (s.samples < 0 || s.samples > static_cast<long long>(kMostRows))
            throw Damage("chunk: samples", "no part of a trace is so long");
        s.wattHours = row.number(4);
        s.ampHours = row.number(5);
        int at = 6;
        for (Range* range : {&s.volts, &s.amps, &s.watts, &s.temperature}) {
            range->min = row.maybe(at++).value_or(0.0);
            range->max = row.maybe(at++).value_or(0.0);
        }
        all.push_back(s);
    }
    return all;
}

} // namespace otterstone::book
