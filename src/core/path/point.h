// Where on the energy path a figure belongs.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace otterstone::path {

enum class Point { Wall, Charger, BankIn, BankOut, Meter, Load };

/// The name of a point in files: "wall", "charger", "bank in", "bank out", "meter", "load".
[[nodiscard]] std::string pointName(Point p);
/// The same in the reader's language.
[[nodiscard]] std::string pointWords(Point p);
[[nodiscard]] std::optional<Point> pointFromName(std::string_view name);

} // namespace otterstone::path
