// What figures need of the ends of a run: one table for all who give or use a figure.
#pragma once

#include <span>
#include <string>
#include <string_view>

#include "core/kinds/traced/ends.h"

namespace otterstone::kinds {

enum class Need { Any, Full, Empty, Known };

struct FigureNeed {
    Kind kind;
    std::string_view figure; ///< its key
    std::string_view words;  ///< as a reader calls it
    Need begin, end;
    bool beyond = false;  ///< used beyond its run: an end that was only taken is not enough
    bool verdict = false; ///< held against a claim: nor is a beginning that was only taken while it is asked for
};
/// Figures that are not in it need nothing.
[[nodiscard]] std::span<const FigureNeed> figureNeeds();

/// Whether a run with these ends can give the figure.
[[nodiscard]] bool answers(Kind kind, const Ends& ends, std::string_view figure);
/// Which end keeps it from giving the figure, as the end of a sentence: "it began at 92 % (the display said 92 %)";
/// empty when nothing does.
[[nodiscard]] std::string whyNot(Kind kind, const Ends& ends, std::string_view figure);

} // namespace otterstone::kinds
