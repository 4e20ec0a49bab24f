// Source × cable × into × state: what comes with each, beside what was to be expected, and why less came. Sources are
// chargers, ports of this bank, a device's own charger, other banks; it comes into this bank's inputs or into devices;
// states are what one says: off, on, lid closed, busy.
#pragma once

#include <array>

#include "core/kinds/judge.h"

namespace otterstone::kinds {

struct MatrixCell {
    std::string source, cable, into, state;
    std::optional<double> volts;               ///< at which it came
    std::optional<double> watts;               ///< 0: nothing flowed; nothing: it flowed, nobody read how much
    std::optional<Measured> measured;          ///< the watts with the doubt of their meter and digits
    std::optional<double> product;             ///< V × A, where watts were written that it is not
    bool doubtKnown = false;                   ///< the meter's is in it, not its last digits alone
    bool stopped = false;                      ///< it ended by itself
    std::optional<double> after;               ///< seconds until it stopped, or until it settled
    std::optional<path::Prediction> predicted; ///< into this bank, where charger and cable are known
    std::optional<double> expected;            ///< W at most, by what is known of source, cable and this bank
    std::vector<std::string> why;              ///< questions, where much less came than predicted
    std::size_t row = 0;                       ///< of the sheet
    [[nodiscard]] bool flows() const { return !watts || *watts > 0.0; }
};

/// What the table is made of; each can be its rows or its columns.
enum class MatrixAxis { Source, Cable, Into, State };
inline constexpr std::array kMatrixAxes{MatrixAxis::Source, MatrixAxis::Cable, MatrixAxis::Into, MatrixAxis::State};
struct MatrixAxisName {
    const char* key;   ///< of its column
    const char* words; ///< its heading
    std::string MatrixCell::*of;
};
[[nodiscard]] const MatrixAxisName& nameOf(MatrixAxis axis);

/// The same device or input in the same state.
struct MatrixLayer {
    std::string into, state;
    std::vector<const MatrixCell*> cells;
    bool ownApart = false;                  ///< a device's own charger is there beside others, and takes no part
    std::size_t combinations = 0;           ///< of source and cable that take part
    const MatrixCell* best = nullptr;       ///< the most watts
    std::vector<const MatrixCell*> ties;    ///< no telling these from the best
    const MatrixCell* affordable = nullptr; ///< of those within 5 % of the best the cheapest, where prices are known
};

struct MatrixFinding {
    std::array<std::vector<std::string>, kMatrixAxes.size()> names; ///< on each axis, as they come in the sheet
    std::vector<MatrixCell> cells;                                  ///< those that were tried
    std::vector<MatrixLayer> layers;
    [[nodiscard]] const std::vector<std::string>& on(MatrixAxis axis) const {
        return names[static_cast<std::size_t>(axis)];
    }
    Said said;
    MatrixFinding() = default;
    MatrixFinding(const MatrixFinding&) = delete;
    MatrixFinding& operator=(const MatrixFinding&) = delete;
    MatrixFinding(MatrixFinding&&) = default;
};

/// Prediction: B3 (path/bottleneck.h). Chargers and cables that the drawer does not know have none.
[[nodiscard]] MatrixFinding matrix(const Sheet& sheet, const Facts& facts);
/// The same with each row's own source, cable, into and state, no cell left to what stands above it; older sheets'
/// computers, on or off, are a device and its state.
[[nodiscard]] Sheet spelledOut(Sheet sheet);
/// A cell that says nothing is stated, where an empty one means what stands above it.
inline constexpr const char* kNotStated = "-";
/// The name in a cell of an axis; empty where nothing is stated.
[[nodiscard]] std::string axisName(const std::string& cell);
/// What charger, cable and one port of the bank can agree on; nothing when one of them is not known or they share no
/// voltage.
[[nodiscard]] std::optional<path::Prediction> predictFor(const Facts& facts, const std::string& charger,
                                                         const std::string& cable, const std::string& port);
/// The port of this bank that goes by that name; nothing for a device or another's port.
[[nodiscard]] const label::Port* portOf(const Facts& facts, const std::string& name);

/// A cell as it is typed into the grid: "18 W", "9 V 18 W", "9 V 2 A", "9x2", "nothing", "18 W, stopped after 5 h",
/// "18 W settled 20 s". What is not said is not there.
struct CellText {
    std::optional<double> volts, amps, watts;
    std::string typedVolts, typedAmps, typedWatts; ///< with as many digits as were typed: they are the reading's doubt
    std::string happened;                          ///< a word of its column
    std::optional<double> after;                   ///< seconds
};
[[nodiscard]] Result<CellText> parseCell(std::string_view text, std::string_view place);
/// The words of its column "happened".
inline constexpr const char* kNothingFlows = "nothing flows";
inline constexpr const char* kStopped = "stopped";
inline constexpr const char* kSettled = "settled";

struct SheetKind;
/// Its row in the catalogue.
[[nodiscard]] SheetKind matrixKind();

} // namespace otterstone::kinds
