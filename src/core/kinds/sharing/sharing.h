// D10: several outputs at once: what each keeps of what it gives alone, who falls back to 5 V, and what that makes of
// the label's promises.
#pragma once

#include "core/kinds/judge.h"

namespace otterstone::kinds {

struct SharedPort {
    std::string port;
    std::optional<double> aloneVolts, aloneWatts;
    std::optional<double> togetherVolts, togetherWatts;
    std::optional<double> promisedWatts; ///< by the label, for this combination
    /// Watts together ÷ alone.
    [[nodiscard]] std::optional<double> kept() const;
    /// Gave a higher tier alone and 5 V together.
    [[nodiscard]] bool fellToFive() const;
    [[nodiscard]] bool starved() const; ///< nothing, or less than a tenth of what it gives alone
};

struct Round {
    std::string name;
    std::vector<SharedPort> ports; ///< in the order of plugging in
    double togetherWatts = 0.0;
    double aloneWatts = 0.0;
    std::optional<double> fairness; ///< Jain's index of the kept shares: 1 when all keep alike, 1/n when one takes all
    std::optional<double> fewestAmps, mostAmps; ///< together
};

struct SharingFinding {
    std::vector<Round> rounds;
    std::optional<double> splitAmps; ///< a total current that every round divides evenly
    bool orderMatters = false;       ///< the same ports came out differently in another order
    Said said;
};

/// Jain's index (Σx)² / (n Σx²): R. Jain, D. Chiu, W. Hawe, DEC-TR-301 (1984), from memory. Classes: common practice,
/// no published source.
[[nodiscard]] SharingFinding sharing(const Sheet& sheet, const Facts& facts);
[[nodiscard]] double jainIndex(const std::vector<double>& x);

struct SheetKind;
/// Its row in the catalogue.
[[nodiscard]] SheetKind sharingKind();

} // namespace otterstone::kinds
