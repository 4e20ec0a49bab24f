#include "book/store/together.h"

#include <algorithm>

#include "book/store/finding_store.h"
#include "book/store/record_store.h"

namespace otterstone::book {

namespace {

struct OfBank {
    std::vector<kinds::RunEntry> entries;
    std::vector<Snapshot::OfRun> runs;
};

OfBank findingsOf(Connection& c, const Bank& bank, const Bench& bench, Id gear) {
    OfBank all;
    const auto piece = [&](std::optional<Id> id) {
        const auto at =
            std::find_if(bench.gear.begin(), bench.gear.end(), [&](const Gear& g) { return id && g.id == *id; });
        return at == bench.gear.end() ? nullptr : &*at;
    };
    const auto nameOf = [&](std::optional<Id> id) { return piece(id) ? piece(id)->name : std::string(); };
    for (const Run& run : loadRuns(c, bank.id)) {
        auto finding = cachedFinding(c, bank, run, bench);
        const bool fresh = !finding;
        if (fresh)
            finding = cachedOrWorkedOut(c, bank, run, bench);
        if (!finding)
            continue;
        all.runs.push_back({run.id,
                            bank.name,
                            run.title,
                            gear != kNew && uses(run, gear),
                            {cacheKey(c, bank, run, bench), *finding},
                            fresh});
        const Gear* charger = piece(run.charger);
        const Gear* device = piece(run.device);
        all.entries.push_back({run.id, run.title, run.startedAt, run.settling, nameOf(run.charger), nameOf(run.cable),
                               run.device.has_value(), run.target.has_value(), std::move(*finding), run.port,
                               charger ? charger->watts : std::nullopt,
                               device && device->battery ? std::optional(device->battery->value) : std::nullopt});
    }
    return all;
}

together::BankFindings judge(const Bank& bank, OfBank& all, const Bench& bench) {
    auto rating = label::ratedEnergy(bank.label, bench.schools.reference, bench.schools.otherCellVolts);
    if (!rating)
        rating = label::ratedEnergy(bank.label);
    return together::judgeTogether(std::move(all.entries), rating ? std::optional(rating->energy.value) : std::nullopt,
                                   bench.schools, bank.name);
}

} // namespace

Result<together::BankFindings> workOutTogether(const QString& path, Id id) {
    auto result = guarded(path, [&]() -> Result<together::BankFindings> {
        Connection c(path, Connection::Mode::ReadOnly);
        const auto bank = loadBank(c, id);
        if (!bank)
            return problem("no_bank", path.toStdString(), "there is no such bank.");
        const Bench bench = loadBench(c);
        OfBank all = findingsOf(c, *bank, bench, kNew);
        return judge(*bank, all, bench);
    });
    return result ? std::move(*result) : tl::unexpected(result.error());
}

Result<std::vector<evidence::Evidence>> gatherEvidence(const QString& path, const std::vector<Id>& banks,
                                                       std::vector<Snapshot::OfRun>* fresh) {
    return guarded(path, [&] {
        std::vector<evidence::Evidence> all;
        Connection c(path, Connection::Mode::ReadOnly);
        const Bench bench = loadBench(c);
        for (const Bank& bank : bench.banks) {
            if (!banks.empty() && std::find(banks.begin(), banks.end(), bank.id) == banks.end())
                continue;
            evidence::Evidence e;
            e.bank = bank.id;
            e.name = bank.name;
            e.label = bank.label;
            e.scale = bank.scale;
            e.schools = bench.schools;
            OfBank found = findingsOf(c, bank, bench, kNew);
            for (Snapshot::OfRun& run : found.runs) {
                if (fresh && run.fresh)
                    fresh->push_back(std::move(run));
            }
            e.runs = found.entries;
            std::erase_if(e.runs, [](const kinds::RunEntry& r) { return records::hasSheet(r.finding.kind); });
            for (const Run& run : loadRuns(c, bank.id)) {
                if (run.sheet)
                    e.sheets.push_back({run.id, run.title, *run.sheet, factsOf(c, bank, run, bench)});
            }
            e.together = judge(bank, found, bench);
            all.push_back(std::move(e));
        }
        return all;
    });
}

Result<Snapshot> takeSnapshot(const QString& path, Id gear) {
    return guarded(path, [&] {
        Snapshot s;
        Connection c(path, Connection::Mode::ReadOnly);
        const Bench bench = loadBench(c);
        for (const Bank& bank : bench.banks) {
            const auto runs = loadRuns(c, bank.id);
            if (gear != kNew && std::none_of(runs.begin(), runs.end(), [&](const Run& r) { return uses(r, gear); }))
                continue;
            OfBank all = findingsOf(c, bank, bench, gear);
            std::move(all.runs.begin(), all.runs.end(), std::back_inserter(s.runs));
            s.together[bank.name] = judge(bank, all, bench);
        }
        return s;
    });
}

std::vector<Ripple> ripplesBetween(const Snapshot& before, const Snapshot& after) {
    std::vector<Ripple> all;
    for (const Snapshot::OfRun& now : after.runs) {
        const auto was = std::find_if(before.runs.begin(), before.runs.end(),
                                      [&](const Snapshot::OfRun& r) { return r.run == now.run; });
        if (was == before.runs.end())
            continue;
        Ripple r{now.run, now.bank, now.title, together::changesBetween(was->worked.finding, now.worked.finding)};
        if (now.uses || !r.figures.empty())
            all.push_back(std::move(r));
    }
    for (const auto& [bank, now] : after.together) {
        const auto was = before.together.find(bank);
        if (was == before.together.end())
            continue;
        Ripple r{kNew, bank, "all runs together", together::changesBetween(was->second, now)};
        if (!r.figures.empty())
            all.push_back(std::move(r));
    }
    return all;
}

std::string inWords(const Ripple& r) {
    std::string text = r.bank + ", " + r.title + ": ";
    if (r.figures.empty())
        return text + "nothing that is shown changes";
    for (std::size_t k = 0; k < r.figures.size(); ++k)
        text += (k == 0 ? "" : "; ") + r.figures[k].label + " " + r.figures[k].before + " → " + r.figures[k].after;
    return text;
}

} // namespace otterstone::book
