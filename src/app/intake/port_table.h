// The ports of a bank: one row each, tiers typed as they are printed ("5V 3A; 9V 2.22A").
#pragma once

#include <QWidget>

#include "core/label/label.h"

class QLabel;
class QTableWidget;

namespace otterstone::app {

class PortTable : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit PortTable(QWidget* parent = nullptr);
    void show(const std::vector<label::Port>& ports);
    [[nodiscard]] std::vector<label::Port> ports() const { return ports_; }

Q_SIGNALS:
    void edited();

private:
    void fill();
    void readRow(int row);

    std::vector<label::Port> ports_;
    QTableWidget* table_;
    QLabel* problem_;
};

} // namespace otterstone::app
