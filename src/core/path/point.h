// Where on the energy path a figure belongs.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace otterstone::path {

enum class Point { Wall, Charger, BankIn, BankOut, Meter, Load };

/// The word for a point in files and on the screen: "wall", "charger", "bank in", "bank out", "meter", "load".
[[nodiscard]] std::string pointName(Point p);
[[nodiscard]] std::optional<Point> pointFromName(std::string_view name);

} // namespace otterstone::path
