// The sheet as text in each format. Pictures come in as SVG by their key; where there is none, the caption stands
// alone.
#pragma once

#include <map>

#include "report/content.h"

namespace otterstone::report {

using Pictures = std::map<std::string, std::string>; ///< key to SVG, or to a data: address of a photograph

/// One file: style and pictures inside, no script, no request to anywhere. Text is escaped, and every name is kept in
/// its own direction.
[[nodiscard]] std::string toHtml(const Content& content, const Pictures& pictures);
/// GitHub-style tables.
[[nodiscard]] std::string toMarkdown(const Content& content);
/// One flat table (RFC 4180): table, row, column, text, value, expanded_uncertainty, unit, code. Text cells are safe in
/// a spreadsheet.
[[nodiscard]] std::string toCsv(const Content& content);
[[nodiscard]] std::string toJson(const Content& content);

/// One table alone, for copying.
[[nodiscard]] std::string toMarkdown(const Table& table);
[[nodiscard]] std::string toTsv(const Table& table);

/// Text for HTML: & < > " ' escaped, control characters left out.
[[nodiscard]] std::string escaped(std::string_view text);

} // namespace otterstone::report
