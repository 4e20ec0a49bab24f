// A finding out of a book's cache, as a stranger may have left it there: read or worked out anew, and what is read can
// be walked through, shown, and is written as it was.
#include <nlohmann/json.hpp>

#include "core/kinds/traced/json.h"
#include "entry.h"

using namespace otterstone;

namespace {

void walk(const Working& w) {
    (void)w.shown();
    (void)kinds::budgetText(w);
    fuzz::must(std::isfinite(w.value.value()) && std::isfinite(w.value.expanded()), "a figure is finite");
    for (const Working& part : w.parts)
        walk(part);
    for (const Working& other : w.others)
        walk(other);
}

} // namespace

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto finding = kinds::fromCache(std::string(fuzz::text(data, size)));
    if (!finding)
        return 0;
    for (const Working& w : finding->figures)
        walk(w);
    (void)kinds::toContract(*finding);
    const std::string written = kinds::toCache(*finding);
    const auto again = kinds::fromCache(written);
    fuzz::must(again && kinds::toCache(*again) == written, "a finding that is written is read again as it was");
    return 0;
}
