// A log's bytes, as a file or as pasted; what comes out is analysed.
#include "logs/log.h"
#include "core/kinds/traced/finding.h"
#include "entry.h"
#include "finite.h"

using namespace otterstone;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    auto opened = logs::openText(std::string(fuzz::text(data, size)), "fuzz");
    if (!opened)
        return 0;
    const auto log = logs::readLog(*opened);
    if (!log)
        return 0;
    fuzz::mustBeSound(log->trace);
    for (const auto kind : {records::Kind::Drain, records::Kind::Recharge}) {
        if (const auto finding = kinds::analyse(log->trace, kind, {}))
            fuzz::mustBeFinite(*finding);
    }
    return 0;
}
