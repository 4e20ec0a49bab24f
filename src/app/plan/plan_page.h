// Runs still to be made: what would settle a claim, put here from the verdict table, ready to start live or to be
// written down.
#pragma once

#include <QWidget>

#include "app/book_session.h"

class QLabel;
class QPushButton;
class QTableWidget;

namespace otterstone::app {

class PlanPage : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit PlanPage(BookSession& session, QWidget* parent = nullptr);
    void refresh();
    [[nodiscard]] const records::PlannedRun* current() const;
    [[nodiscard]] QTableWidget* table() const { return table_; }

Q_SIGNALS:
    void startWanted(const otterstone::records::PlannedRun& planned);
    void writeWanted(const otterstone::records::PlannedRun& planned);
    void problem(const QString& sentence);

private:
    void showCurrent();
    void tell(const Result<void>& done);

    BookSession& session_;
    std::vector<records::PlannedRun> planned_;
    QTableWidget* table_;
    QLabel* sentence_;
    QPushButton *start_, *write_, *done_, *drop_;
};

} // namespace otterstone::app
