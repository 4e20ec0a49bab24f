// Another piece of the same model beside this one: compared, never pooled.
#pragma once

#include <span>

#include "core/life/life.h"

namespace otterstone::life {

struct Specimen {
    long long bank = 0;
    std::string name;
    records::Past past;
    std::vector<kinds::RunEntry> runs;
};

struct SideBySide {
    long long bank = 0; ///< the other
    std::string name;
    std::string sentence;         ///< of this one, against the other
    std::vector<Working> figures; ///< this one's energy, the other's, and their ratio; empty where nothing compares
    std::vector<long long> runs;  ///< that were compared, of both
};

/// Complete drains of both at one load and voltage, the load with the most of them; the ratio of their means, in which
/// what one meter gets wrong in both falls out. No published source.
[[nodiscard]] std::vector<SideBySide> compareSpecimens(const Specimen& mine, std::span<const Specimen> others);

} // namespace otterstone::life
