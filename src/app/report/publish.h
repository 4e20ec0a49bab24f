// Writing a sheet as the file its name asks for.
#pragma once

#include "app/report/pictures.h"

namespace otterstone::app {

/// .html, .pdf, .md, .csv or .json. A problem with another ending, or when the file cannot be written; then nothing of
/// it is left.
[[nodiscard]] Result<void> writeSheet(const book::Book& book, const report::Material& material,
                                      const report::Content& content, const QString& file);

} // namespace otterstone::app
