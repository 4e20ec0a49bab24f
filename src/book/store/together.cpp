#include "book/store/together.h"

#include <algorithm>
#include <map>
#include <memory>
#include <set>

#include "book/store/finding_store.h"
#include "book/store/record_store.h"

namespace otterstone::book {

namespace {

struct OfBank {
    std::vector<kinds::RunEntry> entries;
    std::vector<Snapshot::OfRun> runs;
};

OfBank findingsOf(FindingsOfBank& findings, const Bank& bank, Id gear) {
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
        all.runs.push_back(
            {run.id, bank.name, run.title, gear != kNew && uses(run, gear), {findings.key(run), *finding}, fresh});
        all.entries.push_back(findings.entry(run, std::move(*finding)));
    }
    return all;
}

// All banks of the book with what their runs say, each worked out once and when it is asked for.
class Banks {
public:
    Banks(Connection& c, const Bench& bench, Id gear = kNew) : c_(c), bench_(bench), gear_(gear) {}
    FindingsOfBank& findings(const Bank& bank) {
        auto& mine = findings_[bank.id];
        if (!mine)
            mine = std::make_unique<FindingsOfBank>(c_, bank, bench_);
        return *mine;
    }
    OfBank& of(const Bank& bank) {
        const auto at = found_.find(bank.id);
        return at != found_.end() ? at->second
                                  : found_.emplace(bank.id, findingsOf(findings(bank), bank, gear_)).first->second;
    }
    // Other pieces of the same model.
    std::vector<life::Specimen> specimensBeside(const Bank& bank) {
        const std::set<Id> family = familyOf(bank);
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
        if (familyOf(bank).size() > 1)
            return;
        found_.erase(bank.id);
        findings_.erase(bank.id);
    }

private:
    // Whatever way round it was written down, and over others.
    [[nodiscard]] std::set<Id> familyOf(const Bank& bank) const {
        std::set<Id> family{bank.id};
        for (bool grew = true; grew;) {
            grew = false;
            for (const Bank& b : bench_.banks) {
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
    Connection& c_;
    const Bench& bench_;
    Id gear_;
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

Result<std::vector<evidence::Evidence>> gatherEvidence(const QString& path, const std::vector<Id>& banks,
                                                       std::vector<Snapshot::OfRun>* fresh) {
    return guarded(path, [&] {
        std::vector<evidence::Evidence> gathered;
        Connection c(path, Connection::Mode::ReadOnly);
        const Bench bench = loadBench(c);
        Banks all(c, bench);
        for (const Bank& bank : bench.banks) {
            if (!banks.empty() && std::find(banks.begin(), banks.end(), bank.id) == banks.end())
                continue;
            evidence::Evidence e;
            e.bank = bank.id;
            e.name = bank.name;
            e.label = bank.label;
            e.scale = bank.scale;
            e.schools = bench.schools;
            OfBank& found = all.of(bank);
            for (Snapshot::OfRun& run : found.runs) {
                if (fresh && run.fresh)
                    fresh->push_back(std::move(run));
            }
            e.runs = found.entries;
            std::erase_if(e.runs, [](const kinds::RunEntry& r) { return records::hasSheet(r.finding.kind); });
            FindingsOfBank& findings = all.findings(bank);
            for (const Run& run : findings.runs()) {
                if (run.sheet)
                    e.sheets.push_back({run.id, run.title, *run.sheet, findings.facts(run)});
            }
            e.together = judge(bank, all, bench);
            gathered.push_back(std::move(e));
            all.release(bank);
        }
        return gathered;
    });
}

Result<Snapshot> takeSnapshot(const QString& path, Id gear) {
    return guarded(path, [&] {
        Snapshot s;
        Connection c(path, Connection::Mode::ReadOnly);
        const Bench bench = loadBench(c);
        Banks banks(c, bench, gear);
        for (const Bank& bank : bench.banks) {
            const auto& runs = banks.findings(bank).runs();
            if (gear != kNew && std::none_of(runs.begin(), runs.end(), [&](const Run& r) { return uses(r, gear); }))
                continue;
            s.together[bank.name] = judge(bank, banks, bench);
            auto& found = banks.of(bank).runs;
            std::move(found.begin(), found.end(), std::back_inserter(s.runs));
            banks.release(bank);
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

void remember(Book& book, const std::vector<Snapshot::OfRun>& runs) {
    book.inOneWrite([&] {
        for (const Snapshot::OfRun& run : runs)
            book.remember(run.run, run.worked);
    });
}

} // namespace otterstone::book
