#include "core/findings/kind.h"

#include <algorithm>
#include <iterator>

namespace otterstone::findings {

namespace {

struct Words {
    Kind kind;
    const char* key;
    const char* words;
    const char* run;
};

constexpr Words kWords[] = {
    {Kind::Drain, "drain", "Drain", "a drain"},
    {Kind::Recharge, "recharge", "Recharge", "a recharge"},
    {Kind::Survey, "survey", "Port survey", "a survey"},
    {Kind::Staircase, "staircase", "Load staircase", "a staircase"},
    {Kind::Sharing, "sharing", "Sharing", "a sharing round"},
    {Kind::PassThrough, "pass-through", "Pass-through and back-up", "a pass-through run"},
    {Kind::LightLoad, "light load", "Light load and idle", "a ladder of light loads"},
    {Kind::Matrix, "matrix", "Charger × cable", "a matrix"},
    {Kind::Pad, "pad", "Wireless pad", "a run on the pad"},
    {Kind::Directions, "directions", "Which way power flows", "a look at which way power flows"},
    {Kind::Cells, "cells", "Cell by cell", "a run cell by cell"}};

const Words& of(Kind kind) { return kWords[static_cast<std::size_t>(kind)]; }

} // namespace

std::string kindKey(Kind kind) { return of(kind).key; }
std::string kindWords(Kind kind) { return of(kind).words; }
std::string runWords(Kind kind) { return of(kind).run; }

std::optional<Kind> kindFromKey(std::string_view key) {
    const auto at = std::find_if(std::begin(kWords), std::end(kWords), [key](const Words& w) { return key == w.key; });
    return at == std::end(kWords) ? std::nullopt : std::optional(at->kind);
}

const std::vector<Kind>& sheetKinds() {
    static const std::vector<Kind> kKinds = {Kind::Survey,      Kind::Staircase,  Kind::Sharing,
                                             Kind::PassThrough, Kind::LightLoad,  Kind::Matrix,
                                             Kind::Pad,         Kind::Directions, Kind::Cells};
    return kKinds;
}

} // namespace otterstone::findings
