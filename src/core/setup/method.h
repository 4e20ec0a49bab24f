// Which way of reckoning a finding was made by, and why it was changed.
#pragma once

#include <string>

namespace otterstone::setup {

/// Changes whenever a sum changes, so that cached findings are worked out anew.
inline constexpr int kMethodVersion = 5;

/// Why figures of an earlier method read differently now, as the end of a sentence; empty for the present method.
[[nodiscard]] inline std::string whyFiguresMove(int method) {
    std::string why;
    const auto because = [&why](const char* words) { why += (why.empty() ? "" : "; ") + std::string(words); };
    if (method < 2)
        because("findings name their schools, and energies are referred along the path");
    if (method < 3)
        because(
            "what lies between samples, in gaps and below a meter's last digit is reckoned so that the ± holds on pulsed and coarse logs; errors of one instrument count as common only as far as they are; usable "
            "energy rests on what else is known of the bank; one odd reading decides nothing about how a run went");
    if (method < 4)
        because("a figure is given only where the run began and ended as it needs");
    if (method < 5)
        because(
            "a recharge longer than claimed counts only if its charger could give what the label's ports take, and a notebook ends where its tester wrote that it did");
    return why;
}

} // namespace otterstone::setup
