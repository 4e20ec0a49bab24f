// How long banks keep a set of devices going: what is needed as people write it, the days, and what follows for each
// bank.
#pragma once

#include <QWidget>

#include "app/book_session.h"
#include "core/plan/use.h"

class QLabel;
class QLineEdit;
class QPlainTextEdit;
class QScrollArea;
class QTableWidget;

namespace otterstone::app {

class UseBands;

class UseView : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit UseView(BookSession& session, QWidget* parent = nullptr);
    void show(SharedEvidence banks);
    [[nodiscard]] QPlainTextEdit* needs() const { return needs_; }
    [[nodiscard]] QLineEdit* days() const { return days_; }
    [[nodiscard]] UseBands* bands() const { return bands_; }
    [[nodiscard]] const plan::UsePlan& plan() const { return plan_; }

Q_SIGNALS:
    void workingWanted(const otterstone::Working& working);
    void problem(const QString& sentence);

private:
    void work();
    void keep();
    void fill(const std::vector<plan::Need>& needs, double days);

    BookSession& session_;
    SharedEvidence banks_ = std::make_shared<const std::vector<evidence::Evidence>>();
    plan::UsePlan plan_;
    QPlainTextEdit* needs_;
    QLineEdit* days_;
    QLabel *wrong_, *sentence_, *inUse_;
    UseBands* bands_;
    QScrollArea* picture_;
    QTableWidget* table_;
};

} // namespace otterstone::app
