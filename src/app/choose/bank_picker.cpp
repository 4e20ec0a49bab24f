#include "app/choose/bank_picker.h"

#include <algorithm>

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>

#include "app/theme.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/side_panel.h"

namespace otterstone::app {

namespace {
constexpr std::size_t kFew = 12; // are seen at a glance
constexpr int kRows = 2;         // of boxes beside a search
} // namespace

BankPicker::BankPicker(QWidget* parent)
    : QWidget(parent), tools_(new QWidget), count_(new QLabel), find_(new QLineEdit),
      only_(new QPushButton(tr("Only these"))), all_(new QPushButton(tr("All"))), area_(new QScrollArea),
      boxes_(new QWidget) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(kGrid / 2);
    auto* line = new QHBoxLayout(tools_);
    line->setContentsMargins(0, 0, 0, 0);
    count_->setObjectName(QStringLiteral("faint"));
    find_->setPlaceholderText(tr("Find banks"));
    find_->setAccessibleName(tr("Find banks to hold side by side"));
    find_->setToolTip(tr("Words of the name, the model, the markings or the notes; Enter takes only those found"));
    find_->setMaximumWidth(240);
    only_->setToolTip(tr("Holds only the banks that are found side by side"));
    all_->setToolTip(tr("Holds all banks of the book side by side"));
    for (QPushButton* b : {only_, all_})
        b->setObjectName(QStringLiteral("quiet"));
    line->addWidget(find_);
    line->addWidget(only_);
    line->addWidget(all_);
    line->addWidget(count_);
    line->addStretch();
    column->addWidget(tools_);
    new FlowLayout(boxes_, kGrid);
    area_->setWidgetResizable(true);
    area_->setFrameShape(QFrame::NoFrame);
    area_->setFocusPolicy(Qt::NoFocus);
    area_->setWidget(boxes_);
    column->addWidget(area_);
    connect(find_, &QLineEdit::textChanged, this, &BankPicker::refill);
    connect(find_, &QLineEdit::returnPressed, this, [this] { take(true); });
    connect(only_, &QPushButton::clicked, this, [this] { take(true); });
    connect(all_, &QPushButton::clicked, this, [this] { take(false); });
}

void BankPicker::show(std::vector<Bank> banks) {
    banks_ = std::move(banks);
    const bool many = banks_.size() > kFew;
    tools_->setVisible(many);
    if (!many)
        find_->clear();
    refill();
}

bool BankPicker::isFound(const Bank& bank) const {
    const QStringList words = find_->text().toCaseFolded().split(QLatin1Char(' '), Qt::SkipEmptyParts);
    return std::all_of(words.begin(), words.end(), [&](const QString& word) { return bank.searched.contains(word); });
}

void BankPicker::refill() {
    emptyLayout(boxes_->layout());
    for (const Bank& bank : banks_) {
        if (!isFound(bank))
            continue;
        auto* box = new QCheckBox(bank.name);
        box->setChecked(isIn(bank.id));
        connect(box, &QCheckBox::clicked, this, [this, id = bank.id](bool on) {
            on ? void(leftOut_.erase(id)) : void(leftOut_.insert(id));
            count();
            Q_EMIT changed();
        });
        boxes_->layout()->addWidget(box);
        box->show(); // now: its place is asked for below
    }
    only_->setEnabled(!find_->text().trimmed().isEmpty());
    count();
    fitBoxes();
}

// Few take what they need; of many two rows are seen, and the rest by scrolling.
void BankPicker::fitBoxes() {
    const auto* first = boxes_->findChild<QCheckBox*>();
    const int row = (first ? first->sizeHint().height() : 0) + kGrid;
    const int all = boxes_->layout()->heightForWidth(std::max(200, area_->viewport()->width()));
    area_->setFixedHeight(banks_.size() > kFew ? std::min(all, kRows * row) : all);
}

void BankPicker::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    fitBoxes();
}

void BankPicker::count() {
    const auto in = std::count_if(banks_.begin(), banks_.end(), [this](const Bank& b) { return isIn(b.id); });
    count_->setText(tr("%1 of %2 banks").arg(in).arg(banks_.size()));
}

void BankPicker::take(bool foundOnly) {
    if (foundOnly && std::none_of(banks_.begin(), banks_.end(), [this](const Bank& b) { return isFound(b); }))
        return;
    leftOut_.clear();
    for (const Bank& bank : banks_) {
        if (foundOnly && !isFound(bank))
            leftOut_.insert(bank.id);
    }
    refill();
    Q_EMIT changed();
}

} // namespace otterstone::app
