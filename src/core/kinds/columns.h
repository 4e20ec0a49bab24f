// Columns in short, for the kinds' own lists of them.
#pragma once

#include <utility>

#include "core/kinds/rows.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

[[nodiscard]] inline Column anyText(const char* key, const char* words, const char* hint) {
    return {key, sayAsItStands(words), sayAsItStands(hint)};
}
[[nodiscard]] inline Column number(const char* key, const char* words, const char* hint) {
    return {key, sayAsItStands(words), sayAsItStands(hint), {}, true};
}
/// An empty cell means what stands above it.
[[nodiscard]] inline Column ditto(const char* key, const char* words, const char* hint) {
    return {key, sayAsItStands(words), sayAsItStands(hint), {}, false, true};
}
[[nodiscard]] inline Column oneOf(const char* key, const char* words, const char* hint,
                                  std::vector<std::string> choices, bool repeats = false) {
    return {key, sayAsItStands(words), sayAsItStands(hint), std::move(choices), false, repeats};
}
[[nodiscard]] inline Column spare(Column c) {
    c.spare = true;
    return c;
}
[[nodiscard]] inline Column note() { return anyText("note", "Note", "anything"); }

} // namespace otterstone::kinds
