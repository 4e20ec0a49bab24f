// A behaviour as it is written down: rows of cells under the columns of its kind (core/kinds/rows.h). Hands fill it in,
// or the live bench does; the sums read nothing else, so that both ways come to one finding.
#pragma once

#include <string>
#include <vector>

#include "core/records/kind.h"

namespace otterstone::records {

struct Sheet {
    Kind kind = Kind::Survey;
    std::vector<std::vector<std::string>> rows;
    std::vector<std::string> devices = {}; ///< a notebook's further columns, as typed: "Phone 12.9 Wh"
    bool held = false;                     ///< a notebook's readings stand until the next row; else a line joins them
    bool operator==(const Sheet&) const = default;
};

} // namespace otterstone::records
