// The line of a bank's life: its charge from run to run, the rests between, and where nothing is known.
#pragma once

#include <vector>

#include <QWidget>

#include "core/life/life.h"

namespace otterstone::app {

class LifeLine : public QWidget {
    Q_OBJECT

public:
    explicit LifeLine(QWidget* parent = nullptr);
    using QWidget::show;
    void show(const life::Life& life, long long current);
    /// Where a run stands, in the widget's pixels; empty when it has none of that number.
    [[nodiscard]] QRectF place(long long run) const;
    [[nodiscard]] QSize sizeHint() const override { return {400, 104}; }

Q_SIGNALS:
    void runWanted(long long run);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;

private:
    struct Slot {
        std::size_t passage;
        double from, to; ///< pixels
    };
    [[nodiscard]] std::vector<Slot> places() const;
    [[nodiscard]] const Slot* at(const std::vector<Slot>& all, double x) const;
    [[nodiscard]] double height(double percent) const;
    void paintRest(QPainter& p, const life::Passage& before, const life::Passage& after, double from, double to,
                   double& free) const;
    void paintRun(QPainter& p, const life::Passage& run, const Slot& slot) const;

    life::Life life_;
    long long current_ = 0;
};

/// "full → empty, 32.7 Wh"; of a sheet its kind.
[[nodiscard]] QString passageWords(const life::Passage& passage);

} // namespace otterstone::app
