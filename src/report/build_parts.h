// What the two kinds of sheet share; internal to this folder.
#pragma once

#include "report/material.h"

namespace otterstone::report {

[[nodiscard]] Table figuresTable(const std::string& key, const std::vector<Working>& figures);
[[nodiscard]] Section methodSection(const Material& material);
[[nodiscard]] Section cautionSection();
/// What was corrected and what reads differently since the sheet before; no blocks when nothing did.
[[nodiscard]] Section changesSection(const Material& material, const Content& content);
[[nodiscard]] Section bankVerdicts(const judgement::Judged& judged);
[[nodiscard]] Section notTestedSection(const judgement::Judged& judged);

[[nodiscard]] Content bankContent(const Material& material);
[[nodiscard]] Content comparisonContent(const Material& material);

} // namespace otterstone::report
