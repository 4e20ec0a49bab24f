#include "app/gear/gear_form.h"

#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QStyle>
#include <QVBoxLayout>

#include "app/theme.h"

namespace otterstone::app {

GearForm::GearForm(QWidget* parent) : QWidget(parent), form_(new QFormLayout), wrong_(new QLabel) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    form_->setRowWrapPolicy(QFormLayout::WrapLongRows);
    all->addLayout(form_);
    wrong_->setObjectName(QStringLiteral("problem"));
    wrong_->setWordWrap(true);
    wrong_->hide();
    all->addWidget(wrong_);
}

void GearForm::show(const records::Gear& gear) {
    const bool sameForm = gear.id == gear_.id && gear.kind == gear_.kind && !edits_.empty();
    gear_ = gear;
    if (!sameForm) {
        clear();
        gear_ = gear;
        fields_ = fieldsOf(gear.kind);
        for (const GearField& field : fields_) {
            auto* edit = new QLineEdit;
            edit->setPlaceholderText(field.placeholder);
            edit->setAccessibleName(field.label);
            form_->addRow(field.label, edit);
            edits_.push_back(edit);
            connect(edit, &QLineEdit::editingFinished, this, &GearForm::keep);
        }
    }
    for (std::size_t k = 0; k < fields_.size(); ++k) {
        if (!edits_[k]->hasFocus() || !edits_[k]->isModified() || !sameForm) // what is being typed is not overwritten
            edits_[k]->setText(fields_[k].text(gear_));
        edits_[k]->setCursorPosition(0);
    }
}

// A field that goes while it has the keyboard says that its editing is finished; its neighbours may be gone by then.
GearForm::~GearForm() {
    for (QLineEdit* edit : edits_)
        edit->disconnect(this);
}

void GearForm::clear() {
    for (QLineEdit* edit : edits_)
        edit->disconnect(this);
    while (form_->rowCount() > 0)
        form_->removeRow(0);
    edits_.clear();
    fields_.clear();
    gear_ = {};
    wrong_->hide();
}

void GearForm::focusName() {
    if (edits_.empty())
        return;
    edits_.front()->setFocus();
    edits_.front()->selectAll();
}

QLineEdit* GearForm::field(const QString& label) const {
    for (std::size_t k = 0; k < fields_.size(); ++k) {
        if (fields_[k].label == label)
            return edits_[k];
    }
    return nullptr;
}

void GearForm::keep() {
    records::Gear after = gear_;
    std::optional<Problem> bad;
    for (std::size_t k = 0; k < fields_.size(); ++k) {
        const auto wrong = fields_[k].take(after, edits_[k]->text().toStdString());
        edits_[k]->setProperty("wrong", wrong.has_value());
        edits_[k]->style()->unpolish(edits_[k]);
        edits_[k]->style()->polish(edits_[k]);
        if (wrong && !bad)
            bad = wrong;
    }
    if (after.name.empty() && !bad)
        bad = Problem{"no_name", "name", "a piece of gear needs a name.", ""};
    if (after.reads())
        after.meter.name = after.name;
    wrong_->setText(bad ? qs(bad->sentence()) : QString());
    wrong_->setVisible(bad.has_value());
    if (bad)
        return;
    for (QLineEdit* edit : edits_)
        edit->setModified(false);
    if (after == gear_)
        return;
    gear_ = after;
    Q_EMIT edited(after);
}

} // namespace otterstone::app
