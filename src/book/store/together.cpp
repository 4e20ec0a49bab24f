#include "book/store/together.h"

#include <algorithm>

#include "book/store/gathered.h"
#include "book/store/record_store.h"
#include "core/kinds/traced/json.h"

namespace otterstone::book {

Result<together::BankFindings> workOutTogether(const QString& path, Id id) {
    auto result = guarded(path, [&]() -> Result<together::BankFindings> {
        Connection c(path, Connection::Mode::ReadOnly);
        const auto bank = loadBank(c, id);
        if (!bank)
            return problem("no_bank", path.toStdString(), "there is no such bank.");
        const Bench bench = loadBench(c);
        return Banks(c, bench).judge(*bank);
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
    e.runs = all.entries(bank);
    std::erase_if(e.runs, [](const kinds::RunEntry& r) { return records::hasSheet(r.finding->kind); });
    FindingsOfBank& findings = all.findings(bank);
    for (const Run& run : findings.runs()) {
        if (run.sheet)
            e.sheets.push_back({run.id, run.title, *run.sheet, findings.facts(run)});
    }
    e.together = all.judge(bank);
    return e;
}

} // namespace

Result<std::vector<evidence::Evidence>> gatherEvidence(const QString& path, const std::vector<Id>& ids,
                                                       std::vector<FreshFinding>* fresh) {
    return guarded(path, [&] {
        const Bench bench = benchOf(path);
        std::vector<Bank> banks = bench.banks;
        std::erase_if(
            banks, [&](const Bank& b) { return !ids.empty() && std::find(ids.begin(), ids.end(), b.id) == ids.end(); });
        std::vector<evidence::Evidence> gathered(banks.size());
        std::vector<std::vector<FreshFinding>> worked(banks.size());
        forEachFamily(path, familiesOf(banks, bench), [&](Connection& c, const std::vector<std::size_t>& family) {
            Banks all(c, bench);
            for (const std::size_t k : family) {
                gathered[k] = evidenceOf(banks[k], all, bench);
                if (fresh)
                    worked[k] = all.takeFresh(banks[k]);
                all.release(banks[k]);
            }
            return true;
        });
        if (fresh) {
            for (auto& of : worked)
                std::move(of.begin(), of.end(), std::back_inserter(*fresh));
        }
        return gathered;
    });
}

} // namespace otterstone::book
