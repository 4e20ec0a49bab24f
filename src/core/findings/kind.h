// What a run is for.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace otterstone::findings {

/// Drain and recharge are judged from a trace; the others from a sheet of what was seen step by step (core/behaviour).
enum class Kind { Drain, Recharge, Survey, Staircase, Sharing, PassThrough, LightLoad, Matrix, Pad, Directions, Cells };

/// The word in files: "drain", "pass-through", "light load".
[[nodiscard]] std::string kindKey(Kind kind);
[[nodiscard]] std::optional<Kind> kindFromKey(std::string_view key);
/// "Charger × cable"; what lists and menus say.
[[nodiscard]] std::string kindWords(Kind kind);
/// "a survey", "a sharing round": as one run of it is spoken of.
[[nodiscard]] std::string runWords(Kind kind);
[[nodiscard]] inline bool hasSheet(Kind kind) { return kind != Kind::Drain && kind != Kind::Recharge; }
/// Those that have a sheet, in the order of a tester's work.
[[nodiscard]] const std::vector<Kind>& sheetKinds();

} // namespace otterstone::findings
