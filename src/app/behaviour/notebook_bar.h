// Above a notebook's grid: its devices, each a column, the columns that are hidden while nobody uses them, and, where a
// meter was read, which one and which way it flowed.
#pragma once

#include <set>
#include <string>

#include <QWidget>

#include "core/records/run.h"
#include "core/setup/facts.h"

class QComboBox;
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
    void show(const setup::Facts& facts, const records::Run& run, const std::vector<records::Gear>& gear, bool another);
    /// Columns that are seen though nobody has used them yet, by key.
    void ask(const std::set<std::string>& columns);
    [[nodiscard]] QLineEdit* device() const { return device_; }
    [[nodiscard]] QToolButton* columns() const { return columns_; }

Q_SIGNALS:
    void columnsChanged();
    /// The meter that was read, or the bank's own display; kNew for one that is not named.
    void readerChosen(long long meter, bool byDisplay);

private:
    void fill();
    void takeDevice();
    void chooseColumns();
    void showFlow();
    void chooseFlow(int flow);

    SheetModel* model_;
    TypingGrid* grid_;
    FlowLayout* row_;
    std::vector<QPushButton*> chips_;
    QLineEdit* device_;
    QToolButton* columns_;
    QMenu* menu_;
    QComboBox *reader_, *flow_;
    std::set<std::string> asked_;       ///< keys of spare columns that are shown though empty
    std::optional<std::size_t> edited_; ///< the device whose heading is being changed
};

} // namespace otterstone::app
