// One piece of gear, written down: its fields, and a clear word when one cannot be understood.
#pragma once

#include <QWidget>

#include "app/gear/gear_fields.h"

class QFormLayout;
class QLabel;
class QLineEdit;

namespace otterstone::app {

class GearForm : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit GearForm(QWidget* parent = nullptr);
    ~GearForm() override;
    void show(const records::Gear& gear);
    void clear();
    void focusName();
    [[nodiscard]] QLineEdit* field(const QString& label) const;

Q_SIGNALS:
    /// Every field is understood; nothing is emitted otherwise.
    void edited(const otterstone::records::Gear& gear);

private:
    void keep();

    records::Gear gear_;
    std::vector<GearField> fields_;
    std::vector<QLineEdit*> edits_;
    QFormLayout* form_;
    QLabel* wrong_;
};

} // namespace otterstone::app
