// Which column is what: one row per role, with the recogniser's reason, changeable by hand.
#pragma once

#include <QWidget>

#include "logs/recogniser.h"

class QComboBox;
class QLabel;

namespace otterstone::app {

class MappingEditor : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit MappingEditor(QWidget* parent = nullptr);
    /// `names` are all columns of the log; `found` what was recognised, null when nothing could be.
    void show(const std::vector<std::string>& names, const logs::Recognition* found, const logs::Mapping& hand);

Q_SIGNALS:
    /// A person chose a column (empty: none by hand) or a unit for a role.
    void columnChosen(otterstone::logs::Role role, const QString& column);
    void unitChosen(otterstone::logs::Role role, const QString& unit);

private:
    struct Row {
        logs::Role role;
        QComboBox* column;
        QComboBox* unit;
        QLabel* reason;
    };
    std::vector<Row> rows_;
};

} // namespace otterstone::app
