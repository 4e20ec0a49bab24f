// What is printed on a bank, as options: the same for checking a label and for putting a bank into a book.
#pragma once

#include <string>
#include <vector>

#include "core/label/label.h"
#include "core/quantity/problem.h"

namespace CLI {
class App;
}

namespace otterstone::cli {

struct LabelOptions {
    bool json = false;
    std::string mah, cellVolts, wh, printed, outputMah, outputVolts, weight, portWatts, totalWatts, totalAmps,
        inputWatts, rechargeTime, shared, size, price, warranty, charges;
    bool passThrough = false, lowCurrent = false;
    std::vector<std::string> tiers, ports;
};

/// Those of the figures printed on the whole bank, and --port. With `onePort`, for a look at a label alone, --tier and
/// --port-watts are of one port without a name, and what no sum on a label uses (price, charges, …) is left out.
void addLabelOptions(CLI::App& command, LabelOptions& into, bool onePort);
/// Problems: of each option by its name.
[[nodiscard]] Result<label::Label> labelFrom(const LabelOptions& options);

} // namespace otterstone::cli
