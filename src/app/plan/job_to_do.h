// A job of the plan, as other pages hear of it.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/records/bank.h"
#include "core/records/kind.h"

namespace otterstone::app {

struct JobToDo {
    records::Id bank = records::kNew;
    records::Kind kind = records::Kind::Drain;
    std::string recipe;            ///< empty: by hand
    std::optional<double> watts;   ///< at which it is made, where that matters
    std::vector<std::string> gear; ///< names of pieces of the drawer
    /// It needs no hands and may go on alone: it begins by itself, so many s from now.
    std::optional<double> byItself = {};
};

} // namespace otterstone::app
