// The verdict table of a bank: each claim of its label, what was found, the verdict, and the way to its run or to the
// one that would settle it.
#pragma once

#include <QTableWidget>

#include "core/judgement/hold.h"

namespace otterstone::app {

class ClaimsTable : public QTableWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit ClaimsTable(QWidget* parent = nullptr);
    void show(const judgement::Judged& judged);
    [[nodiscard]] const judgement::Held* current() const;
    [[nodiscard]] QSize sizeHint() const override;

Q_SIGNALS:
    void workingWanted(const otterstone::Working& working);
    void runWanted(long long run);
    /// What would settle the row is to be put into the plan.
    void planWanted(const otterstone::judgement::Held& row);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void fill();
    judgement::Judged judged_;
    std::vector<const judgement::Held*>
        rows_; ///< of judged_, as shown; nothing: the line that stands for those not tested
    bool unfolded_ = false;
};

/// A sign of its own shape for each verdict, for tables and the shelf.
[[nodiscard]] QString verdictSign(judgement::Verdict v);
[[nodiscard]] QColor verdictColour(judgement::Verdict v);

} // namespace otterstone::app
