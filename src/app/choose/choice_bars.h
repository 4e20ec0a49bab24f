// What makes up each bank's score: one bar a bank, a piece a scale; beside it the score with ± and the chance of being
// the best.
#pragma once

#include <QWidget>

#include "core/judgement/rank.h"

class QPainter;

namespace otterstone::app {

/// How tall it wants to be.
[[nodiscard]] int choiceHeight(const judgement::Ranking& ranking, const judgement::Purpose& purpose, int width);
void paintChoice(QPainter& painter, const QRectF& area, const judgement::Comparison& comparison,
                 const judgement::Ranking& ranking, const judgement::Purpose& purpose);

class ChoiceBars : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit ChoiceBars(QWidget* parent = nullptr);
    void show(judgement::SharedComparison comparison, const judgement::Ranking& ranking,
              const judgement::Purpose& purpose);

Q_SIGNALS:
    /// A bank's bar was clicked: its place in the ranking.
    void placeWanted(int place);

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    judgement::SharedComparison comparison_ = std::make_shared<const judgement::Comparison>();
    judgement::Ranking ranking_;
    judgement::Purpose purpose_;
};

} // namespace otterstone::app
