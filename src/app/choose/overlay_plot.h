// Curves of several runs or banks over one another, aligned at their start. Each has a letter, a dash and a colour of
// its own, named at the right.
#pragma once

#include <QWidget>

#include "book/store/book.h"

class QCustomPlot;
class QPainter;

namespace otterstone::app {

struct OverlaySeries {
    QString name;
    QVector<double> x, y;
};

enum class OverlayAxis { Time, Energy, Percent };

class OverlayPlot : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit OverlayPlot(QWidget* parent = nullptr);
    /// `along`: what the upright axis counts; watts where it is empty.
    void show(const std::vector<OverlaySeries>& series, OverlayAxis axis, const QString& along = {});
    void paint(QPainter& painter, QSize size);
    [[nodiscard]] QCustomPlot* plot() const { return plot_; }

private:
    void letter(const OverlaySeries& series, int index);
    QCustomPlot* plot_;
};

/// Watts of a run against hours, Wh or percent of its energy, from its start on; from the chunk summaries, so that a
/// run of any length is quick.
[[nodiscard]] OverlaySeries overlayOf(const book::Book& book, const records::Run& run, const QString& name,
                                      OverlayAxis axis);

} // namespace otterstone::app
