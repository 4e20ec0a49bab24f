// What a sheet says: one sentence to quote, the figures with their workings, and the pieces a picture is drawn from.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/kinds/names.h"
#include "core/kinds/rows.h"
#include "core/label/label.h"
#include "core/path/bottleneck.h"
#include "core/path/meter.h"
#include "core/quantity/problem.h"
#include "core/quantity/working.h"
#include "core/setup/facts.h"

namespace otterstone::kinds {

/// A run that is a sheet, with what it is held against.
struct SheetRun {
    long long run = 0;
    std::string title;
    Sheet sheet;
    Facts facts;
};

struct Said {
    std::string sentence;
    std::vector<Working> figures;
    std::vector<Warning> warnings;
    std::vector<Remark> remarks;
};

/// By the sheet's kind. A problem (nothing_yet) while no row says enough.
[[nodiscard]] Result<Said> judge(const Sheet& sheet, const Facts& facts);

} // namespace otterstone::kinds
