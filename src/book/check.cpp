#include "book/check.h"

#include <cmath>

#include "book/book.h"
#include "book/sql.h"

namespace otterstone::book {

namespace {

bool near(double a, double b) { return std::fabs(a - b) <= 1e-9 * std::max({1.0, std::fabs(a), std::fabs(b)}); }

void checkTrace(Connection& c, Id run, Id trace, unsigned long long samples, CheckReport& report) {
    const trace::Trace t = loadChunks(c, trace, 0, 1 << 30);
    const std::vector<ChunkSummary> chunks = loadSummaries(c, trace);
    const auto fault = [&](const std::string& what) { report.faults.push_back("run " + std::to_string(run) + ": " + what); };
    if (samples != t.size())
        return fault("says " + std::to_string(samples) + " samples, holds " + std::to_string(t.size()));
    bool equalColumns = true;
    trace::Trace::eachColumn(t, [&](const auto& col, const char*) { equalColumns &= col.empty() || col.size() == t.size(); });
    if (!equalColumns)
        return fault("has columns of unequal length");
    std::size_t first = 0;
    for (std::size_t k = 0; k < chunks.size(); ++k) {
        const ChunkSummary& s = chunks[k];
        const auto count = static_cast<std::size_t>(s.samples);
        if (s.seq != static_cast<int>(k) || count == 0 || first + count > t.size())
            return fault("chunk " + std::to_string(k) + " is missing or of the wrong length");
        const ChunkSummary anew = summarise(t, first, count);
        if (!near(anew.wattHours, s.wattHours) || !near(anew.ampHours, s.ampHours) || anew.first != s.first || anew.last != s.last ||
            !near(anew.volts.max, s.volts.max) || !near(anew.watts.min, s.watts.min))
            fault("the summary of chunk " + std::to_string(k) + " does not fit its samples");
        first += count;
    }
    report.samples += t.size();
}

} // namespace

Result<CheckReport> checkBook(const QString& path) {
    if (auto header = inspectHeader(path); !header)
        return tl::unexpected(header.error());
    return guarded(path, [&] {
        CheckReport report;
        Connection c(path, Connection::Mode::ReadOnly);
        QSqlQuery q = c.run("PRAGMA integrity_check");
        while (q.next()) {
            if (q.value(0).toString() != QStringLiteral("ok"))
                report.faults.push_back(text(q.value(0)));
        }
        q = c.run("PRAGMA foreign_key_check");
        while (q.next())
            report.faults.push_back("table " + text(q.value(0)) + ", row " + text(q.value(1)) + " refers to something that is not there");
        q = c.run("SELECT count(*) FROM bank WHERE removed = 0");
        q.next();
        report.banks = q.value(0).toULongLong();
        q = c.run("SELECT id, json_extract(details, '$.counters_only') IS NOT NULL OR (json_extract(details, '$.sheet') IS NOT NULL AND json_extract(details, '$.recipe') IS NULL) FROM run");
        while (q.next()) {
            ++report.runs;
            const Id run = q.value(0).toLongLong();
            QSqlQuery traces = c.run("SELECT id, samples, main FROM trace WHERE run_id = ?", run);
            bool main = false;
            while (traces.next()) {
                main = main || traces.value(2).toBool();
                checkTrace(c, run, traces.value(0).toLongLong(), traces.value(1).toULongLong(), report);
            }
            if (!main && !q.value(1).toBool())
                report.faults.push_back("run " + std::to_string(run) + ": has no trace");
        }
        return report;
    });
}

} // namespace otterstone::book
