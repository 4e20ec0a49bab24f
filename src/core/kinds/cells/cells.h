// Banks whose cells come out: what goes into each, and whether the sum fits what comes in.
#pragma once

#include "core/kinds/judge.h"

namespace otterstone::kinds {

struct Cell {
    std::string name;
    double volts = 0.0, amps = 0.0;
    [[nodiscard]] double watts() const { return volts * amps; }
};

struct CellsFinding {
    std::vector<Cell> cells;
    std::optional<double> inputWatts;
    double cellWatts = 0.0;
    std::optional<Measured> share; ///< Σ into the cells ÷ what comes in
    Said said;
};

/// Sum of the cells' watts against the input's. More than comes in cannot be; below 60 % most is lost or a cell was
/// missed. Common practice, no published source.
[[nodiscard]] CellsFinding cells(const Sheet& sheet, const Facts& facts);

struct SheetKind;
/// Its row in the catalogue.
[[nodiscard]] SheetKind cellsKind();

} // namespace otterstone::kinds
