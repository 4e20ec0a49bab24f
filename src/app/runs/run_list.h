// The runs of a bank as a list beside the line of its life: found as one types.
#pragma once

#include <vector>

#include <QWidget>

#include "core/life/life.h"
#include "core/records/run.h"

class QLineEdit;
class QListWidget;

namespace otterstone::app {

class RunList : public QWidget {
    Q_OBJECT

public:
    explicit RunList(QWidget* parent = nullptr);
    using QWidget::show;
    /// In the order of the life, as far as it is known yet; else as the book has them.
    void show(const std::vector<records::Run>& runs, const life::Life& life, records::Id current);
    [[nodiscard]] QListWidget* list() const { return list_; }
    [[nodiscard]] QLineEdit* find() const { return find_; }

Q_SIGNALS:
    void runWanted(long long run);

private:
    void filter();
    QLineEdit* find_;
    QListWidget* list_;
};

} // namespace otterstone::app
