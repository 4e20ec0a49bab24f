// The curve of a run while it grows: watts over time with its marks. Keeps a bounded number of points however long the
// run.
#pragma once

#include <QWidget>

#include "bench/runner/progress.h"

class QCustomPlot;
class QCPGraph;

namespace otterstone::app {

/// Least and greatest watts of equal stretches of time; when there are too many, neighbours are joined. Memory stays
/// flat.
class Envelope {
public:
    struct Bin {
        double from = 0.0, to = 0.0, low = 0.0, high = 0.0, last = 0.0;
    };
    static constexpr std::size_t kMostBins = 1600;
    void add(double time, double watts);
    void clear();
    [[nodiscard]] const std::vector<Bin>& bins() const { return bins_; }

private:
    std::vector<Bin> bins_;
    double width_ = 0.0; ///< seconds of a bin; 0: each point has its own
};

class LiveCurve : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit LiveCurve(QWidget* parent = nullptr);
    void begin(bool intoBank);
    void add(const std::vector<bench::CurvePoint>& points, const std::vector<records::Mark>& marks);
    /// Where the run is expected to end; drawn ahead of the curve.
    void setEnds(std::optional<double> own, std::optional<double> claim, std::optional<double> display);
    void restyle();

protected:
    void showEvent(QShowEvent* event) override;

private:
    void redraw();
    QCustomPlot* plot_;
    Envelope envelope_;
    std::vector<records::Mark> marks_;
    std::optional<double> own_, claim_, display_;
    bool intoBank_ = false;
    class QTimer* soon_;
};

} // namespace otterstone::app
