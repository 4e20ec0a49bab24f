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
#include "core/records/state.h"
#include "core/setup/facts.h"

namespace otterstone::kinds {

/// A run that is a sheet, with what it is held against.
struct SheetRun {
    long long run = 0;
    std::string title;
    Sheet sheet;
    Facts facts;
};

/// How full the bank was at both ends of a sheet that looked at it, and which way it went: the line of its life goes
/// through it, and its neighbours hear it.
struct BankEnds {
    std::optional<records::State> began, ended;
    double seconds = 0.0; ///< from the first row to the last
    bool fills = false;
};

struct Said {
    std::string sentence;
    std::vector<Working> figures;
    std::vector<Warning> warnings;
    std::vector<Remark> remarks;
    std::optional<BankEnds> bank; ///< of a notebook
};

/// By the sheet's kind. A problem (nothing_yet) while no row says enough.
[[nodiscard]] Result<Said> judge(const Sheet& sheet, const Facts& facts);

} // namespace otterstone::kinds
