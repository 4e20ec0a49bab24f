// Banks side by side: a row a figure, a column a bank; cells found under another condition than their row's are marked.
#pragma once

#include <QTableWidget>

#include "core/judgement/compare.h"

namespace otterstone::app {

class FiguresTable : public QTableWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit FiguresTable(QWidget* parent = nullptr);
    void show(const judgement::Comparison& comparison);

Q_SIGNALS:
    void workingWanted(const otterstone::Working& working);
    void runWanted(long long run);

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    [[nodiscard]] const judgement::Cell* current() const;
    void explain();
    judgement::Comparison comparison_;
};

} // namespace otterstone::app
