// Banks, gear and runs in the tables; internal to this folder, all functions throw SqlError.
#pragma once

#include <map>
#include <vector>

#include "book/names.h"
#include "book/store/sql.h"
#include "core/records/run.h"
#include "core/setup/schools.h"
#include "logs/columns.h"

namespace otterstone::book {

[[nodiscard]] std::vector<Bank> loadBanks(Connection& c);
[[nodiscard]] std::optional<Bank> loadBank(Connection& c, Id id);
Id storeBank(Connection& c, const Bank& bank);

[[nodiscard]] std::vector<Gear> loadGear(Connection& c);
/// How many runs of the book's banks use each piece, as records::uses has it, without reading the runs.
[[nodiscard]] std::map<Id, int> loadGearUses(Connection& c);
Id storeGear(Connection& c, const Gear& gear);

[[nodiscard]] setup::Schools loadSchools(Connection& c);
void storeSchools(Connection& c, const setup::Schools& schools);

[[nodiscard]] std::vector<Run> loadRuns(Connection& c, Id bank);
/// Those of all banks that were begun and not yet closed.
[[nodiscard]] std::vector<Run> loadOpenRuns(Connection& c);
[[nodiscard]] std::optional<Run> loadRun(Connection& c, Id id);
Id storeRun(Connection& c, const Run& run);

[[nodiscard]] std::optional<logs::Mapping> loadMapping(Connection& c, const std::string& header);
void storeMapping(Connection& c, const std::string& header, const logs::Mapping& mapping);

} // namespace otterstone::book
