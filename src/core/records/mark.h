// Something stamped at a moment of a run.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace otterstone::records {

struct Mark {
    enum class What {
        Percent,
        Leds,
        Plugged,
        Unplugged,
        Temperature,
        Trip,
        Estimate,
        Note,
        DevicePercent,
        Instrument,
        Stop
    };
    double at = 0.0; ///< seconds on the trace's clock
    What what = What::Note;
    std::optional<double>
        number;       ///< %, LEDs lit, °C; for an estimate the seconds the bank's display said it would still take
    std::string text; ///< for LEDs how many there are: "of 4"; for an instrument or a stop what happened
    bool operator==(const Mark&) const = default;
};
[[nodiscard]] std::string markKey(Mark::What what);
[[nodiscard]] std::optional<Mark::What> markFromKey(std::string_view key);

/// How many LEDs a stamp says there are in all: the number in its text, 4 when there is none.
[[nodiscard]] int ledsInAll(const Mark& mark);

} // namespace otterstone::records
