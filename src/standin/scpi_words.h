// SCPI-1999 spelling: "MEASure:VOLTage?" may come as MEAS:VOLT?, measure:voltage? or :MEAS:VOLT?.
#pragma once

#include <optional>
#include <string_view>

namespace otterstone::standin {

/// What follows a command's words, trimmed ("" for none), when `line` is that command; nothing when it is another. Each word of `pattern`
/// may be written long, or short as its capitals; case doesn't matter.
[[nodiscard]] std::optional<std::string_view> parameterOf(std::string_view line, std::string_view pattern);

} // namespace otterstone::standin
