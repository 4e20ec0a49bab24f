// Readings by hand: a grid that makes a trace as one types, with its curve, its finding and its doubt; or only the
// counters read at the end.
#pragma once

#include <QWidget>

#include "app/book_session.h"

class QComboBox;
class QCustomPlot;
class QLabel;
class QLineEdit;
class QPushButton;
class QStackedWidget;

namespace otterstone::app {

class EndsFields;

class HandGrid;
class HandModel;

class HandPage : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    HandPage(BookSession& session, QWidget* parent = nullptr);
    /// An empty grid for a bank; `laidOut`: a run with its kind and its gear.
    void begin(records::Id bank, const records::Run& laidOut = {});
    /// Goes on with a run that was written down by hand.
    void goOn(records::Id run);
    [[nodiscard]] HandGrid* grid() const { return grid_; }
    [[nodiscard]] HandModel* model() const { return model_; }
    [[nodiscard]] EndsFields* ends() const { return ends_; }
    [[nodiscard]] QString sentence() const;
    void restyle();

Q_SIGNALS:
    void taken(long long run);
    void left();
    void problem(const QString& sentence);

private:
    void buildHead(class QVBoxLayout* into);
    void fillGear();
    void reckon();
    void draw(const trace::Trace& trace);
    /// With the stamps that were set besides the rows.
    [[nodiscard]] std::vector<records::Mark> withStamps(std::vector<records::Mark> marks) const;
    void keep();
    [[nodiscard]] records::Run typedRun() const;
    [[nodiscard]] bool countersOnly() const;
    [[nodiscard]] records::Kind kind() const;

    BookSession& session_;
    records::Id bank_ = records::kNew;
    records::Run base_; ///< what is gone on with; its id is kNew for a new run
    QLabel* title_;
    QComboBox *kind_, *meter_, *between_, *what_;
    QLineEdit* name_;
    EndsFields* ends_;
    QStackedWidget* ways_;
    HandGrid* grid_;
    HandModel* model_;
    QLineEdit *wattHours_, *milliampHours_, *meanVolts_, *time_;
    QCustomPlot* plot_;
    QLabel *sentence_, *doubt_, *remarks_;
    QPushButton* keep_;
};

} // namespace otterstone::app
