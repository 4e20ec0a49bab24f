// D11: charging and giving at once: who is slowed, whether the bank gains, what source it would need, and what the
// output does when the source goes away.
#pragma once

#include "core/kinds/judge.h"

namespace otterstone::kinds {

enum class PassClass {
    Unknown,
    Refuses,         ///< nothing out while it charges
    GivesOnly,       ///< nothing in while it gives
    SourceFirst,     ///< the output alone falls
    LoadFirst,       ///< the input alone falls, and some comes in
    Shares,          ///< both keep what they have alone
    SlowsBoth,       ///< both fall
    ChargesAndGives, ///< both flow; what each does alone is not known, so nobody can say who is slowed
};
/// Energy goes in and out at once: what "pass-through" on a label promises.
[[nodiscard]] bool passesThrough(PassClass c);
/// Key in files and words for people: "source_first", "source first"; one table.
[[nodiscard]] std::string passClassKey(PassClass c);
[[nodiscard]] std::string passClassWords(PassClass c);
/// Of those that pass.
[[nodiscard]] std::vector<std::string> passingKeys();
enum class Balance { Gains, Holds, Loses };
[[nodiscard]] std::string balanceWords(Balance b);

/// One corner: what flows in and out of the bank's sockets.
struct Corner {
    std::optional<double> inVolts, inWatts, outVolts, outWatts;
};

struct PassThroughFinding {
    Corner inAlone, outAlone, both, after; ///< after: the source was taken away
    PassClass what = PassClass::Unknown;
    std::optional<Measured> netWatts; ///< into the cells, with both
    std::optional<Balance> balance;
    std::optional<Measured> leastSource;        ///< W at the input that would just hold, for the load of `both`
    std::optional<double> dropOutSeconds;       ///< output out, when the source went; 0: never
    std::string back;                           ///< how it came back, a word of the sheet
    std::optional<double> bankFull, deviceFull; ///< seconds, both charged from one source
    Said said;
};

/// Net = W_in·η_in − W_out/η_out with η_in = η_out = √(round trip), or 0.9 ± 0.05 each (rectangular) when no round trip
/// of this bank is known: common practice, no published source. It holds when the net stays within its own doubt or 5 %
/// of what comes in. A side is slowed when its volts fall by more than 0.5 V or its watts by more than 25 %; nothing
/// flows out below a tenth of what flows alone, in below a twentieth, and below 0.1 W. No published source.
[[nodiscard]] PassThroughFinding passThrough(const Sheet& sheet, const Facts& facts);

struct SheetKind;
/// Its row in the catalogue.
[[nodiscard]] SheetKind passThroughKind();

} // namespace otterstone::kinds
