// One run, from its path down to its samples: ribbon, the sentence to quote, the figures, the curve.
#pragma once

#include <QWidget>

#include "app/book_session.h"
#include "core/working.h"

class QLabel;
class QPushButton;
class QStackedWidget;

namespace otterstone::app {

class CautionPanel;
class FigureButton;
class FlowLayout;
class PathRibbon;
class TraceCurve;

class RunPage : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    RunPage(BookSession& session, QWidget* parent = nullptr);
    /// The bank's runs; `run` or the one shown before or the first is opened.
    void show(book::Id bank, book::Id run = book::kNew);
    [[nodiscard]] book::Id run() const { return run_; }
    [[nodiscard]] QString sentence() const;
    [[nodiscard]] FigureButton* figure(const QString& key) const;
    [[nodiscard]] TraceCurve* curve() const { return curve_; }
    [[nodiscard]] PathRibbon* ribbon() const { return ribbon_; }
    void restyle();
    void uncheckFigures();

Q_SIGNALS:
    void workingWanted(const otterstone::Working& working);
    void gearWanted(long long run, otterstone::book::GearKind kind);
    void logWanted();
    void cautionsWanted();
    void problem(const QString& sentence);

private:
    void fillRuns();
    void openRun(book::Id run);
    void showFinding(const findings::Finding& finding);
    void clearFigures();

    BookSession& session_;
    book::Id bank_ = book::kNew;
    book::Id run_ = book::kNew;
    std::string drawn_; ///< what the curve shows now, so that it is not loaded again for nothing

    QLabel* title_;
    QWidget* runButtons_;
    FlowLayout* runRow_;
    QStackedWidget* stack_;
    PathRibbon* ribbon_;
    QLabel* sentence_;
    QPushButton* copy_;
    QWidget* figures_;
    FlowLayout* figureRow_;
    QLabel* remarks_;
    TraceCurve* curve_;
    QPushButton* remove_;
};

} // namespace otterstone::app
