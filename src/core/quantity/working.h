// The opened sum behind a figure: a small tree that the window, the report and --json all render alike.
#pragma once

#include <string>

#include "core/quantity/format.h"
#include "core/quantity/measured.h"
#include "core/quantity/say.h"
#include "core/quantity/shared_list.h"
#include "core/quantity/units.h"

namespace otterstone {

struct Working {
    std::string key;     ///< stable name of the figure, as in --json; may be empty for a leaf
    std::string label;   ///< "delivered share"
    std::string formula; ///< with the numbers in place: "57.9 Wh ÷ 74 Wh"; empty for what was read, not computed
    Measured value;
    Unit unit = Unit::None;
    std::string point;   ///< where on the energy path, in words; empty when the figure has no point
    std::string note;    ///< the school used, a correction, why something was left out
    bool isText = false; ///< a leaf that only says something (`note`), without a value
    bool partialDoubt =
        false; ///< the value's doubt lacks the meter's accuracy: a ± would promise too much, none is shown
    SharedList<Working> parts;
    std::string
        question; ///< where testers disagree on this figure: the question's key (core/setup/schools.h); else empty
    std::string school;         ///< the answer this figure follows
    SharedList<Working> others; ///< the same figure as other schools have it; these have no others

    [[nodiscard]] std::string shown() const {
        if (isText)
            return {};
        return partialDoubt ? showRoughly(value.value(), unit) : show(value, unit);
    }
};

/// A leaf that only says something.
[[nodiscard]] inline Working remark(Spoken label, Spoken note) {
    Working w;
    w.label = std::move(label).text();
    w.note = std::move(note).text();
    w.isText = true;
    return w;
}

} // namespace otterstone
