// The curve of a run with its phases and marks; x is time, energy or percent at one key.
#pragma once

#include <QWidget>

#include "app/runs/curve_data.h"
#include "core/kinds/traced/finding.h"

class QCustomPlot;
class QCPGraph;
class QCPItemLine;
class QCPItemText;
class QLabel;
class QPushButton;
class QTimer;

namespace otterstone::app {

class TraceCurve : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit TraceCurve(QWidget* parent = nullptr);
    void show(CurveData samples, const kinds::Finding* finding, const std::vector<records::Mark>& marks, bool intoBank);
    void clear();
    /// Colours anew, after a change of theme.
    void restyle();

    [[nodiscard]] Axis axis() const { return axis_; }
    [[nodiscard]] Quantity quantity() const { return quantity_; }
    void setAxis(Axis axis);
    void setQuantity(Quantity quantity);
    void showAll();
    void zoom(double factor);
    void pan(double share);
    /// The moment under the lens, on the trace's own clock.
    [[nodiscard]] double lensTime();

    /// One synchronous redraw of what is visible, as a zoom does it: for the benchmark.
    void redrawNow();

Q_SIGNALS:
    /// A stamp's key was pressed (stampKeys()).
    void stampWanted(otterstone::records::Mark::What what);

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    void buildControls();
    void refreshSoon();
    void refresh();
    void draw(std::size_t mostReads);
    void decorate();
    void fitHeight();
    void addPhase(const trace::Phase& phase);
    void addMark(const records::Mark& mark, int level);
    void moveLens(double x);
    [[nodiscard]] QString axisLabel() const;
    [[nodiscard]] double phaseTop() const; ///< as a share of the plot's height

    QCustomPlot* plot_;
    QCPGraph* curve_ = nullptr;
    QCPItemLine* lensLine_ = nullptr;
    QLabel* lensWords_;
    std::vector<QPushButton*> axisButtons_;
    std::vector<QPushButton*> quantityButtons_;
    QTimer* soon_;

    CurveData data_;
    std::optional<kinds::Finding> finding_;
    std::vector<records::Mark> marks_;
    bool intoBank_ = false;
    Axis axis_ = Axis::Time;
    Quantity quantity_ = Quantity::Watts;
    double lens_ = 0.0;
    std::pair<double, double> decorated_; ///< the range the marks were laid out for
    int laidOut_ = 0;                     ///< height of the plot for which marks and phases were laid out
};

} // namespace otterstone::app
