#include "app/runs/stamp_entry.h"

#include <QKeySequence>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QShortcut>
#include <QVBoxLayout>

#include "app/runs/stamps.h"
#include "app/theme.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/on_screen.h"
#include "core/quantity/format.h"

namespace otterstone::app {

StampEntry::StampEntry(const QString& moment, const QString& keysWorkWhile, QWidget* parent)
    : QWidget(parent), asks_(new QLabel), line_(new QLineEdit), wrong_(new QLabel), entry_(new QWidget) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(kGrid / 2);
    auto* keys = new QWidget;
    auto* row = new FlowLayout(keys, kGrid / 2);
    auto* words = new QLabel(moment);
    words->setObjectName(QStringLiteral("faint"));
    row->addWidget(words);
    for (const StampKind& kind : stampKinds()) {
        auto* button = new QPushButton(QStringLiteral("%1 %2").arg(QKeySequence(kind.key).toString(), kind.name));
        button->setObjectName(QStringLiteral("quiet"));
        button->setToolTip(keysWorkWhile.arg(QKeySequence(kind.key).toString()));
        button->setAccessibleName(tr("Stamp %1").arg(kind.name));
        connect(button, &QPushButton::clicked, this, [this, what = kind.what] { Q_EMIT wanted(what); });
        row->addWidget(button);
    }
    all->addWidget(keys);

    auto* entry = new QHBoxLayout(entry_);
    entry->setContentsMargins(0, 0, 0, 0);
    asks_->setFont(app::font(1.1, QFont::DemiBold));
    line_->setMinimumWidth(220);
    line_->setFont(app::font(1.2));
    wrong_->setObjectName(QStringLiteral("problem"));
    entry->addWidget(asks_);
    entry->addWidget(line_);
    entry->addWidget(wrong_, 1);
    all->addWidget(entry_);
    entry_->hide();
    connect(line_, &QLineEdit::returnPressed, this, &StampEntry::finish);
    auto* escape = new QShortcut(QKeySequence(Qt::Key_Escape), line_);
    escape->setContext(Qt::WidgetShortcut);
    connect(escape, &QShortcut::activated, this, [this] {
        cancel();
        Q_EMIT cancelled();
    });
}

void StampEntry::begin(records::Mark::What what, double at, const QString& typed) {
    what_ = what;
    at_ = at;
    line_->setText(typed);
    wrong_->clear();
    const StampKind& kind = stampKind(what);
    if (kind.asks.isEmpty() && typed.isEmpty()) {
        finish();
        return;
    }
    asks_->setText(tr("%1 at %2:").arg(kind.name, onScreen(showDuration(at, 1.0))));
    line_->setPlaceholderText(kind.asks);
    line_->setAccessibleName(asks_->text());
    entry_->show();
    line_->setFocus();
    line_->selectAll();
}

void StampEntry::cancel() { entry_->hide(); }

void StampEntry::finish() {
    const auto mark = readStamp(what_, at_, line_->text());
    if (!mark) {
        wrong_->setText(qs(mark.error().sentence()));
        return;
    }
    entry_->hide();
    Q_EMIT taken(*mark);
}

} // namespace otterstone::app
