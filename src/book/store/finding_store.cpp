#include "book/store/finding_store.h"

#include <QCryptographicHash>
#include <nlohmann/json.hpp>

#include "book/store/json_records.h"
#include "book/store/record_store.h"
#include "book/store/trace_store.h"
#include "core/kinds/catalogue.h"
#include "core/kinds/traced/json.h"
#include "core/quantity/json_text.h"
#include "core/setup/method.h"
#include "core/together/bank_findings.h"

namespace otterstone::book {

using Also = kinds::AlsoRestsOn;

Bench loadBench(Connection& c) { return {loadGear(c), loadSchools(c), loadBanks(c)}; }

namespace {

// A pair of a bank's own runs, as the pass-through sum needs it. Sheets of its own say nothing about it.
std::optional<Measured> roundTripOf(Connection& c, const Bank& bank, const Bench& bench) {
    std::vector<kinds::RunEntry> entries;
    for (const Run& run : loadRuns(c, bank.id)) {
        if (run.sheet)
            continue;
        auto finding = cachedOrWorkedOut(c, bank, run, bench);
        if (!finding)
            continue;
        entries.push_back({run.id, run.title, run.startedAt, run.settling, "", "", run.device.has_value(),
                           run.target.has_value(), std::move(*finding)});
    }
    const auto together = together::judgeTogether(std::move(entries), std::nullopt, bench.schools);
    return together.pairs.empty() ? std::nullopt : std::optional(together.pairs.front().roundTrip);
}

} // namespace

setup::Facts factsOf(Connection& c, const Bank& bank, const Run& run, const Bench& bench) {
    return setup::factsOf(bank, run, bench,
                          kinds::of(run.kind).also == Also::BanksRoundTrip ? roundTripOf(c, bank, bench)
                                                                           : std::nullopt);
}

std::string cacheKey(Connection& c, const Bank& bank, const Run& run, const Bench& bench) {
    nlohmann::json all{{"method", setup::kMethodVersion}, {"bank", toJson(bank)}, {"run", toJson(run)}};
    const Also also = kinds::of(run.kind).also;
    for (const Gear& g : bench.gear) {
        const bool offered =
            also == Also::ChargersAndCables && (g.kind == GearKind::Charger || g.kind == GearKind::Cable);
        if (uses(run, g.id) || offered)
            all["gear"].push_back(toJson(g));
    }
    if (also == Also::BanksRoundTrip) {
        for (const Run& other : loadRuns(c, bank.id)) {
            if (!other.sheet)
                all["others"].push_back(cacheKey(c, bank, other, bench));
        }
    }
    for (const Bank& b : bench.banks) {
        if (run.target && b.id == run.target->bank)
            all["target"] = toJson(b);
    }
    for (const setup::Question& q : setup::questions())
        all["schools"][q.key] = answerOf(bench.schools, q.key);
    all["schools"]["figures"] = {bench.schools.otherCellVolts, bench.schools.fullShare, bench.schools.fullSeconds};
    // Titles and notes are no part of any sum.
    for (const char* words : {"title", "notes"})
        all["run"].erase(words);
    all["bank"].erase("notes");
    const std::string text = jsonText(all);
    return QCryptographicHash::hash(QByteArray::fromStdString(text), QCryptographicHash::Sha256).toHex().toStdString();
}

std::optional<kinds::Finding> cachedFinding(Connection& c, const Bank& bank, const Run& run, const Bench& bench) {
    QSqlQuery q = c.run("SELECT json FROM finding WHERE run_id = ? AND key = ?", run.id, cacheKey(c, bank, run, bench));
    if (!q.next())
        return std::nullopt;
    const auto json = parseJson(text(q.value(0)), "finding");
    return json ? kinds::fromCache(*json) : std::nullopt;
}

Result<kinds::Finding> workOut(Connection& c, const Bank& bank, const Run& run, const Bench& bench) {
    if (run.sheet) {
        auto said = kinds::judge(*run.sheet, factsOf(c, bank, run, bench));
        if (!said)
            return tl::unexpected(said.error());
        kinds::Finding f;
        f.kind = run.kind;
        f.sentence = std::move(said->sentence);
        f.figures = std::move(said->figures);
        f.warnings = std::move(said->warnings);
        return f;
    }
    setup::Setup setup = setup::setupOf(bank, run, bench);
    if (run.countersOnly)
        return kinds::analyseCounters(*run.countersOnly, run.kind, setup);
    std::vector<trace::Trace> also;
    also.reserve(run.also.size()); // the setup points at them
    for (const AlsoTrace& t : run.also) {
        setup::Reading reading;
        reading.point = t.point;
        reading.byDisplay = t.byDisplay;
        reading.trace = &also.emplace_back(loadTrace(c, run.id, t.key()));
        reading.meter.name = t.byDisplay ? "the bank's display" : "second meter";
        if (const Gear* meter = bench.find(t.meter))
            setup::takeMeter(*meter, reading.meter, reading.clock);
        setup.also.push_back(std::move(reading));
    }
    auto finding = kinds::analyse(loadTrace(c, run.id), run.kind, setup);
    if (finding) {
        std::vector<Warning> fromLog;
        for (const auto& [code, words] : run.logWarnings)
            fromLog.push_back({code, words});
        finding->warnings.insert(finding->warnings.begin(), fromLog.begin(), fromLog.end());
    }
    return finding;
}

std::optional<kinds::Finding> cachedOrWorkedOut(Connection& c, const Bank& bank, const Run& run, const Bench& bench) {
    if (auto cached = cachedFinding(c, bank, run, bench))
        return cached;
    auto worked = workOut(c, bank, run, bench);
    return worked ? std::optional(std::move(*worked)) : std::nullopt;
}

void storeFinding(Connection& c, Id run, const std::string& key, const kinds::Finding& finding) {
    c.run(
        "INSERT INTO finding VALUES (?,?,?) ON CONFLICT (run_id) DO UPDATE SET key = excluded.key, json = excluded.json",
        run, key, jsonText(kinds::toCache(finding)));
}

} // namespace otterstone::book
