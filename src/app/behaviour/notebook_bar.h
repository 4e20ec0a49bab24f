// Above a notebook's grid: its devices, each a column, and the columns that are hidden while nobody uses them.
#pragma once

#include <set>
#include <string>

#include <QWidget>

#include "core/setup/facts.h"

class QLineEdit;
class QMenu;
class QPushButton;
class QToolButton;

namespace otterstone::app {

class FlowLayout;
class SheetModel;
class TypingGrid;

class NotebookBar : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    NotebookBar(SheetModel* model, TypingGrid* grid, QWidget* parent = nullptr);
    /// For a run; `another` than the one before forgets which columns were asked for.
    void show(const setup::Facts& facts, bool another);
    [[nodiscard]] QLineEdit* device() const { return device_; }
    [[nodiscard]] QToolButton* columns() const { return columns_; }

Q_SIGNALS:
    void columnsChanged();

private:
    void fill();
    void takeDevice();
    void chooseColumns();

    SheetModel* model_;
    TypingGrid* grid_;
    FlowLayout* row_;
    std::vector<QPushButton*> chips_;
    QLineEdit* device_;
    QToolButton* columns_;
    QMenu* menu_;
    std::set<std::string> asked_;       ///< keys of spare columns that are shown though empty
    std::optional<std::size_t> edited_; ///< the device whose heading is being changed
};

} // namespace otterstone::app
