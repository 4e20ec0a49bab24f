// Any table of the window as text for elsewhere, and any curve as a picture: by the buttons of a page, a right click,
// or Ctrl+Shift+C.
#pragma once

#include <QObject>

#include "report/content.h"

class QCustomPlot;
class QHBoxLayout;
class QTableView;

namespace otterstone::app {

/// What the table shows; hidden columns are left out, row headers come in when they are seen.
[[nodiscard]] report::Table tableShown(const QTableView& table);
/// "Copy as Markdown" and "Copy for a spreadsheet", put into a line of buttons.
void addCopyButtons(QHBoxLayout* line, QTableView* table);
void copyAsMarkdown(const QTableView& table);
void copyForSpreadsheet(const QTableView& table);
/// Into the clipboard as SVG and as PNG; whoever pastes takes what it can.
void copyPlot(QCustomPlot* plot);

/// Gives every table and curve of the application its right-click menu.
class CopyMenu : public QObject {
    Q_OBJECT

public:
    explicit CopyMenu(QObject* parent = nullptr);
    /// The table or curve of the page: the one with the keyboard, else the first that is seen. False when there is
    /// none.
    [[nodiscard]] static bool copyFrom(QWidget* page);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
};

} // namespace otterstone::app
