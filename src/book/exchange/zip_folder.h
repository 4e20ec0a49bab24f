// Unpacking a zipped bundle, safely: names stay inside the folder, sizes stay sane.
#pragma once

#include <QString>

#include "core/quantity/problem.h"

namespace otterstone::book {

/// Unpacks into an existing empty folder. Problems: bad_zip.
[[nodiscard]] Result<void> unzip(const QString& zip, const QString& folder);

} // namespace otterstone::book
