// Two sockets that both can give and take: which way power flows when they are joined, and whether it can be forced.
#pragma once

#include "core/behaviour/judge.h"

namespace otterstone::behaviour {

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

} // namespace otterstone::behaviour
