// Error sources by the words a budget has for them, for tests.
#pragma once

#include <string>

#include "core/quantity/error_source.h"

namespace otterstone::testing {

/// "meter: volts gain" is an instrument's, "repeats" the scatter of repeats, anything else a piece of the bench's.
inline ErrorSource source(const std::string& words) {
    if (words == "repeats")
        return ErrorSource::scatterOf("");
    const std::size_t colon = words.find(": ");
    return colon == std::string::npos ? ErrorSource::ofBench("", words)
                                      : ErrorSource::ofInstrument(words.substr(0, colon), words.substr(colon + 2));
}

} // namespace otterstone::testing
