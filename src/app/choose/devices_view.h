// Devices on the banks: who charges which device how, a device a row and a bank a column, or turned.
#pragma once

#include <QFutureWatcher>
#include <QWidget>

#include "app/book_session.h"
#include "core/evidence/devices.h"

class QComboBox;
class QLabel;
class QPushButton;
class QTableWidget;

namespace otterstone::app {

class DevicesView : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit DevicesView(QWidget* parent = nullptr);
    /// Worked out in a worker's thread; told as ready().
    void show(SharedEvidence banks);
    [[nodiscard]] const evidence::DevicesAcross& devices() const { return all_; }
    [[nodiscard]] QTableWidget* table() const { return table_; }
    [[nodiscard]] QComboBox* asked() const { return asked_; }
    [[nodiscard]] QPushButton* turn() const { return turn_; }

Q_SIGNALS:
    void ready();
    void workingWanted(const otterstone::Working& working);
    void runWanted(long long run);

private:
    void fill();
    void explain();
    [[nodiscard]] const kinds::Observation* at(int row, int column) const;
    [[nodiscard]] kinds::What what() const;

    QFutureWatcher<evidence::DevicesAcross> worker_;
    evidence::DevicesAcross all_;
    QComboBox* asked_;
    QPushButton* turn_;
    QLabel *sentence_, *hint_;
    QTableWidget* table_;
};

} // namespace otterstone::app
