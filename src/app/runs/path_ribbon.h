// The path ribbon: the energy path of a run as one band whose width is watt-hours. Losses peel off downward, read
// points carry notches, unknown stretches are hatched. A click or Return on a stretch chooses its gear. The figure's
// notch is dragged, or moved by the arrow keys, to another point: the figure is referred there. Up goes to the notches,
// Down to the stretches.
#pragma once

#include <QWidget>

#include "app/runs/ribbon_model.h"

namespace otterstone::app {

class PathRibbon : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit PathRibbon(QWidget* parent = nullptr);
    void show(const Ribbon& ribbon, bool intoBank);
    void clear();
    [[nodiscard]] const Ribbon& ribbon() const { return ribbon_; }
    [[nodiscard]] QSize sizeHint() const override { return {900, 188}; }
    /// Draws it as it stands with another painter, for a sheet.
    void paint(QPainter& painter) const;

Q_SIGNALS:
    /// An index of records::kStretches.
    void gearWanted(int place);
    /// The figure's notch was moved here; `explain` when its working is asked for too.
    void pointChosen(otterstone::path::Point point, bool explain);

protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

private:
    [[nodiscard]] QRectF stretchRect(int index) const;
    [[nodiscard]] double thickness(std::optional<double> wattHours) const;
    void paintStretch(QPainter& p, int index) const;
    void paintNotch(QPainter& p, const RibbonNotch& notch) const;
    [[nodiscard]] double notchX(const RibbonNotch& notch) const;
    [[nodiscard]] int notchNear(QPointF at) const;
    void choose(int index);
    void moveNotch(int to, bool explain);
    void sayWhere();

    Ribbon ribbon_;
    bool intoBank_ = false;
    int current_ = 0;
    int hovered_ = -1;
    int notch_ = 0;          ///< the figure's
    bool onNotches_ = false; ///< which row the keyboard is on
    bool dragging_ = false;
};

} // namespace otterstone::app
