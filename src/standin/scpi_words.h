// SCPI-1999 spelling: "MEASure:VOLTage?" may come as MEAS:VOLT?, measure:voltage? or :MEAS:VOLT?.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace otterstone::standin {

/// What follows a command's words, trimmed ("" for none), when `line` is that command; nothing when it is another. Each
/// word of `pattern` may be written long, or short as its capitals; case doesn't matter.
[[nodiscard]] std::optional<std::string_view> parameterOf(std::string_view line, std::string_view pattern);
/// A reply's number, with so many decimals.
[[nodiscard]] std::string number(double v, int decimals);
/// A whole parameter as a number.
[[nodiscard]] std::optional<double> numberIn(std::string_view text);
/// A parameter that switches something: 1, ON, or IN for what is plugged.
[[nodiscard]] bool isOn(std::string_view text);

} // namespace otterstone::standin
