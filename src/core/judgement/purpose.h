// What a bank is chosen for: gates it must pass, and scales on which it is then weighed.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/judgement/compare.h"
#include "core/quantity/problem.h"

namespace otterstone::judgement {

/// What a bank must have, or it is out.
struct Gate {
    std::string figure;                ///< key of figureKinds()
    std::vector<std::string> codes;    ///< of a text figure: those that pass; empty: `least` or `most` counts
    std::optional<double> least, most; ///< in the figure's unit inside (shares as fractions, seconds)
    std::string words;                 ///< "must fly in the cabin"
    bool operator==(const Gate&) const = default;
};

/// A figure weighed between two stated anchors: 0 at `worst`, 1 at `best`, straight between, never beyond.
struct Scale {
    std::string figure;
    double worst = 0.0, best = 1.0; ///< in the figure's unit inside; best may be the smaller
    double weight = 1.0;            ///< > 0, relative to the others
    bool operator==(const Scale&) const = default;
};

struct Purpose {
    std::string key, words, about;
    std::vector<Gate> gates;
    std::vector<Scale> scales;
    bool operator==(const Purpose&) const = default;
};

/// Five that come with the program: plane, computer day, many small devices, overnight low power, fastest turn-round.
/// Gates, anchors and weights are common practice, no published source; a tester changes them into an own one.
[[nodiscard]] const std::vector<Purpose>& purposes();
[[nodiscard]] const Purpose* purposeNamed(std::string_view key);

/// As JSON, for the book and the command line. A problem names the key that cannot be read.
[[nodiscard]] std::string purposeToJson(const Purpose& purpose);
[[nodiscard]] Result<Purpose> purposeFromJson(std::string_view json, std::string_view place);

} // namespace otterstone::judgement
