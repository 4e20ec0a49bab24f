#include "core/path/point.h"

#include <array>

#include "core/quantity/say.h"

namespace otterstone::path {

namespace {
constexpr std::array<std::string_view, 6> kNames = {"wall", "charger", "bank in", "bank out", "meter", "load"};
}

std::string pointName(Point p) { return std::string(kNames[static_cast<std::size_t>(p)]); }

std::string pointWords(Point p) { return sayAsItStands(kNames[static_cast<std::size_t>(p)]); }

std::optional<Point> pointFromName(std::string_view name) {
    for (std::size_t i = 0; i < kNames.size(); ++i) {
        if (kNames[i] == name)
            return static_cast<Point>(i);
    }
    return std::nullopt;
}

} // namespace otterstone::path
