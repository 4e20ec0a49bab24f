// The kinds of run, one row each. Whoever adds one makes its folder, and adds it here and to records/kind.h.
#pragma once

#include <optional>
#include <vector>

#include "core/kinds/sheet_kind.h"
#include "core/kinds/traced/observers.h"
#include "core/records/run.h"
#include "core/setup/setup.h"

namespace otterstone::kinds {

/// What a kind is that is judged from a trace.
struct TraceKind {
    void (*observe)(const label::Label&, const RunEntry&, std::vector<Observation>&) = nullptr;
};

/// What its finding rests on besides its own samples or rows, its bank and the gear of its path.
enum class AlsoRestsOn { Nothing, ChargersAndCables, Devices, BanksRoundTrip };

struct KindRow {
    Kind kind = Kind::Drain;
    std::optional<TraceKind> trace; ///< one of the two
    std::optional<SheetKind> sheet;
    AlsoRestsOn also = AlsoRestsOn::Nothing;
};
[[nodiscard]] const KindRow& of(Kind kind);

/// The rows a sheet begins with for a bank: what its label lets one expect to try.
[[nodiscard]] Sheet startingSheet(Kind kind, const label::Label& label);

/// Whether the sheet holds what a meter read, so that its run is one of the bank's drains or recharges.
[[nodiscard]] bool isMetered(const Sheet& sheet);
/// The kind that a run serves as: a sheet that was measured as a drain or a recharge, too.
[[nodiscard]] Kind servedAs(const records::Run& run);
/// Whether a drain or a recharge, by hand as well, says how full the bank was when it began; true for other sheets,
/// of which it is not asked.
[[nodiscard]] bool saysHowItBegan(const records::Run& run);
/// The finding of a run with a sheet; `said` as judge() said it.
[[nodiscard]] Finding findingOf(const Sheet& sheet, Said said, const Facts& facts, const Setup& setup);

/// These take a kind of their own, so that one that is in no catalogue yet can be tried.
[[nodiscard]] Result<Said> judge(const SheetKind& kind, const Sheet& sheet, const Facts& facts);
void observe(const SheetKind& kind, const SheetRun& run, std::vector<Observation>& all);

} // namespace otterstone::kinds
