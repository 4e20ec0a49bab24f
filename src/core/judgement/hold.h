// Every claim of a bank's label held against what its runs found: the verdict table.
#pragma once

#include "core/evidence/evidence.h"
#include "core/judgement/claims.h"
#include "core/quantity/working.h"

namespace otterstone::judgement {

using evidence::Evidence;
using kinds::SheetRun;

/// What would settle a row: a run of a kind, by a recipe, in words.
struct NextRun {
    std::optional<records::Kind> kind; ///< nothing: no run, but a scale, a rule or a better meter
    std::string recipe;                ///< key of a recipe that ships; empty: by hand
    std::string words;
    bool operator==(const NextRun&) const = default;
};

struct Held {
    Claim claim;
    Verdict verdict = Verdict::NotTested;
    std::optional<Working> finding; ///< its formula shows the comparison, its parts the finding's own working
    std::optional<double> chance;   ///< that the claim holds
    std::string why;                ///< one sentence: the comparison, or why it is not tested
    std::vector<long long> runs;    ///< behind the finding, the newest last
    std::vector<std::string> seen; ///< what else speaks of it, one observation a line, with what keeps it from deciding
    NextRun next;                  ///< empty words: settled
};

struct Judged {
    std::vector<Held> rows;
    std::string sentence; ///< "Of 9 claims 5 are met, 2 fall short, 1 is too close to call, 1 is not tested."
    [[nodiscard]] std::size_t count(Verdict v) const;
    /// The rows as they are read: what is settled, then what is too close to call, then what is not tested.
    [[nodiscard]] std::vector<const Held*> inOrder() const;
    /// "14 not tested: a survey of C1 and C2 would settle 9 of them, a sharing round 2."; empty when all were.
    [[nodiscard]] std::string untested() const;
    [[nodiscard]] const Held* row(std::string_view key) const;
};

/// Which finding is held against which claim, and what is assumed, stands beside each function of hold_energy.cpp,
/// hold_ports.cpp and hold_together.cpp. Where the meter states no accuracy, ± 3 % are assumed and said (common
/// practice, no published source).
[[nodiscard]] Judged holdClaims(const Evidence& evidence);

} // namespace otterstone::judgement
