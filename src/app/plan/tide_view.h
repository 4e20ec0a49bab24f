// The tide: each bank's charge over the days of a campaign, with what hands do, and below it the gear as threads that
// join the bank they serve.
#pragma once

#include <QAbstractScrollArea>

#include "app/plan/planner.h"
#include "core/plan/campaign/tide.h"

namespace otterstone::app {

class TideView : public QAbstractScrollArea {
    Q_OBJECT

public:
    using QAbstractScrollArea::show;
    explicit TideView(QWidget* parent = nullptr);
    /// `before`: the plan that it takes the place of; what has moved since shows where it was. Nothing: what was agreed
    /// on.
    void show(const PlanPointer& plan, const PlanPointer& before = {});
    /// Without chosen(). Nothing: no job.
    void choose(std::optional<std::size_t> placed);
    [[nodiscard]] std::optional<std::size_t> current() const { return current_; }
    /// A run is held by the mouse.
    [[nodiscard]] bool isHeld() const { return dragged_.has_value(); }
    /// Where a job lies on the viewport.
    [[nodiscard]] QRectF placeOf(std::size_t placed) const;
    /// The jobs in the order of their begins.
    [[nodiscard]] const std::vector<std::size_t>& order() const { return order_; }

Q_SIGNALS:
    void chosen(qulonglong placed);
    /// It is to begin at this moment, s from the beginning.
    void moveWanted(qulonglong placed, double seconds);
    /// Moved by so many seconds from where it is or is to be.
    void shiftWanted(qulonglong placed, double seconds);
    void pinWanted(qulonglong placed);
    void startWanted();
    void outWanted();

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    bool viewportEvent(QEvent* event) override;

private:
    struct Look; // what is painted with
    void layOut();
    void zoom(double factor, double aroundX);
    void step(int by);
    [[nodiscard]] double x(double seconds) const;
    [[nodiscard]] double secondsAt(double x) const;
    [[nodiscard]] double laneTop(std::size_t bank) const;
    [[nodiscard]] double levelY(std::size_t bank, double percent) const;
    [[nodiscard]] std::optional<std::size_t> jobAt(const QPointF& at) const;
    [[nodiscard]] QString wordsOf(std::size_t placed) const;
    void paintTimes(QPainter& p) const;
    void paintLanes(QPainter& p) const;
    void paintStretch(QPainter& p, std::size_t bank, const plan::campaign::Stretch& s, double strength) const;
    void paintPast(QPainter& p) const;
    void paintHands(QPainter& p) const;
    void paintThreads(QPainter& p) const;
    void paintHead(QPainter& p) const;

    /// Where a job was, s from the beginning.
    [[nodiscard]] std::optional<double> wasAt(const plan::campaign::JobKey& key) const;

    PlanPointer plan_, before_;
    std::vector<std::vector<plan::campaign::Stretch>> tides_;
    std::vector<plan::campaign::Span> absent_;
    std::vector<std::size_t> order_;  ///< jobs by their begins
    std::vector<std::size_t> pieces_; ///< those in use, by their first use
    std::optional<std::size_t> current_;
    double first_ = 0.0, last_ = 1.0; ///< s shown at zoom 1
    double zoom_ = 1.0, laneHeight_ = 56.0;
    std::optional<std::size_t> dragged_;
    double dragFrom_ = 0.0, dragBy_ = 0.0; ///< pixels
};

} // namespace otterstone::app
