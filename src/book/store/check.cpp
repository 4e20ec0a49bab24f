#include "book/store/check.h"

#include "book/attached/attachments.h"

#include <cmath>

#include "book/store/book.h"
#include "book/store/choices.h"
#include "book/store/plan_store.h"
#include "book/store/record_store.h"
#include "book/store/schema.h"

#include "core/quantity/say.h"

namespace otterstone::book {

namespace {

bool near(double a, double b) { return std::fabs(a - b) <= 1e-9 * std::max({1.0, std::fabs(a), std::fabs(b)}); }

void checkTrace(Connection& c, Id run, Id trace, unsigned long long samples, CheckReport& report) {
    const trace::Trace t = loadChunks(c, trace, 0, 1 << 30);
    const std::vector<ChunkSummary> chunks = loadSummaries(c, trace);
    const auto fault = [&](const std::string& what) {
        report.faults.push_back(say("run {}: {}", std::to_string(run), what));
    };
    if (samples != t.size())
        return fault(say("says {} samples, holds {}", std::to_string(samples), std::to_string(t.size())));
    std::size_t first = 0;
    for (std::size_t k = 0; k < chunks.size(); ++k) {
        const ChunkSummary& s = chunks[k];
        const auto count = static_cast<std::size_t>(s.samples);
        if (s.seq != static_cast<int>(k) || count == 0 || first + count > t.size())
            return fault(say("chunk {} is missing or of the wrong length", std::to_string(k)));
        const ChunkSummary anew = summarise(t, first, count);
        if (!near(anew.wattHours, s.wattHours) || !near(anew.ampHours, s.ampHours) || anew.first != s.first ||
            anew.last != s.last || !near(anew.volts.max, s.volts.max) || !near(anew.watts.min, s.watts.min))
            fault(say("the summary of chunk {} does not fit its samples", std::to_string(k)));
        first += count;
    }
    report.samples += t.size();
}

void checkRun(Connection& c, Id id, CheckReport& report) {
    std::optional<Run> run;
    try {
        run = loadRun(c, id);
    } catch (const Damage&) {
        // told with the other damaged records
    }
    try {
        Answer q = c.run("SELECT id, samples, main FROM trace WHERE run_id = ?", id);
        const Row row(q);
        bool main = false;
        while (q.next()) {
            main = row.flag(2) || main;
            checkTrace(c, id, row.whole(0), static_cast<unsigned long long>(row.whole(1)), report);
        }
        if (run && run->hasTrace() && !main)
            report.faults.push_back(say("run {}: has no trace", std::to_string(id)));
    } catch (const Damage& damage) {
        report.faults.push_back(say("run {}: {}", std::to_string(id), damage.what()));
    }
}

} // namespace

std::vector<std::string> damagedRecords(Connection& c) {
    (void)loadGear(c);
    (void)loadSchools(c);
    (void)loadPlanned(c);
    for (const ChoiceKind& kind : choiceKinds())
        (void)loadReadable(c, kind);
    (void)loadPublications(c, "comparison");
    for (const Bank& bank : loadBanks(c)) {
        (void)loadRuns(c, bank.id);
        (void)loadAttachments(c, bank.id);
        (void)loadPublications(c, bank.name);
    }
    return {c.passedOver().begin(), c.passedOver().end()};
}

Result<CheckReport> checkBook(const QString& path) {
    if (auto header = inspectHeader(path); !header)
        return tl::unexpected(header.error());
    return guarded(path, [&] {
        CheckReport report;
        Connection c(path, Connection::Mode::ReadOnly);
        Answer q = c.run("PRAGMA user_version");
        const int version = q.next() ? static_cast<int>(q.value(0).whole()) : 0;
        q.finish();
        if (const auto foreign = foreignIn(c, version)) { // nothing else is touched then
            report.faults.push_back(*foreign);
            return report;
        }
        q = c.run("PRAGMA integrity_check");
        while (q.next()) {
            if (q.value(0).text() != "ok")
                report.faults.push_back(q.value(0).text());
        }
        if (!report.faults.empty())
            return report; // of pages that are no pages the records say nothing
        q = c.run("PRAGMA foreign_key_check");
        while (q.next())
            report.faults.push_back(
                say("table {}, row {} refers to something that is not there", q.value(0).text(), q.value(1).text()));
        if (version < currentVersion()) {
            report.faults.push_back(
                say("it is of an older version; open it once, so that it is brought up to date, and check it again"));
            return report;
        }
        q = c.run("SELECT count(*) FROM bank WHERE removed = 0");
        q.next();
        report.banks = static_cast<std::size_t>(q.value(0).whole());
        const auto damaged = damagedRecords(c);
        report.faults.insert(report.faults.end(), damaged.begin(), damaged.end());
        q = c.run("SELECT id FROM run");
        while (q.next()) {
            ++report.runs;
            checkRun(c, q.value(0).whole(), report);
        }
        return report;
    });
}

} // namespace otterstone::book
