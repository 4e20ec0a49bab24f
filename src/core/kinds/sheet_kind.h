// What a kind of sheet is: how it is written down, begun, judged and seen. One value a kind, made in its folder and
// listed in the catalogue.
#pragma once

#include <vector>

#include "core/kinds/judge.h"
#include "core/label/label.h"

namespace otterstone::kinds {

class Seen;

struct SheetKind {
    std::vector<Column> (*columns)() = nullptr;
    Said (*judge)(const Sheet&, const Facts&) = nullptr;
    /// The rows it begins with for a bank, so that only readings need be typed; none: nothing to expect.
    void (*begin)(Sheet&, const label::Label&) = nullptr;
    /// What it saw, for every question; none: nothing that is asked yet.
    void (*observe)(Seen&) = nullptr;
    /// Whether it may say how full the bank was at both ends (Said::bank).
    bool tellsEnds = false;
};

} // namespace otterstone::kinds
