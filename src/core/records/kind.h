// What a run is for.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace otterstone::records {

/// Drain and recharge are judged from a trace; the others from a sheet of what was seen step by step (core/kinds).
enum class Kind {
    Drain,
    Recharge,
    Notebook,
    Survey,
    Staircase,
    Sharing,
    PassThrough,
    LightLoad,
    Matrix,
    Directions,
    Cells
};

struct KindName {
    Kind kind;
    const char* key;   ///< in files
    const char* words; ///< what lists and menus say
    const char* run;   ///< as one run of it is spoken of
    bool sheet;        ///< judged from a sheet
};
/// In the order of the enumeration.
inline constexpr std::array<KindName, 11> kKinds{
    {{Kind::Drain, "drain", "Drain", "a drain", false},
     {Kind::Recharge, "recharge", "Recharge", "a recharge", false},
     {Kind::Notebook, "notebook", "Notebook", "a notebook", true},
     {Kind::Survey, "survey", "Port survey", "a survey", true},
     {Kind::Staircase, "staircase", "Load staircase", "a staircase", true},
     {Kind::Sharing, "sharing", "Sharing", "a sharing round", true},
     {Kind::PassThrough, "pass-through", "Pass-through and back-up", "a pass-through run", true},
     {Kind::LightLoad, "light load", "Light load and idle", "a ladder of light loads", true},
     {Kind::Matrix, "matrix", "Source × cable", "a matrix", true},
     {Kind::Directions, "directions", "Which way power flows", "a look at which way power flows", true},
     {Kind::Cells, "cells", "Cell by cell", "a run cell by cell", true}}};

/// The word in files: "drain", "pass-through", "light load".
[[nodiscard]] std::string kindKey(Kind kind);
[[nodiscard]] std::optional<Kind> kindFromKey(std::string_view key);
/// "Source × cable".
[[nodiscard]] std::string kindWords(Kind kind);
/// "a survey", "a sharing round".
[[nodiscard]] std::string runWords(Kind kind);
[[nodiscard]] bool hasSheet(Kind kind);
/// Those that have a sheet, in the order of a tester's work.
[[nodiscard]] const std::vector<Kind>& sheetKinds();

} // namespace otterstone::records
