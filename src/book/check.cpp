#include "book/check.h"

#include <cmath>

#include "book/book.h"
#include "book/sql.h"

namespace otterstone::book {

namespace {

bool near(double a, double b) { return std::fabs(a - b) <= 1e-9 * std::max({1.0, std::fabs(a), std::fabs(b)}); }

void checkTrace(Connection& c, Id run, CheckReport& report) {
    const trace::Trace t = loadTrace(c, run);
    const std::vector<ChunkSummary> chunks = loadSummaries(c, run);
    const auto fault = [&](const std::string& what) { report.faults.push_back("run " + std::to_string(run) + ": " + what); };
    QSqlQuery q = c.run("SELECT samples FROM trace WHERE run_id = ?", run);
    if (!q.next())
        return fault("has no trace");
    if (q.value(0).toULongLong() != t.size())
        return fault("says " + q.value(0).toString().toStdString() + " samples, holds " + std::to_string(t.size()));
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
        q = c.run("SELECT id FROM run");
        while (q.next()) {
            ++report.runs;
            checkTrace(c, q.value(0).toLongLong(), report);
        }
        return report;
    });
}

} // namespace otterstone::book
