// The kinds of run, one row each. Whoever adds one makes its folder, and adds it here and to records/kind.h.
#pragma once

#include <optional>
#include <vector>

#include "core/kinds/sheet_kind.h"
#include "core/kinds/traced/observers.h"

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

/// These take a kind of their own, so that one that is in no catalogue yet can be tried.
[[nodiscard]] Result<Said> judge(const SheetKind& kind, const Sheet& sheet, const Facts& facts);
void observe(const SheetKind& kind, const SheetRun& run, std::vector<Observation>& all);

} // namespace otterstone::kinds
