// Banks side by side: a row a figure, a column a bank. More banks than fit beside each other stand as rows instead, and
// a click on a figure puts them in its order. Cells found under another condition than is meant are marked.
#pragma once

#include <QTableWidget>

#include "core/judgement/compare.h"

namespace otterstone::app {

class FiguresTable : public QTableWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit FiguresTable(QWidget* parent = nullptr);
    void show(judgement::SharedComparison comparison);
    /// Banks are rows.
    [[nodiscard]] bool isTurned() const;
    /// Puts the banks in the order of a figure: the best first, those of which it is not known last; once more turns it
    /// round. Precondition: isTurned().
    void sortBy(int figure);

Q_SIGNALS:
    void workingWanted(const otterstone::Working& working);
    void runWanted(long long run);

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    struct Place {
        std::size_t figure, bank;
    };
    [[nodiscard]] Place placeOf(int row, int column) const;
    [[nodiscard]] const judgement::Cell& cellAt(Place at) const;
    [[nodiscard]] const judgement::Cell* current() const;
    [[nodiscard]] QTableWidgetItem* itemFor(Place at) const;
    void fill();
    void putInOrder();
    void explain();
    judgement::SharedComparison comparison_ = std::make_shared<const judgement::Comparison>();
    std::vector<std::size_t> order_; ///< of the banks, as they are shown
    std::string sortedBy_;           ///< a figure's key; empty: as kept
    bool worstFirst_ = false;
};

} // namespace otterstone::app
