// What hands do at a bench: asked of the tester in words, and of a rehearsal's stand-in as a command.
#pragma once

#include <optional>
#include <string>
#include <vector>

namespace otterstone::bench {

enum class Hands {
    ChargerIn,
    ChargerOut,
    DeviceIn,
    DeviceOut,
    Replug,
    Button,
    LowMode,
    Load,    ///< into the step's port
    LoadOut, ///< out of whatever it is in
    Source   ///< another charger and cable
};

/// Of all, in the order of Hands: as a recipe names them.
[[nodiscard]] const std::vector<std::string>& handsKeys();
/// Nothing for what is none of handsKeys().
[[nodiscard]] std::optional<Hands> handsFrom(const std::string& key);
/// What is told to the stand-in; for Load, Load Out and Source the runner adds which.
[[nodiscard]] std::string handsCommand(Hands hands);
/// True when something is plugged in with it, false when out; nothing for what plugs nothing.
[[nodiscard]] std::optional<bool> plugs(Hands hands);

} // namespace otterstone::bench
