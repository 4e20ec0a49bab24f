// Any table of the window as text for elsewhere: Markdown, or tab-separated for a spreadsheet.
#pragma once

#include <string>

class QHBoxLayout;
class QTableWidget;

namespace otterstone::report {
struct Table;
}

namespace otterstone::app {

/// What the table shows, row headers included when it has any that are seen.
[[nodiscard]] report::Table tableShown(const QTableWidget& table);
/// "Copy as Markdown" and "Copy for a spreadsheet", put into a line of buttons.
void addCopyButtons(QHBoxLayout* line, QTableWidget* table);

} // namespace otterstone::app
