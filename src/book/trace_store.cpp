#include "book/trace_store.h"

#include <bit>
#include <cmath>
#include <cstring>

#include "core/trace/integral.h"

namespace otterstone::book {

// The format is little-endian float64; every machine Debian 12 builds Qt 6 for in practice is, and this says so.
static_assert(std::endian::native == std::endian::little, "sample blobs are little-endian");

namespace {

QByteArray bytesOf(const double* values, std::size_t count) {
    return {reinterpret_cast<const char*>(values), static_cast<qsizetype>(count * sizeof(double))};
}

QVariant blob(const trace::Column& column, std::size_t first, std::size_t count) {
    return column.empty() ? QVariant() : bytesOf(column.data() + first, count);
}

QVariant blob(const trace::Readings& column, std::size_t first, std::size_t count) {
    return column.empty() ? QVariant() : bytesOf(column.part(first, count).data(), count);
}

void append(trace::Column& column, const QByteArray& bytes) {
    const std::size_t count = static_cast<std::size_t>(bytes.size()) / sizeof(double);
    const std::size_t at = column.size();
    column.resize(at + count);
    if (count > 0)
        std::memcpy(column.data() + at, bytes.constData(), count * sizeof(double));
}

void append(trace::Readings& column, const QByteArray& bytes) {
    trace::Column values;
    append(values, bytes);
    column.append(values);
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
        return trace::Sample{t.time[k], t.hasCurrent() ? t.volts[k] : 0.0, t.hasCurrent() ? t.amps[k] : 0.0, t.power(k)};
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
    const Id id = connection
                      .run("INSERT INTO trace (run_id, point, samples, volts_step, amps_step, main) VALUES (?,?,?,?,?,?)", run, point,
                           static_cast<long long>(t.size()), t.voltsStep, t.ampsStep, main)
                      .lastInsertId()
                      .toLongLong();
    int seq = 0;
    for (std::size_t first = 0; first < t.size(); first += kChunkRows, ++seq)
        storeChunk(connection, id, seq, t, first, std::min(kChunkRows, t.size() - first));
    return id;
}

void storeChunk(Connection& connection, Id trace, int seq, const trace::Trace& t, std::size_t first, std::size_t count) {
    QSqlQuery insert = connection.prepare("INSERT OR REPLACE INTO chunk (trace_id, seq, first_s, last_s, samples, energy_wh, charge_ah,"
                                          " volts_min, volts_max, amps_min, amps_max, watts_min, watts_max, temperature_min,"
                                          " temperature_max, time_s, volts_v, amps_a, watts_w, temperature_c, percent)"
                                          " VALUES (?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?)");
    const ChunkSummary s = summarise(t, first, count);
    int at = 0;
    const auto bind = [&](const QVariant& v) { insert.bindValue(at++, v); };
    bind(static_cast<qlonglong>(trace));
    bind(seq);
    bind(s.first);
    bind(s.last);
    bind(static_cast<qlonglong>(s.samples));
    bind(s.wattHours);
    bind(s.ampHours);
    for (const auto& [range, column] : {std::pair(s.volts, !t.volts.empty()), std::pair(s.amps, !t.amps.empty()), std::pair(s.watts, true),
                                        std::pair(s.temperature, !t.temperature.empty())}) {
        bind(column ? QVariant(range.min) : QVariant());
        bind(column ? QVariant(range.max) : QVariant());
    }
    trace::Trace::eachColumn(t, [&](const auto& c, const char*) { bind(blob(c, first, count)); });
    Connection::execute(insert);
}

std::optional<Id> findTrace(Connection& connection, Id run, const std::string& point) {
    QSqlQuery q = point.empty() ? connection.run("SELECT id FROM trace WHERE run_id = ? AND main = 1", run)
                                : connection.run("SELECT id FROM trace WHERE run_id = ? AND point = ? AND main = 0 AND removed = 0", run, point);
    return q.next() ? std::optional<Id>(q.value(0).toLongLong()) : std::nullopt;
}

trace::Trace loadChunks(Connection& connection, Id trace, int firstSeq, int lastSeq) {
    trace::Trace t;
    QSqlQuery query = connection.run("SELECT volts_step, amps_step FROM trace WHERE id = ?", trace);
    if (!query.next())
        return t;
    t.voltsStep = query.value(0).toDouble();
    t.ampsStep = query.value(1).toDouble();
    query = connection.run("SELECT time_s, volts_v, amps_a, watts_w, temperature_c, percent FROM chunk"
                           " WHERE trace_id = ? AND seq BETWEEN ? AND ? ORDER BY seq",
                           trace, firstSeq, lastSeq);
    while (query.next()) {
        int at = 0;
        trace::Trace::eachColumn(t, [&](auto& c, const char*) { append(c, query.value(at++).toByteArray()); });
    }
    return t;
}

trace::Trace loadTrace(Connection& connection, Id run, const std::string& point) {
    const auto id = findTrace(connection, run, point);
    return id ? loadChunks(connection, *id, 0, 1 << 30) : trace::Trace{};
}

std::vector<ChunkSummary> loadSummaries(Connection& connection, Id trace) {
    std::vector<ChunkSummary> all;
    QSqlQuery q = connection.run("SELECT seq, first_s, last_s, chunk.samples, energy_wh, charge_ah, volts_min, volts_max, amps_min,"
                                 " amps_max, watts_min, watts_max, temperature_min, temperature_max FROM chunk"
                                 " WHERE trace_id = ? ORDER BY seq",
                                 trace);
    while (q.next()) {
        ChunkSummary s;
        s.seq = q.value(0).toInt();
        s.first = q.value(1).toDouble();
        s.last = q.value(2).toDouble();
        s.samples = q.value(3).toLongLong();
        s.wattHours = q.value(4).toDouble();
        s.ampHours = q.value(5).toDouble();
        int at = 6;
        for (Range* range : {&s.volts, &s.amps, &s.watts, &s.temperature}) {
            range->min = q.value(at++).toDouble();
            range->max = q.value(at++).toDouble();
        }
        all.push_back(s);
    }
    return all;
}

} // namespace otterstone::book
