// One run, from its path down to its samples: ribbon, the sentence to quote, the figures, the curve.
#pragma once

#include <QWidget>

#include "app/book_session.h"
#include "core/quantity/working.h"

class QLabel;
class QPushButton;
class QShortcut;
class QStackedWidget;

namespace otterstone::app {

class BehaviourView;
class CautionPanel;
class EndsBar;
class FigureButton;
class FlowLayout;
class GaugeCurve;
class LifeLine;
class MeasuredPath;
class PathRibbon;
class RunList;
class StampBar;
class TraceCurve;

class RunPage : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    RunPage(BookSession& session, QWidget* parent = nullptr);
    /// The bank's runs; `run` or the one shown before or the first is opened.
    void show(records::Id bank, records::Id run = records::kNew);
    [[nodiscard]] records::Id run() const { return run_; }
    [[nodiscard]] QString sentence() const;
    [[nodiscard]] FigureButton* figure(const QString& key) const;
    [[nodiscard]] TraceCurve* curve() const { return curve_; }
    [[nodiscard]] PathRibbon* ribbon() const { return ribbon_; }
    [[nodiscard]] StampBar* stamps() const { return stamps_; }
    [[nodiscard]] EndsBar* ends() const { return ends_; }
    [[nodiscard]] LifeLine* life() const { return line_; }
    [[nodiscard]] RunList* list() const { return list_; }
    [[nodiscard]] QString referred() const;
    [[nodiscard]] BehaviourView* behaviour() const { return behaviour_; }
    [[nodiscard]] MeasuredPath* measuredPath() const { return measuredPath_; }
    [[nodiscard]] EndsBar* notedEnds() const { return notedEnds_; }
    void restyle();
    void uncheckFigures();

Q_SIGNALS:
    void workingWanted(const otterstone::Working& working);
    /// `place` is an index of records::kStretches.
    void gearWanted(long long run, int place);
    void aboutWanted(long long run);
    void logWanted();
    void cautionsWanted();
    void problem(const QString& sentence);

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    void showLife();
    void letAnswer(std::size_t answers);
    void openRun(records::Id run);
    void showFinding(const kinds::Finding& finding);
    void clearFigures();
    void showFigures(const kinds::Finding& finding);
    void showCurve(const records::Run& run, const kinds::Finding& finding);
    void fillViews(const records::Run& run);
    void refer(path::Point point, bool explain);

    BookSession& session_;
    records::Id bank_ = records::kNew;
    records::Id run_ = records::kNew;
    std::string view_;  ///< which trace the curve shows: empty for the main one, a point's key, or "gauge"
    std::string drawn_; ///< what the curve shows now, so that it is not loaded again for nothing

    QLabel* title_;
    RunList* list_;
    LifeLine* line_;
    life::Life life_; ///< of the bank that is shown, once it is worked out
    QStackedWidget* stack_;
    PathRibbon* ribbon_;
    QLabel* sentence_;
    QPushButton* copy_;
    EndsBar* ends_;
    std::vector<QShortcut*> answers_;
    QWidget* figures_;
    FlowLayout* figureRow_;
    QWidget* moreFigures_;
    FlowLayout* moreRow_;
    QPushButton* more_;
    QLabel* referred_;
    QLabel* remarks_;
    QWidget* views_;
    FlowLayout* viewRow_;
    QStackedWidget* pictures_;
    TraceCurve* curve_;
    GaugeCurve* gauge_;
    StampBar* stamps_;
    QPushButton *about_, *remove_;
    BehaviourView* behaviour_;
    EndsBar* notedEnds_;         ///< of a notebook that was measured
    MeasuredPath* measuredPath_; ///< so, too
};

} // namespace otterstone::app
