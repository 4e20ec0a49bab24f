// The benches beside each other, each as a small ribbon: what flows, what has flowed, how long it goes on, and what it
// wants next.
#pragma once

#include <map>

#include <QAbstractButton>

#include "app/live/live_bench.h"

class QGridLayout;
class QPushButton;

namespace otterstone::app {

/// One bench. Its band is as long as the run has come, and as thick as what flows is of the most that did.
class BenchRibbon : public QAbstractButton {
    Q_OBJECT

public:
    BenchRibbon(const LiveRun& run, QString bank, QWidget* parent = nullptr);
    void show(const bench::Progress& progress);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QString bank_, head_, figures_, next_;
    int number_;
    bool intoBank_ = false, wants_ = false;
    double peak_ = 0.0, watts_ = 0.0;
    std::optional<double> share_; ///< of its time; nothing: not known how long it goes on
};

class BenchRow : public QWidget {
    Q_OBJECT

public:
    BenchRow(BookSession& session, LiveBench& live, QWidget* parent = nullptr);
    /// `setup`: the page shows what the next run is to be.
    void refresh(bool setup);
    [[nodiscard]] QPushButton* another() const { return another_; }
    [[nodiscard]] BenchRibbon* ribbon(int number) const;

Q_SIGNALS:
    void wanted(int number);
    void anotherWanted();

private:
    BookSession& session_;
    LiveBench& live_;
    QGridLayout* grid_;
    QPushButton* another_;
    std::map<const LiveRun*, BenchRibbon*> ribbons_;
};

} // namespace otterstone::app
