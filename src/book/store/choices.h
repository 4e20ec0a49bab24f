// What a house chose, each kept as a text of JSON under its key. One table says how each is read.
#pragma once

#include <span>
#include <string>
#include <vector>

#include "core/judgement/purpose.h"
#include "core/quantity/problem.h"

namespace otterstone::book {

namespace choice {
inline constexpr const char* purpose = "purpose";
inline constexpr const char* needs = "needs";
inline constexpr const char* campaign = "campaign";
} // namespace choice

struct ChoiceKind {
    const char* key;
    const char* words; ///< whose text it is, as the place of a problem
    /// What keeps the text from being read, told with the place.
    Result<void> (*check)(const std::string& text, const std::string& place);
};
[[nodiscard]] std::span<const ChoiceKind> choiceKinds();

/// What "In use" asks of banks, as typed.
struct Needs {
    std::vector<std::string> lines;
    double days = 0.0;
};
/// An empty text asks for nothing.
[[nodiscard]] Result<Needs> needsFromText(const std::string& text, const std::string& place);
[[nodiscard]] std::string needsToText(const Needs& needs);

/// The purpose that is kept; the first that ships where none is, or where it cannot be read.
[[nodiscard]] judgement::Purpose purposeOr(const std::string& text);

} // namespace otterstone::book
