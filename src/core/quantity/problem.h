// The one way in which something a person or a file got wrong travels: as a value, never as an exception.
// The window and the command line both turn it into the same sentence with sentence().
#pragma once

#include <string>

#include <tl/expected.hpp>

#include "core/quantity/say.h"

namespace otterstone {

struct Problem {
    std::string code;  ///< stable, for scripts and tests, e.g. "no_time_column"
    std::string place; ///< where: a file and line, a field of the label, a path in the bundle; may be empty
    std::string text;  ///< what is wrong
    std::string mend;  ///< how to put it right; may be empty

    [[nodiscard]] std::string sentence() const {
        std::string said = place.empty() ? text : place + ": " + text;
        if (!mend.empty())
            said += " " + mend;
        return said;
    }
};

/// A remark on a result that stands all the same; same words in the window, the report and --json.
struct Warning {
    std::string code;
    std::string text;

    Warning() = default;
    Warning(std::string of, Spoken words) : code(std::move(of)), text(std::move(words).text()) {}
};

template<class T>
using Result = tl::expected<T, Problem>;

[[nodiscard]] inline tl::unexpected<Problem> problem(std::string code, std::string place, Spoken text,
                                                     Spoken mend = {}) {
    return tl::unexpected<Problem>(
        Problem{std::move(code), std::move(place), std::move(text).text(), std::move(mend).text()});
}

} // namespace otterstone
