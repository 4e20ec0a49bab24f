#include "book/store/book.h"
#include "book/store/check.h"
#include "book/store/finding_store.h"
#include "book/store/plan_store.h"
#include "book/store/record_store.h"
#include "book/store/schema.h"
#include "book/store/sql.h"
#include "core/quantity/say.h"

namespace otterstone::book {

namespace {

Problem readOnlyProblem(const QString& path) {
    return {"book_read_only", path.toStdString(), say("the book is open for reading only."),
            say("Copy it to a folder you may write to, or make the file writable.")};
}

} // namespace

template<class F>
auto Book::change(F f) {
    using Value = decltype(f(*connection_));
    if (readOnly_)
        return Result<Value>(tl::unexpected(readOnlyProblem(path_)));
    auto result = guarded(path_, [&] {
        Transaction all(*connection_);
        if constexpr (std::is_void_v<Value>) {
            f(*connection_);
            all.commit();
        } else {
            Value value = f(*connection_);
            all.commit();
            return value;
        }
    });
    if (result)
        Q_EMIT changed();
    return result;
}

template<class F>
auto Book::query(F f) const {
    // A failed read of a book that opened whole means a vanished disk: views show nothing rather than stop the program.
    return guarded(path_, [&] { return f(*connection_); }).value_or(decltype(f(*connection_)){});
}

std::vector<std::string> Book::unreadable() const {
    return query([](Connection& c) { return damagedRecords(c); });
}
std::vector<Bank> Book::banks() const {
    return query([](Connection& c) { return loadBanks(c); });
}
std::optional<Bank> Book::bank(Id id) const {
    return query([&](Connection& c) { return loadBank(c, id); });
}
std::vector<Gear> Book::gear() const {
    return query([](Connection& c) { return loadGear(c); });
}
std::map<Id, int> Book::gearUses() const {
    return query([](Connection& c) { return loadGearUses(c); });
}
std::vector<Run> Book::runs(Id bank) const {
    return query([&](Connection& c) { return loadRuns(c, bank); });
}
std::vector<Run> Book::openRuns() const {
    return query([](Connection& c) { return loadOpenRuns(c); });
}
std::optional<Run> Book::run(Id id) const {
    return query([&](Connection& c) { return loadRun(c, id); });
}
std::vector<ChunkSummary> Book::summaries(Id run, const std::string& point) const {
    return query([&](Connection& c) {
        const auto id = findTrace(c, run, point);
        return id ? loadSummaries(c, *id) : std::vector<ChunkSummary>{};
    });
}
trace::Trace Book::trace(Id run, const std::string& point) const {
    return query([&](Connection& c) { return loadTrace(c, run, point); });
}
trace::Trace Book::chunks(Id run, int firstSeq, int lastSeq, const std::string& point) const {
    return query([&](Connection& c) {
        const auto id = findTrace(c, run, point);
        return id ? loadChunks(c, *id, firstSeq, lastSeq) : trace::Trace{};
    });
}
setup::Schools Book::schools() const {
    return query([](Connection& c) { return loadSchools(c); });
}
setup::Setup Book::setupFor(const Bank& bank, const Run& run) const {
    return query([&](Connection& c) { return setupOf(bank, run, loadBench(c)); });
}
setup::Facts Book::factsFor(const Bank& bank, const Run& run) const {
    return query([&](Connection& c) {
        const Bench bench = loadBench(c);
        return FindingsOfBank(c, bank, bench).facts(run);
    });
}

std::optional<logs::Mapping> Book::mapping(const std::string& header) const {
    return query([&](Connection& c) { return loadMapping(c, header); });
}

std::optional<kinds::Finding> Book::cachedFinding(Id id) const {
    return query([&](Connection& c) -> std::optional<kinds::Finding> {
        const auto r = loadRun(c, id);
        const auto b = r ? loadBank(c, r->bank) : std::nullopt;
        if (!b)
            return std::nullopt;
        const Bench bench = loadBench(c);
        return FindingsOfBank(c, *b, bench).cached(*r);
    });
}

namespace {

std::map<Id, kinds::Finding> cachedOf(FindingsOfBank& findings) {
    std::map<Id, kinds::Finding> all;
    for (const Run& run : findings.runs()) {
        if (auto cached = findings.cached(run))
            all.emplace(run.id, std::move(*cached));
    }
    return all;
}

} // namespace

std::map<Id, kinds::Finding> Book::cachedFindings(Id bank) const {
    return query([&](Connection& c) {
        const auto b = loadBank(c, bank);
        if (!b)
            return std::map<Id, kinds::Finding>{};
        const Bench bench = loadBench(c);
        FindingsOfBank findings(c, *b, bench);
        return cachedOf(findings);
    });
}

void Book::eachBanksFindings(const OfBank& of) const {
    const Bench bench = query([](Connection& c) { return loadBench(c); });
    for (const Bank& bank : banks()) {
        std::vector<Run> runs;
        auto cached = query([&](Connection& c) {
            FindingsOfBank findings(c, bank, bench);
            runs = findings.runs();
            return cachedOf(findings);
        });
        of(bank, runs, std::move(cached));
    }
}

std::map<Id, int> Book::asked() const {
    return query([](Connection& c) {
        std::map<Id, int> all;
        Answer q = c.run("SELECT run.bank_id, sum(finding.asks) FROM finding JOIN run ON run.id = finding.run_id "
                         "WHERE run.removed = 0 GROUP BY run.bank_id HAVING sum(finding.asks) > 0");
        while (q.next())
            all[q.value(0).whole()] = static_cast<int>(q.value(1).whole());
        return all;
    });
}

std::vector<Id> Book::banksWithoutFindings() const {
    return query([](Connection& c) {
        std::vector<Id> all;
        Answer q = c.run("SELECT DISTINCT run.bank_id FROM run LEFT JOIN finding ON finding.run_id = run.id "
                         "WHERE run.removed = 0 AND finding.run_id IS NULL");
        while (q.next())
            all.push_back(q.value(0).whole());
        return all;
    });
}

std::map<Id, Tally> Book::tallies() const {
    return query([](Connection& c) {
        std::map<Id, Tally> all;
        Answer q = c.run("SELECT bank_id, kind, count(*), max(started_at) FROM run WHERE removed = 0 "
                         "GROUP BY bank_id, kind");
        while (q.next()) {
            const auto kind = records::kindFromKey(q.value(1).text());
            if (!kind)
                continue; // it is told with the records that cannot be read
            Tally& t = all[q.value(0).whole()];
            (records::hasSheet(*kind)  ? t.sheets
             : *kind == Kind::Recharge ? t.recharges
                                       : t.drains) += static_cast<int>(q.value(2).whole());
            t.newest = std::max(t.newest, q.value(3).text());
        }
        return all;
    });
}

Result<kinds::Finding> Book::finding(Id id) {
    if (auto cached = cachedFinding(id)) {
        keepSettled(id, *cached);
        return *cached;
    }
    auto worked = workOutKeyed(path_, id);
    if (!worked)
        return tl::unexpected(worked.error());
    remember(id, *worked);
    return std::move(worked->finding);
}

Result<Book::WorkedOut> Book::workOutKeyed(const QString& path, Id id) {
    auto result = guarded(path, [&]() -> Result<WorkedOut> {
        Connection c(path, Connection::Mode::ReadOnly);
        // A lock held while it is worked out would keep the window from saving; so what changed meanwhile is looked for
        // afterwards.
        for (;;) {
            const auto r = loadRun(c, id);
            const auto b = r ? loadBank(c, r->bank) : std::nullopt;
            if (!b)
                return problem("no_run", path.toStdString(), "there is no such run.");
            const Bench bench = loadBench(c);
            FindingsOfBank findings(c, *b, bench);
            std::string key = findings.key(*r);
            auto finding = findings.workOut(*r);
            if (!finding)
                return tl::unexpected(finding.error());
            const auto again = loadRun(c, id);
            if (!again || FindingsOfBank(c, *b, bench).key(*again) == key)
                return WorkedOut{std::move(key), std::move(*finding)};
        }
    });
    return result ? std::move(*result) : tl::unexpected(result.error());
}

Result<kinds::Finding> Book::workOutElsewhere(const QString& path, Id id) {
    auto worked = workOutKeyed(path, id);
    return worked ? Result<kinds::Finding>(std::move(worked->finding)) : tl::unexpected(worked.error());
}

void Book::keepSettled(Id id, const kinds::Finding& finding) {
    const std::string key = findingKey(id);
    const bool holds = query(
        [&](Connection& c) { return c.run("SELECT 1 FROM finding WHERE run_id = ? AND key = ?", id, key).next(); });
    if (!holds)
        remember(id, {key, finding});
}

bool Book::remember(Id id, const WorkedOut& worked) {
    // A cache that cannot be written costs time, nothing else.
    return !readOnly_ &&
           guarded(path_, [&] { storeFinding(*connection_, id, worked.key, worked.finding, worked.json); }).has_value();
}

bool Book::inOneWrite(const std::function<void()>& remembering) {
    return !readOnly_ && guarded(path_, [&] {
                             Transaction all(*connection_);
                             remembering();
                             all.commit();
                         }).has_value();
}

std::string Book::findingKey(Id id) const {
    return query([&](Connection& c) {
        const auto r = loadRun(c, id);
        const auto b = r ? loadBank(c, r->bank) : std::nullopt;
        if (!b)
            return std::string();
        const Bench bench = loadBench(c);
        return FindingsOfBank(c, *b, bench).key(*r);
    });
}

Result<Id> Book::save(const Bank& bank) {
    return change([&](Connection& c) { return storeBank(c, bank); });
}

Result<Id> Book::save(const Gear& gear) {
    return change([&](Connection& c) { return storeGear(c, gear); });
}

Result<Id> Book::save(const Run& run) {
    return change([&](Connection& c) { return storeRun(c, run); });
}

namespace {

Id storeWhole(Connection& c, const Run& run, const trace::Trace& trace) {
    const Id id = storeRun(c, run);
    if (run.hasTrace())
        saveTrace(c, id, AlsoTrace{run.point, run.byDisplay, {}, {}}.key(), trace);
    return id;
}

} // namespace

Result<Id> Book::addRun(const Run& run, const trace::Trace& trace) {
    return change([&](Connection& c) { return storeWhole(c, run, trace); });
}

Result<void> Book::addTrace(Id run, const AlsoTrace& also, const trace::Trace& trace) {
    return change([&](Connection& c) {
        const Id id = saveTrace(c, run, also.key(), trace, false);
        c.run("UPDATE trace SET gear_id = ?, log_name = ? WHERE id = ?", also.meter, also.logName, id);
    });
}

Result<void> Book::setTraceRemoved(Id run, const std::string& point, bool removed) {
    return change([&](Connection& c) {
        c.run("UPDATE trace SET removed = ? WHERE run_id = ? AND point = ? AND main = 0", removed, run, point);
    });
}

Result<void> Book::setSchools(const setup::Schools& schools) {
    return change([&](Connection& c) { storeSchools(c, schools); });
}

Result<Id> Book::addRunElsewhere(const QString& path, const Run& run, const trace::Trace& trace) {
    return guarded(path, [&] {
        Connection c(path, Connection::Mode::ReadWrite);
        Transaction all(c);
        const Id id = storeWhole(c, run, trace);
        all.commit();
        return id;
    });
}

Result<void> Book::setBankRemoved(Id id, bool removed) {
    return change([&](Connection& c) { c.run("UPDATE bank SET removed = ? WHERE id = ?", removed, id); });
}

Result<void> Book::setGearRemoved(Id id, bool removed) {
    return change([&](Connection& c) { c.run("UPDATE gear SET removed = ? WHERE id = ?", removed, id); });
}

Result<void> Book::setRunRemoved(Id id, bool removed) {
    return change([&](Connection& c) { c.run("UPDATE run SET removed = ? WHERE id = ?", removed, id); });
}

std::vector<PlannedRun> Book::planned() const {
    return query([](Connection& c) { return loadPlanned(c); });
}
std::vector<Publication> Book::publications(const std::string& scope) const {
    return query([&](Connection& c) { return loadPublications(c, scope); });
}
std::string Book::choice(const std::string& key) const {
    return query([&](Connection& c) { return loadChoice(c, key); });
}

Result<Id> Book::save(const PlannedRun& planned) {
    return change([&](Connection& c) { return storePlanned(c, planned); });
}

Result<void> Book::setPlannedRemoved(Id id, bool removed) {
    return change([&](Connection& c) { c.run("UPDATE planned SET removed = ? WHERE id = ?", removed, id); });
}

Result<Id> Book::publish(const Publication& publication) {
    return change([&](Connection& c) { return storePublication(c, publication); });
}

Result<void> Book::setChoice(const std::string& key, const std::string& text) {
    return change([&](Connection& c) { storeChoice(c, key, text); });
}

Result<void> Book::rememberMapping(const std::string& header, const logs::Mapping& mapping) {
    return change([&](Connection& c) { storeMapping(c, header, mapping); });
}

} // namespace otterstone::book
