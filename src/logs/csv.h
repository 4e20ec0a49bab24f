// Writing CSV (RFC 4180) that any spreadsheet and our own recogniser read back without loss.
#pragma once

#include <ostream>
#include <string>
#include <string_view>

#include "core/kinds/rows.h"
#include "core/trace/trace.h"

namespace otterstone::logs {

/// A text cell: quoted where needed, and with an apostrophe before = + - @ or a control character, so that no
/// spreadsheet takes it for a formula.
[[nodiscard]] std::string textCell(std::string_view text);
/// The shortest digits that read back as the same double; empty for NaN.
[[nodiscard]] std::string numberCell(double value);
/// A sheet with its columns' keys as the first line; kinds::sheetFromText reads it again.
[[nodiscard]] std::string sheetCsv(const records::Sheet& sheet);
/// The columns of the bundle: time_s,volts_v,amps_a[,watts_w][,temperature_c][,percent].
void writeTrace(std::ostream& out, const trace::Trace& trace);

} // namespace otterstone::logs
