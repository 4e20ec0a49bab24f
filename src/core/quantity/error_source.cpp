#include "core/quantity/error_source.h"

#include "core/quantity/say.h"

namespace otterstone {

std::string ErrorSource::words() const {
    const std::string said = sayAsItStands(what);
    return sharedBetweenBanks() && !id.empty() ? id + ": " + said : said;
}

} // namespace otterstone
