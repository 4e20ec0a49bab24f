#include "app/widgets/message_bar.h"

#include <QCoreApplication>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QStyle>

#include "app/theme.h"

namespace otterstone::app {

namespace {

struct LookRow {
    Look look;
    const char* key; ///< for the style sheet
    const char* sign;
    const char* words; ///< as a screen reader says it
    bool stays;
};
constexpr LookRow kLooks[] = {{Look::Told, "told", "✓", QT_TRANSLATE_NOOP("MessageBar", "Told"), false},
                              {Look::Asks, "asks", "→", QT_TRANSLATE_NOOP("MessageBar", "Asked of you"), true},
                              {Look::Wrong, "wrong", "✗", QT_TRANSLATE_NOOP("MessageBar", "Wrong"), true}};

// Long enough to be read twice.
constexpr int kLeastMs = 10'000, kLetterMs = 120;

} // namespace

MessageBar::MessageBar(QWidget* parent)
    : QFrame(parent), sign_(new QLabel), text_(new QLabel), undo_(new QPushButton(tr("Undo"))) {
    setObjectName(QStringLiteral("message"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(3 * kGrid, kGrid / 2, 2 * kGrid, kGrid / 2);
    row->setSpacing(kGrid);
    sign_->setFont(app::font(1.0, QFont::DemiBold));
    text_->setObjectName(QStringLiteral("said"));
    text_->setWordWrap(true);
    text_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    undo_->setToolTip(QKeySequence(QKeySequence::Undo).toString(QKeySequence::NativeText));
    row->addWidget(sign_, 0, Qt::AlignVCenter);
    row->addWidget(text_, 1);
    row->addWidget(undo_, 0, Qt::AlignVCenter);
    gone_.setSingleShot(true);
    connect(&gone_, &QTimer::timeout, this, &QWidget::hide);
    connect(undo_, &QPushButton::clicked, this, [this] {
        hide();
        Q_EMIT undoWanted();
    });
    hide();
}

void MessageBar::say(Look look, const QString& sentence, bool undo) {
    const LookRow& row = kLooks[static_cast<int>(look)];
    sign_->setText(QString::fromUtf8(row.sign));
    sign_->setAccessibleName(QCoreApplication::translate("MessageBar", row.words));
    for (QWidget* w : std::initializer_list<QWidget*>{this, sign_, text_}) {
        w->setProperty("look", QLatin1String(row.key));
        w->style()->unpolish(w);
        w->style()->polish(w);
    }
    text_->setText(sentence);
    undo_->setVisible(undo);
    setVisible(!sentence.isEmpty());
    readAway_ = false;
    if (row.stays || sentence.isEmpty())
        gone_.stop();
    else
        gone_.start(kLeastMs + kLetterMs * static_cast<int>(sentence.size()));
}

void MessageBar::add(const QString& sentence) {
    if (isHidden())
        return say(Look::Asks, sentence);
    const bool wrong = text_->property("look").toString() == QLatin1String(kLooks[2].key);
    say(wrong ? Look::Wrong : Look::Asks, text_->text() + QLatin1Char(' ') + sentence);
}

void MessageBar::withdrawUndo() { undo_->hide(); }

// What is being read does not go.
void MessageBar::enterEvent(QEnterEvent* event) {
    QFrame::enterEvent(event);
    readAway_ = gone_.isActive();
    gone_.stop();
}

void MessageBar::leaveEvent(QEvent* event) {
    QFrame::leaveEvent(event);
    if (std::exchange(readAway_, false))
        gone_.start(kLeastMs);
}

} // namespace otterstone::app
