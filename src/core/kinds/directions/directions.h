// Two sockets that both can give and take: which way power flows when they are joined, and whether it can be forced.
#pragma once

#include "core/kinds/judge.h"

namespace otterstone::kinds {

enum class Direction { Gives, Takes, Nothing };

struct Joint {
    std::string port, other, otherPort, how;
    Direction result = Direction::Nothing;
    std::optional<double> watts;
};

struct DirectionsFinding {
    std::vector<Joint> joints;
    Said said;
};

[[nodiscard]] DirectionsFinding directions(const Sheet& sheet, const Facts& facts);

struct SheetKind;
/// Its row in the catalogue.
[[nodiscard]] SheetKind directionsKind();

} // namespace otterstone::kinds
