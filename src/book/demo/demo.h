// The invented island scenario (demo/scenario.json), run on the simulated bank with fixed seeds into a book.
#pragma once

#include <vector>

#include "book/names.h"
#include "book/store/book.h"
#include "core/model/simulate.h"

namespace otterstone::book {

struct DemoRun {
    Bank bank; ///< without id
    Run run;   ///< gear by the scenario's own ids
    model::Reading reading;
    model::SimulatedRun simulated;
    std::string specimenOf; ///< the bank of which this is another piece; empty for none
    std::string into;       ///< the bank it was poured into; empty for none
};

/// All runs with their truth, in the scenario's order; the same at every call.
[[nodiscard]] std::vector<DemoRun> simulateDemo();
[[nodiscard]] std::vector<Gear> demoGear();
/// The simulated bank behind a bank of the scenario, ports and all; nothing for another name.
[[nodiscard]] std::optional<model::Bank> demoTruth(std::string_view bank);
/// Writes the scenario into a new book, findings worked out.
[[nodiscard]] Result<std::unique_ptr<Book>> makeDemo(const QString& path);

} // namespace otterstone::book
