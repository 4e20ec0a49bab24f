// What the runs of one bank say together: pairs (D2), repeats (D18), cycles (D14), usable energy against load (D8),
// inputs side by side.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/kinds/traced/run_entry.h"
#include "core/life/specimens.h"
#include "core/quantity/repeats.h"
#include "core/together/usable.h"

namespace otterstone::together {

/// D2: a drain and the recharge before it.
struct Pair {
    long long drain = 0, recharge = 0;
    Measured roundTrip;
    std::optional<Measured> wallToPort, wallToDevice;
    std::string sentence;
    std::vector<Working> figures;
};

/// D18: runs of one kind at one load.
struct RepeatGroup {
    std::string what; ///< "drain at 5.1 W"
    std::vector<long long> runs;
    std::vector<long long> leftOut; ///< settling runs
    Repeats repeats;
    Working working;
    std::string sentence;
};

/// One recharge among the others.
struct InputRow {
    long long run = 0;
    std::string title, charger, cable;
    std::optional<Working> plateau, to80, full, energy, idle;
    std::string claim; ///< what holdAgainstClaim said
};

/// What a sheet of the bank says: how it behaves, beside what its energies are.
struct Behaviour {
    long long run = 0;
    records::Kind kind = records::Kind::Survey;
    std::string title, sentence;
};

/// Two runs that cannot both be what they are taken for.
struct Contradiction {
    std::vector<long long> runs;
    std::string sentence;
};

struct BankFindings {
    std::vector<Behaviour> behaviours; ///< by kind, in the order of a tester's work
    std::vector<Pair> pairs;
    std::vector<Pair> partTrips; ///< over a part of the charge: there and back again, right after one another
    std::vector<Contradiction> contradictions;
    std::vector<RepeatGroup> repeats;
    std::optional<Working> cycles;        ///< D14
    std::optional<UsableCurve> usable;    ///< D8
    std::string usableTier;               ///< "5 V" when the curve rests on drains at one voltage; empty: on all
    std::vector<UsablePoint> otherDrains; ///< at other voltages than the curve's
    std::optional<Working> usableFigure;  ///< as the house drains
    std::optional<Working> efficiency;    ///< as the house reckons it
    std::vector<InputRow> inputs;
    life::Life life;
    std::vector<life::SideBySide> specimens; ///< of whoever knows the other banks
    std::vector<std::string> missing;        ///< what run would say more, in words
};

[[nodiscard]] BankFindings judgeTogether(std::vector<kinds::RunEntry> runs, std::optional<double> ratedWattHours,
                                         const setup::Schools& schools, const std::string& bank = {},
                                         const records::Past& past = {});

/// D2 on two energies: round trip, and what the grid must give more (1/η − 1), with the slip 1 − η explained.
/// `chargerEfficiency` brings it to the wall.
[[nodiscard]] Working roundTripWorking(const Measured& outWattHours, const Measured& inWattHours);
[[nodiscard]] Working extraFromGrid(const Measured& efficiency);
/// D14: Σ E_in ÷ E_rated; the whole ones are the floor.
[[nodiscard]] Working cycleCount(const Measured& putInWattHours, double ratedWattHours);

} // namespace otterstone::together
