#include "book/store/gathered.h"

#include <algorithm>
#include <set>

#include "book/store/record_store.h"
#include "core/kinds/traced/json.h"
#include "core/label/rating.h"

namespace otterstone::book {

namespace {

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

OfBank findingsOf(FindingsOfBank& findings) {
    OfBank all;
    for (const Run& run : findings.runs()) {
        auto finding = findings.cached(run);
        const bool fresh = !finding;
        if (fresh) {
            auto worked = findings.workOut(run);
            if (!worked)
                continue;
            finding = std::move(*worked);
        }
        const std::string key = findings.key(run);
        if (fresh)
            all.fresh.push_back({run.id, {key, *finding}});
        all.runs.push_back(&run);
        all.findings.emplace(run.id, KeyedFinding{key, std::move(*finding)});
    }
    return all;
}

} // namespace

FindingsOfBank& Banks::findings(const Bank& bank) {
    auto& mine = findings_[bank.id];
    if (!mine && earlier_) {
        OfBank& earlier = earlier_->of(bank);
        mine = std::make_unique<FindingsOfBank>(earlier_->findings(bank), bench_, [&earlier](Id run) {
            const auto at = earlier.findings.find(run);
            return at == earlier.findings.end() ? nullptr : &at->second;
        });
    }
    if (!mine)
        mine = std::make_unique<FindingsOfBank>(c_, bank, bench_);
    return *mine;
}

OfBank& Banks::of(const Bank& bank) {
    const auto at = found_.find(bank.id);
    return at != found_.end() ? at->second : found_.emplace(bank.id, findingsOf(findings(bank))).first->second;
}

std::vector<kinds::RunEntry> Banks::entries(const Bank& bank) {
    const OfBank& found = of(bank);
    std::vector<kinds::RunEntry> all;
    all.reserve(found.runs.size());
    for (const Run* run : found.runs)
        all.push_back(findings(bank).entry(*run, found.findings.at(run->id).finding));
    return all;
}

together::BankFindings Banks::judge(const Bank& bank) {
    auto rating = label::ratedEnergy(bank.label, bench_.schools.reference, bench_.schools.otherCellVolts);
    if (!rating)
        rating = label::ratedEnergy(bank.label);
    auto together = together::judgeTogether(entries(bank), rating ? std::optional(rating->energy.value) : std::nullopt,
                                            bench_.schools, bank.name, bank.past);
    const auto specimen = [&](const Bank& b) { return life::Specimen{b.id, b.name, b.past, entries(b)}; };
    std::vector<life::Specimen> others;
    const std::set<Id> family = familyOf(bank, bench_);
    for (const Bank& b : bench_.banks) {
        if (b.id != bank.id && family.contains(b.id))
            others.push_back(specimen(b));
    }
    if (!others.empty())
        together.specimens = life::compareSpecimens(specimen(bank), others);
    return together;
}

std::vector<FreshFinding> Banks::takeFresh(const Bank& bank) {
    std::vector<FreshFinding> fresh = std::exchange(of(bank).fresh, {});
    for (FreshFinding& f : fresh)
        f.worked.json = kinds::toCache(f.worked.finding); // here, as all cores do it
    return fresh;
}

void Banks::release(const Bank& bank) {
    if (familyOf(bank, bench_).size() > 1)
        return;
    found_.erase(bank.id);
    findings_.erase(bank.id);
}

Bench benchOf(const QString& path) {
    Connection c(path, Connection::Mode::ReadOnly);
    return loadBench(c);
}

std::vector<std::vector<std::size_t>> familiesOf(const std::vector<Bank>& banks, const Bench& bench) {
    std::vector<std::vector<std::size_t>> families;
    std::map<Id, std::size_t> familyAt;
    for (std::size_t k = 0; k < banks.size(); ++k) {
        const auto known = familyAt.find(banks[k].id);
        const std::size_t at = known == familyAt.end() ? families.size() : known->second;
        if (at == families.size()) {
            families.emplace_back();
            for (const Id id : familyOf(banks[k], bench))
                familyAt[id] = at;
        }
        families[at].push_back(k);
    }
    return families;
}

} // namespace otterstone::book
