// One bank's figures for the table; internal to this folder.
#pragma once

#include <map>

#include "core/judgement/compare.h"

namespace otterstone::judgement {

/// By the key of figureKinds().
[[nodiscard]] std::map<std::string, Cell> figuresOf(const Evidence& evidence);

} // namespace otterstone::judgement
