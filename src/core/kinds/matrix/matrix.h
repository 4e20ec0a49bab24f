// Charger × cable × port: what the bank (or a device on it) takes with each, beside what was to be expected, and why
// less came.
#pragma once

#include "core/kinds/judge.h"

namespace otterstone::kinds {

struct MatrixCell {
    std::string charger, cable, port, computer;
    std::optional<double> volts, watts; ///< measured
    std::optional<path::Prediction> predicted;
    std::vector<std::string> why; ///< questions, where much less came than predicted
    std::size_t row = 0;          ///< of the sheet
};

struct MatrixFinding {
    std::vector<std::string> chargers, cables, ports; ///< as they come in the sheet
    std::vector<MatrixCell> cells;                    ///< those with a reading
    const MatrixCell* best = nullptr;                 ///< the most watts
    const MatrixCell* affordable = nullptr; ///< of those within 5 % of the best the cheapest, where prices are known
    [[nodiscard]] const MatrixCell* at(const std::string& charger, const std::string& cable, const std::string& port,
                                       const std::string& computer = {}) const;
    Said said;
    MatrixFinding() = default;
    MatrixFinding(const MatrixFinding&) = delete;
    MatrixFinding& operator=(const MatrixFinding&) = delete;
    MatrixFinding(MatrixFinding&&) = default;
};

/// Prediction: B3 (path/bottleneck.h). Chargers and cables that the drawer does not know have none.
[[nodiscard]] MatrixFinding matrix(const Sheet& sheet, const Facts& facts);
/// What charger, cable and one port of the bank can agree on; nothing when one of them is not known or they share no
/// voltage.
[[nodiscard]] std::optional<path::Prediction> predictFor(const Facts& facts, const std::string& charger,
                                                         const std::string& cable, const std::string& port);

/// A cell as it is typed into the grid: "18 W", "9 V 18 W", "9 V 2 A", "9x2". Volts, amps and watts as far as they are
/// said.
struct CellText {
    std::optional<double> volts, amps, watts;
};
[[nodiscard]] Result<CellText> parseCell(std::string_view text, std::string_view place);

struct SheetKind;
/// Its row in the catalogue.
[[nodiscard]] SheetKind matrixKind();

} // namespace otterstone::kinds
