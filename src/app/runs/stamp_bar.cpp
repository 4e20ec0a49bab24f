#include "app/runs/stamp_bar.h"

#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QShortcut>
#include <QVBoxLayout>

#include "app/runs/stamps.h"
#include "app/theme.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/side_panel.h"

namespace otterstone::app {

StampBar::StampBar(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), asks_(new QLabel), line_(new QLineEdit), wrong_(new QLabel), entry_(new QWidget), marks_(new QWidget) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(kGrid / 2);
    auto* keys = new QWidget;
    auto* row = new FlowLayout(keys, kGrid / 2);
    auto* words = new QLabel(tr("Stamp the moment under the lens:"));
    words->setObjectName(QStringLiteral("faint"));
    row->addWidget(words);
    for (const StampKind& kind : stampKinds()) {
        auto* button = new QPushButton(QStringLiteral("%1 %2").arg(QKeySequence(kind.key).toString(), kind.name));
        button->setObjectName(QStringLiteral("quiet"));
        button->setToolTip(tr("%1 while the curve has the keyboard").arg(QKeySequence(kind.key).toString()));
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
    markRow_ = new FlowLayout(marks_, kGrid / 2);
    all->addWidget(marks_);
    connect(line_, &QLineEdit::returnPressed, this, &StampBar::finish);
    auto* escape = new QShortcut(QKeySequence(Qt::Key_Escape), line_);
    escape->setContext(Qt::WidgetShortcut);
    connect(escape, &QShortcut::activated, this, [this] {
        entry_->hide();
        Q_EMIT done();
    });
}

void StampBar::show(book::Id run) {
    if (run != run_)
        entry_->hide();
    run_ = run;
    setEnabled(session_.isOpen() && !session_.book().readOnly());
    fillMarks();
}

void StampBar::begin(findings::Mark::What what, double at) {
    what_ = what;
    at_ = at;
    editing_.reset();
    line_->clear();
    wrong_->clear();
    const StampKind& kind = stampKind(what);
    if (kind.asks.isEmpty()) {
        finish();
        return;
    }
    asks_->setText(tr("%1 at %2:").arg(kind.name, qs(showDuration(at, 1.0))));
    line_->setPlaceholderText(kind.asks);
    line_->setAccessibleName(asks_->text());
    entry_->show();
    line_->setFocus();
}

void StampBar::edit(std::size_t index) {
    const auto run = session_.book().run(run_);
    if (!run || index >= run->marks.size())
        return;
    begin(run->marks[index].what, run->marks[index].at);
    if (!entry_->isVisible())
        return;
    editing_ = index;
    line_->setText(typedWords(run->marks[index]));
    line_->selectAll();
}

void StampBar::finish() {
    auto run = session_.book().run(run_);
    if (!run)
        return;
    const auto mark = readStamp(what_, at_, line_->text());
    if (!mark) {
        wrong_->setText(qs(mark.error().sentence()));
        return;
    }
    if (editing_ && *editing_ < run->marks.size())
        run->marks[*editing_] = *mark;
    else
        run->marks.push_back(*mark);
    std::stable_sort(run->marks.begin(), run->marks.end(), [](const auto& a, const auto& b) { return a.at < b.at; });
    entry_->hide();
    keep(*run, tr("stamp %1").arg(stampKind(what_).name));
    Q_EMIT done();
}

void StampBar::keep(book::Run run, const QString& what) {
    if (auto kept = session_.changeRun(run, what); !kept)
        Q_EMIT problem(qs(kept.error().sentence()));
}

void StampBar::fillMarks() {
    emptyLayout(markRow_);
    const auto run = session_.isOpen() ? session_.book().run(run_) : std::nullopt;
    if (!run)
        return;
    for (std::size_t k = 0; k < run->marks.size(); ++k) {
        const findings::Mark& m = run->marks[k];
        auto* button = new QPushButton(QStringLiteral("%1  %2").arg(qs(showDuration(m.at, 1.0)), markWords(m)));
        button->setObjectName(QStringLiteral("quiet"));
        button->setToolTip(tr("Change it (Return), take it away (Delete)"));
        button->setAccessibleName(tr("Stamp at %1: %2").arg(qs(showDuration(m.at, 1.0)), markWords(m)));
        connect(button, &QPushButton::clicked, this, [this, k] { edit(k); });
        auto* remove = new QShortcut(QKeySequence(Qt::Key_Delete), button);
        remove->setContext(Qt::WidgetShortcut);
        connect(remove, &QShortcut::activated, this, [this, k] {
            auto changed = session_.book().run(run_);
            if (!changed || k >= changed->marks.size())
                return;
            changed->marks.erase(changed->marks.begin() + static_cast<std::ptrdiff_t>(k));
            keep(*changed, tr("take a stamp away"));
        });
        markRow_->addWidget(button);
    }
    marks_->updateGeometry();
}

} // namespace otterstone::app
