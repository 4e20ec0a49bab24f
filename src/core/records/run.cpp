#include "core/records/run.h"

#include <algorithm>
#include <iterator>

namespace otterstone::records {

bool uses(const Run& run, Id gear) {
    return std::any_of(std::begin(kStretches), std::end(kStretches),
                       [&](const Stretch& s) { return run.*(s.piece) == gear; }) ||
           std::any_of(run.also.begin(), run.also.end(), [&](const AlsoTrace& t) { return t.meter == gear; });
}

} // namespace otterstone::records
