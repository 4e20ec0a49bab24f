#include "app/widgets/ends_fields.h"

#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>

#include "app/theme.h"

namespace otterstone::app {

namespace {

QComboBox* box(const QString& name, const QString& hint) {
    auto* b = new QComboBox;
    b->setEditable(true);
    b->setInsertPolicy(QComboBox::NoInsert);
    b->setAccessibleName(name);
    b->setToolTip(hint);
    b->setMinimumWidth(150);
    return b;
}

void setText(QComboBox* b, const std::string& typed) {
    b->setCurrentIndex(0);
    if (!typed.empty())
        b->setCurrentText(qs(typed));
}

} // namespace

EndsFields::EndsFields(Qt::Orientation along, QWidget* parent)
    : QWidget(parent),
      began_(box(tr("Began"), tr("How full the bank was: choose, or type 92 %, or LEDs as in 2 of 4"))),
      ended_(box(tr("Ended"), tr("Why it ended, how full it was then, or both: unplugged at 45 %"))),
      device_(new QLineEdit) {
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(kGrid);
    const auto add = [&](const QString& words, QWidget* b) {
        auto* label = new QLabel(words);
        label->setBuddy(b);
        const int at = static_cast<int>(labels_.size());
        grid->addWidget(label, along == Qt::Vertical ? at : 0, along == Qt::Vertical ? 0 : 2 * at);
        grid->addWidget(b, along == Qt::Vertical ? at : 0, along == Qt::Vertical ? 1 : 2 * at + 1);
        labels_.push_back(label);
    };
    add(tr("Be&gan"), began_);
    add(tr("&Ended"), ended_);
    add(tr("De&vice"), device_);
    device_->setAccessibleName(tr("Device"));
    device_->setMinimumWidth(104);
    device_->setPlaceholderText(tr("20 % to full"));
    device_->setToolTip(tr("What the device that was charged had at both ends: 20 % to full, 20 % to ?"));
    grid->setColumnStretch(1, 1);
    if (along == Qt::Horizontal) {
        grid->setColumnStretch(3, 1);
        grid->setColumnStretch(5, 1);
    }
    connect(device_, &QLineEdit::editingFinished, this, &EndsFields::changed);
    setFocusProxy(began_);
    for (QComboBox* b : {began_, ended_}) {
        connect(b, &QComboBox::activated, this, &EndsFields::changed);
        connect(b->lineEdit(), &QLineEdit::editingFinished, this, &EndsFields::changed);
    }
    setKind(records::Kind::Drain);
}

void EndsFields::setKind(records::Kind kind) {
    if (kind == kind_)
        return;
    kind_ = kind;
    const QString began = began_->currentIndex() > 0 ? began_->currentText() : QString(),
                  ended = ended_->currentIndex() > 0 ? ended_->currentText() : QString();
    const bool drain = kind == records::Kind::Drain;
    const QSignalBlocker quiet(this);
    device_->setVisible(drain && !onlyBegan_);
    labels_.back()->setVisible(drain && !onlyBegan_);
    began_->clear();
    began_->addItem(tr("not said"));
    for (const char* item : {drain ? "full" : "empty", "unknown"})
        began_->addItem(qs(item));
    ended_->clear();
    ended_->addItem(tr("as the run shows"));
    const std::vector<const char*> items =
        drain ? std::vector{"empty", "device full", "unplugged", "heat", "over-current", "unknown"}
              : std::vector{"full", "charger error", "unplugged", "heat", "unknown"};
    for (const char* item : items)
        ended_->addItem(qs(item));
    setText(began_, began.toStdString());
    setText(ended_, ended.toStdString());
}

void EndsFields::show(const records::StatedEnds& ends) {
    shown_ = ends;
    if (!began_->lineEdit()->hasFocus())
        setText(began_, typedBegan(ends));
    if (!ended_->lineEdit()->hasFocus())
        setText(ended_, typedEnded(ends));
    if (!device_->hasFocus())
        device_->setText(qs(typedDevice(ends)));
}

void EndsFields::onlyBegan() {
    onlyBegan_ = true;
    for (QWidget* w : std::initializer_list<QWidget*>{ended_, device_, labels_[1], labels_[2]})
        w->hide();
    labels_.front()->setText(tr("The bank be&gins"));
}

void EndsFields::sayTheUsual() { began_->setCurrentIndex(1); }

Result<records::StatedEnds> EndsFields::said() const {
    records::StatedEnds ends;
    const std::string began = began_->currentText().trimmed().toStdString(),
                      ended = ended_->currentText().trimmed().toStdString();
    if (!began.empty() && began_->currentText() != began_->itemText(0)) {
        auto read = records::parseBegan(began, tr("Began").toStdString());
        if (!read)
            return tl::unexpected(read.error());
        ends.began = *read;
    }
    if (!ended.empty() && ended_->currentText() != ended_->itemText(0)) {
        if (auto read = records::parseEnded(ended, tr("Ended").toStdString(), ends); !read)
            return tl::unexpected(read.error());
    }
    if (kind_ == records::Kind::Drain) {
        if (auto read = records::parseDevice(device_->text().toStdString(), tr("Device").toStdString(), ends); !read)
            return tl::unexpected(read.error());
    }
    if (typedBegan(ends) == typedBegan(shown_))
        ends.began = shown_.began;
    if (typedEnded(ends) == typedEnded(shown_)) {
        ends.ended = shown_.ended;
        ends.ending = shown_.ending;
    }
    return ends;
}

} // namespace otterstone::app
