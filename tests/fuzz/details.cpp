// A run's details as a book's cell holds them, with the gear and the bank it was made with: read, set up, and worked
// out on a short trace.
#include "book/store/finding_store.h"
#include "book/store/json_put.h"
#include "book/store/json_records.h"
#include "book/store/older_runs.h"
#include "core/kinds/catalogue.h"
#include "entry.h"
#include "finite.h"

using namespace otterstone;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto all = parseJson(fuzz::text(data, size), "here");
    if (!all || !all->is_object())
        return 0;
    records::Run run;
    records::Bank bank;
    setup::Bench bench;
    try {
        run.kind = records::kindFromKey(all->contains("kind") && all->at("kind").is_string()
                                            ? all->at("kind").get<std::string>()
                                            : "drain")
                       .value_or(records::Kind::Drain);
        if (book::has(*all, "gear")) {
            for (const auto& g : book::list(*all, "gear")) {
                bench.gear.push_back(book::gearFromJson(g));
                bench.gear.back().id = static_cast<records::Id>(bench.gear.size());
            }
        }
        if (book::has(*all, "bank"))
            bank = book::bankFromJson(all->at("bank"));
        book::readDetails(*all, run);
        book::bringUpToDate(*all, run);
        for (const records::Stretch& s : records::kStretches) {
            for (const records::Gear& g : bench.gear) {
                if (g.kind == s.kind)
                    run.*(s.piece) = g.id;
            }
        }
    } catch (const book::Damage&) {
        return 0;
    }
    trace::Trace t;
    for (int k = 0; k < 40; ++k) {
        t.time.push_back(10.0 * k);
        t.volts.push_back(k < 35 ? 5.0 - 0.001 * k : 0.0);
        t.amps.push_back(k < 35 ? 1.0 : 0.0);
        t.temperature.push_back(20.0 + 0.1 * k);
    }
    if (run.target)
        run.target->bank = bank.id;
    bench.banks.push_back(bank);
    const setup::Setup setup = setup::setupOf(bank, run, bench);
    if (run.sheet) {
        const auto facts = setup::factsOf(bank, run, bench, std::nullopt);
        if (auto said = kinds::judge(*run.sheet, facts))
            fuzz::mustBeFinite(kinds::findingOf(*run.sheet, std::move(*said), facts, setup));
    }
    for (const auto kind : {records::Kind::Drain, records::Kind::Recharge}) {
        if (const auto finding = kinds::analyse(t, kind, setup))
            fuzz::mustBeFinite(*finding);
    }
    return 0;
}
