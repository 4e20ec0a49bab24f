// A2: given all numbers printed on a bank, the readings that fit.
#pragma once

#include <string>
#include <vector>

#include "core/label/label.h"

namespace otterstone::label {

enum class CellKind { None, LithiumIon, IronPhosphate };

/// What a nominal cell voltage says: 3.5 to 3.9 V lithium-ion or polymer, 3.2 to 3.3 V iron phosphate. Common practice,
/// no published source.
[[nodiscard]] CellKind cellKind(Volts nominal);
/// 2, 3 or 4 (up to 6) when the voltage is near that many times a cell's nominal one, else 0.
[[nodiscard]] int seriesCount(Volts volts);

struct Reading {
    std::string code; ///< cell_kind, series_pack, series_count, cell_energy, whole_energy, cell_count, output_share,
                      ///< port_watts, consistent, unexplained
    std::string text;
};

/// Readings that fit the printed figures, the plainest first; every number of `alsoPrinted` is explained, or named as
/// unexplained. Empty when nothing is left to explain.
[[nodiscard]] std::vector<Reading> decode(const Label& label);

} // namespace otterstone::label
