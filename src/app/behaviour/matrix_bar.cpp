#include "app/behaviour/matrix_bar.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>

#include "app/behaviour/matrix_model.h"
#include "app/theme.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/typing_grid.h"
#include "app/widgets/window_key.h"

namespace otterstone::app {

namespace {

using kinds::MatrixAxis;

QString words(MatrixAxis axis) { return QObject::tr(kinds::nameOf(axis).words).toLower(); }

} // namespace

MatrixBar::MatrixBar(MatrixModel* model, TypingGrid* grid, QWidget* parent)
    : QWidget(parent), model_(model), grid_(grid), turned_(new QComboBox), add_(new QLineEdit) {
    auto* row = new FlowLayout(this, kGrid);
    for (const MatrixAxis down : kinds::kMatrixAxes) {
        for (const MatrixAxis across : kinds::kMatrixAxes) {
            if (down != across)
                turned_->addItem(tr("%1 × %2").arg(tr(kinds::nameOf(down).words), words(across)),
                                 QVariant(static_cast<int>(down) * 10 + static_cast<int>(across)));
        }
    }
    turned_->setAccessibleName(tr("What goes down and across"));
    turned_->setToolTip(tr("Turns the table: many sources for one device, one bank for many devices, …"));
    turned_->setMinimumHeight(add_->sizeHint().height());
    row->addWidget(turned_);
    for (Layer& l : layers_) {
        l.heading = new QLabel;
        l.heading->setMinimumHeight(add_->sizeHint().height());
        l.box = new QComboBox;
        l.box->setEditable(true);
        l.box->setInsertPolicy(QComboBox::NoInsert);
        l.box->setCompleter(nullptr); // “Lamp” is not “Lamp 2”
        l.box->setMinimumWidth(140);
        l.box->setMinimumHeight(add_->sizeHint().height());
        l.box->setToolTip(tr("Choose, or write another (Ctrl+PgDown: the next one)"));
        row->addWidget(l.heading);
        row->addWidget(l.box);
        const auto take = [this, &l] {
            model_->setLayer(static_cast<MatrixAxis>(l.box->property("axis").toInt()),
                             l.box->currentData().isValid() &&
                                     l.box->currentText() == l.box->itemText(l.box->currentIndex())
                                 ? l.box->currentData().toString().toStdString()
                                 : l.box->currentText().trimmed().toStdString());
        };
        connect(l.box, &QComboBox::activated, this, take);
        connect(l.box->lineEdit(), &QLineEdit::returnPressed, this, [this, take] {
            take();
            grid_->setFocus();
            grid_->setCurrentIndex(model_->index(0, 0));
        });
    }
    add_->setMinimumWidth(170);
    row->addWidget(add_);
    addWindowKey(this, Qt::CTRL | Qt::Key_PageDown, [this] { step(1); });
    addWindowKey(this, Qt::CTRL | Qt::Key_PageUp, [this] { step(-1); });
    addWindowKey(this, Qt::CTRL | Qt::Key_E, [this] {
        addColumn_ = add_->hasFocus() && !addColumn_;
        add_->clear();
        fill();
        add_->setFocus();
    });
    connect(add_, &QLineEdit::returnPressed, this, &MatrixBar::takeName);
    connect(turned_, &QComboBox::activated, this, [this] {
        const int both = turned_->currentData().toInt();
        model_->turn(static_cast<MatrixAxis>(both / 10), static_cast<MatrixAxis>(both % 10));
    });
    connect(model_, &MatrixModel::turned, this, &MatrixBar::fill);
    fill();
}

void MatrixBar::fill() {
    turned_->setCurrentIndex(
        turned_->findData(static_cast<int>(model_->rows()) * 10 + static_cast<int>(model_->columns())));
    const auto axes = model_->layers();
    for (std::size_t k = 0; k < layers_.size(); ++k) {
        Layer& l = layers_[k];
        l.heading->setText(tr(kinds::nameOf(axes[k]).words));
        l.box->setProperty("axis", static_cast<int>(axes[k]));
        l.box->setAccessibleName(l.heading->text());
        l.box->clear();
        for (const std::string& name : model_->names(axes[k]))
            l.box->addItem(name.empty() ? tr("not stated") : qs(name), qs(name));
        l.box->setCurrentIndex(l.box->findData(qs(model_->layer(axes[k]))));
        l.box->setEnabled(!model_->readOnly() || l.box->count() > 1);
    }
    const QString axis = words(addColumn_ ? model_->columns() : model_->rows());
    add_->setPlaceholderText(tr("Add: another %1").arg(axis));
    add_->setAccessibleName(tr("Another %1").arg(axis));
    add_->setToolTip(tr("Ctrl+E: a further one down; once more: across"));
    add_->setEnabled(!model_->readOnly());
}

void MatrixBar::takeName() {
    const std::string name = add_->text().trimmed().toStdString();
    add_->clear();
    const bool column = addColumn_;
    addColumn_ = false;
    if (!name.empty())
        model_->add(column ? model_->columns() : model_->rows(), name);
    grid_->setFocus();
    grid_->setCurrentIndex(column ? model_->index(0, std::max(0, model_->columnCount() - 1))
                                  : model_->index(std::max(0, model_->rowCount() - 1), 0));
}

void MatrixBar::step(int by) {
    if (!model_->step(by))
        return;
    grid_->setFocus();
    grid_->setCurrentIndex(model_->index(0, 0));
}

} // namespace otterstone::app
