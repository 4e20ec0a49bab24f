#include "book/store/together.h"

#include <algorithm>
#include <atomic>
#include <future>
#include <map>
#include <memory>
#include <set>
#include <thread>

#include "book/store/finding_store.h"
#include "book/store/record_store.h"
#include "core/kinds/traced/json.h"

namespace otterstone::book {

namespace {

struct OfBank {
    std::vector<kinds::RunEntry> entries;
    std::vector<Snapshot::OfRun> runs;
};

// For whom all findings are kept beside the entries: who asks what a piece of gear changes. Else only fresh ones are.
struct ForSnapshot {
    Id gear = kNew;
};

OfBank findingsOf(FindingsOfBank& findings, const Bank& bank, const std::optional<ForSnapshot>& snapshot) {
    OfBank all;
    for (const Run& run : findings.runs()) {
        auto finding = findings.cached(run);
        const bool fresh = !finding;
        if (fresh) {
            if (auto worked = findings.workOut(run))
                finding = std::move(*worked);
        }
        if (!finding)
            continue;
        if (fresh || snapshot) {
            const bool asked = snapshot && snapshot->gear != kNew && uses(run, snapshot->gear);
            all.runs.push_back({run.id, bank.name, run.title, asked, {findings.key(run), *finding}, fresh});
        }
        all.entries.push_back(findings.entry(run, std::move(*finding)));
    }
    return all;
}

// Other pieces of the same model, and the bank itself: whatever way round it was written down, and over others.
std::set<Id> familyOf(const Bank& bank, const Bench& bench) {
    std::set<Id> family{bank.id};
    for (bool grew = true; grew;) {
        grew = false;
        for (const Bank& b : bench.banks) {
            if (!b.past.specimenOf)
                continue;
            const bool here = family.contains(b.id), there = family.contains(*b.past.specimenOf);
            if (here != there) {
                family.insert(here ? *b.past.specimenOf : b.id);
                grew = true;
            }
        }
    }
    return family;
}

// All banks of the book with what their runs say, each worked out once and when it is asked for.
class Banks {
public:
    Banks(Connection& c, const Bench& bench, std::optional<ForSnapshot> snapshot = {})
        : c_(c), bench_(bench), snapshot_(snapshot) {}
    FindingsOfBank& findings(const Bank& bank) {
        auto& mine = findings_[bank.id];
        if (!mine)
            mine = std::make_unique<FindingsOfBank>(c_, bank, bench_);
        return *mine;
    }
    OfBank& of(const Bank& bank) {
        const auto at = found_.find(bank.id);
        return at != found_.end() ? at->second
                                  : found_.emplace(bank.id, findingsOf(findings(bank), bank, snapshot_)).first->second;
    }
    std::vector<life::Specimen> specimensBeside(const Bank& bank) {
        const std::set<Id> family = familyOf(bank, bench_);
        std::vector<life::Specimen> others;
        for (const Bank& b : bench_.banks) {
            if (b.id != bank.id && family.contains(b.id))
                others.push_back(specimen(b));
        }
        return others;
    }
    life::Specimen specimen(const Bank& b) { return {b.id, b.name, b.past, of(b).entries}; }
    // Of a bank that no other is compared with, nothing is kept.
    void release(const Bank& bank) {
        if (familyOf(bank, bench_).size() > 1)
            return;
        found_.erase(bank.id);
        findings_.erase(bank.id);
    }

private:
    Connection& c_;
    const Bench& bench_;
    std::optional<ForSnapshot> snapshot_;
    std::map<Id, std::unique_ptr<FindingsOfBank>> findings_;
    std::map<Id, OfBank> found_;
};

together::BankFindings judge(const Bank& bank, Banks& banks, const Bench& bench) {
    auto rating = label::ratedEnergy(bank.label, bench.schools.reference, bench.schools.otherCellVolts);
    if (!rating)
        rating = label::ratedEnergy(bank.label);
    auto together =
        together::judgeTogether(banks.of(bank).entries, rating ? std::optional(rating->energy.value) : std::nullopt,
                                bench.schools, bank.name, bank.past);
    if (const auto others = banks.specimensBeside(bank); !others.empty())
        together.specimens = life::compareSpecimens(banks.specimen(bank), others);
    return together;
}

} // namespace

Result<together::BankFindings> workOutTogether(const QString& path, Id id) {
    auto result = guarded(path, [&]() -> Result<together::BankFindings> {
        Connection c(path, Connection::Mode::ReadOnly);
        const auto bank = loadBank(c, id);
        if (!bank)
            return problem("no_bank", path.toStdString(), "there is no such bank.");
        const Bench bench = loadBench(c);
        Banks banks(c, bench);
        return judge(*bank, banks, bench);
    });
    return result ? std::move(*result) : tl::unexpected(result.error());
}

namespace {

evidence::Evidence evidenceOf(const Bank& bank, Banks& all, const Bench& bench) {
    evidence::Evidence e;
    e.bank = bank.id;
    e.name = bank.name;
    e.label = bank.label;
    e.scale = bank.scale;
    e.bought = bank.past.bought;
    e.prices = bench.prices;
    e.schools = bench.schools;
    e.runs = all.of(bank).entries;
    std::erase_if(e.runs, [](const kinds::RunEntry& r) { return records::hasSheet(r.finding.kind); });
    FindingsOfBank& findings = all.findings(bank);
    for (const Run& run : findings.runs()) {
        if (run.sheet)
            e.sheets.push_back({run.id, run.title, *run.sheet, findings.facts(run)});
    }
    e.together = judge(bank, all, bench);
    return e;
}

// By family, as banks of one are held beside each other: what one worker takes at a time.
std::vector<std::vector<std::size_t>> groupsOf(const std::vector<Bank>& banks, const Bench& bench) {
    std::vector<std::vector<std::size_t>> groups;
    std::map<Id, std::size_t> groupOf;
    for (std::size_t k = 0; k < banks.size(); ++k) {
        const auto known = groupOf.find(banks[k].id);
        const std::size_t at = known == groupOf.end() ? groups.size() : known->second;
        if (at == groups.size()) {
            groups.emplace_back();
            for (const Id id : familyOf(banks[k], bench))
                groupOf[id] = at;
        }
        groups[at].push_back(k);
    }
    return groups;
}

// Calls of(k, all) for each of the banks, in as many threads as the machine has, each with a connection of its own.
template<class Of>
void forEachBank(const QString& path, const std::vector<Bank>& banks, const Bench& bench,
                 const std::optional<ForSnapshot>& snapshot, Of of) {
    const auto groups = groupsOf(banks, bench);
    std::atomic<std::size_t> next{0};
    const auto work = [&] {
        Connection c(path, Connection::Mode::ReadOnly);
        for (std::size_t at = next++; at < groups.size(); at = next++) {
            Banks all(c, bench, snapshot);
            for (const std::size_t k : groups[at])
                of(k, all);
        }
    };
    std::vector<std::future<void>> workers;
    for (std::size_t k = 1; k < std::min<std::size_t>(std::thread::hardware_concurrency(), groups.size()); ++k)
        workers.push_back(std::async(std::launch::async, work));
    work();
    for (auto& worker : workers)
        worker.get(); // also its problem
}

Bench benchOf(const QString& path) {
    Connection c(path, Connection::Mode::ReadOnly);
    return loadBench(c);
}

} // namespace

Result<std::vector<evidence::Evidence>> gatherEvidence(const QString& path, const std::vector<Id>& ids,
                                                       std::vector<Snapshot::OfRun>* fresh) {
    return guarded(path, [&] {
        const Bench bench = benchOf(path);
        std::vector<Bank> banks = bench.banks;
        std::erase_if(
            banks, [&](const Bank& b) { return !ids.empty() && std::find(ids.begin(), ids.end(), b.id) == ids.end(); });
        std::vector<evidence::Evidence> gathered(banks.size());
        std::vector<std::vector<Snapshot::OfRun>> worked(banks.size());
        forEachBank(path, banks, bench, {}, [&](std::size_t k, Banks& all) {
            gathered[k] = evidenceOf(banks[k], all, bench);
            for (Snapshot::OfRun& run : all.of(banks[k]).runs) {
                if (!fresh || !run.fresh)
                    continue;
                run.worked.json = kinds::toCache(run.worked.finding); // here, as all cores do it
                worked[k].push_back(std::move(run));
            }
            all.release(banks[k]);
        });
        if (fresh) {
            for (auto& of : worked)
                std::move(of.begin(), of.end(), std::back_inserter(*fresh));
        }
        return gathered;
    });
}

Result<Snapshot> takeSnapshot(const QString& path, Id gear) {
    return guarded(path, [&] {
        const Bench bench = benchOf(path);
        struct OfOne {
            std::vector<Snapshot::OfRun> runs;
            std::optional<together::BankFindings> together;
        };
        std::vector<OfOne> found(bench.banks.size());
        forEachBank(path, bench.banks, bench, ForSnapshot{gear}, [&](std::size_t k, Banks& all) {
            const Bank& bank = bench.banks[k];
            const auto& runs = all.findings(bank).runs();
            if (gear != kNew && std::none_of(runs.begin(), runs.end(), [&](const Run& r) { return uses(r, gear); }))
                return;
            found[k].together = judge(bank, all, bench);
            found[k].runs = std::move(all.of(bank).runs);
            for (Snapshot::OfRun& run : found[k].runs) {
                if (run.fresh)
                    run.worked.json = kinds::toCache(run.worked.finding);
            }
            all.release(bank);
        });
        Snapshot s;
        for (std::size_t k = 0; k < found.size(); ++k) {
            if (found[k].together)
                s.together[bench.banks[k].name] = std::move(*found[k].together);
            std::move(found[k].runs.begin(), found[k].runs.end(), std::back_inserter(s.runs));
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

bool remember(Book& book, const std::vector<Snapshot::OfRun>& runs) {
    bool all = true;
    return runs.empty() || (book.inOneWrite([&] {
               for (const Snapshot::OfRun& run : runs)
                   all = book.remember(run.run, run.worked) && all;
           }) && all);
}

} // namespace otterstone::book
