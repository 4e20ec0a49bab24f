// A stamp as an option: "percent@1h12=45", "trip@2h=heat".
#pragma once

#include "cli/options.h"
#include "core/kinds/traced/heat.h"
#include "core/records/mark.h"

namespace otterstone::cli {

/// What was stamped when. Throws Wrong.
[[nodiscard]] records::Mark readMark(const std::string& text);

} // namespace otterstone::cli
