// Which banks are held side by side: a box for each, found by words where there are many.
#pragma once

#include <set>
#include <vector>

#include <QWidget>

#include "core/records/bank.h"

class QLabel;
class QLineEdit;
class QPushButton;
class QScrollArea;

namespace otterstone::app {

class BankPicker : public QWidget {
    Q_OBJECT

public:
    explicit BankPicker(QWidget* parent = nullptr);
    struct Bank {
        records::Id id = records::kNew;
        QString name;
        QString searched; ///< all that words are looked for in, folded
    };
    void show(std::vector<Bank> banks);
    [[nodiscard]] bool isIn(records::Id bank) const { return !leftOut_.contains(bank); }
    /// All are in again.
    void reset() { leftOut_.clear(); }
    [[nodiscard]] QLineEdit* findLine() const { return find_; }

Q_SIGNALS:
    void changed();

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    void refill();
    void fitBoxes();
    void count();
    /// Those that are found, and no others; or all.
    void take(bool foundOnly);
    [[nodiscard]] bool isFound(const Bank& bank) const;

    std::vector<Bank> banks_;
    std::set<records::Id> leftOut_;
    QWidget* tools_;
    QLabel* count_;
    QLineEdit* find_;
    QPushButton* only_;
    QPushButton* all_;
    QScrollArea* area_;
    QWidget* boxes_;
};

} // namespace otterstone::app
