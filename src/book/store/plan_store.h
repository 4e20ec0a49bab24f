// Runs to be made, published sheets, and choices kept as JSON; internal to this folder, all functions throw SqlError.
#pragma once

#include <vector>

#include "book/names.h"
#include "book/store/choices.h"
#include "book/store/sql.h"
#include "core/records/planned.h"
#include "core/records/run.h"

namespace otterstone::book {

[[nodiscard]] std::vector<PlannedRun> loadPlanned(Connection& c);
Id storePlanned(Connection& c, const PlannedRun& planned);

/// The newest first.
[[nodiscard]] std::vector<Publication> loadPublications(Connection& c, const std::string& scope);
Id storePublication(Connection& c, const Publication& publication);

[[nodiscard]] std::string loadChoice(Connection& c, const std::string& key);
/// The same, and empty where it cannot be read; that it was passed over is told.
[[nodiscard]] std::string loadReadable(Connection& c, const ChoiceKind& kind);
void storeChoice(Connection& c, const std::string& key, const std::string& value);

} // namespace otterstone::book
