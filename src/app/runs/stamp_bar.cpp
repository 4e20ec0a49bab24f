#include "app/runs/stamp_bar.h"

#include <QPushButton>
#include <QShortcut>
#include <QVBoxLayout>

#include "app/runs/stamp_entry.h"
#include "app/runs/stamps.h"
#include "app/theme.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/side_panel.h"

namespace otterstone::app {

StampBar::StampBar(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session),
      entry_(new StampEntry(tr("Stamp the moment under the lens:"), tr("%1 while the curve has the keyboard"))),
      marks_(new QWidget) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(kGrid / 2);
    all->addWidget(entry_);
    markRow_ = new FlowLayout(marks_, kGrid / 2);
    all->addWidget(marks_);
    connect(entry_, &StampEntry::wanted, this, &StampBar::wanted);
    connect(entry_, &StampEntry::taken, this, &StampBar::take);
    connect(entry_, &StampEntry::cancelled, this, &StampBar::done);
}

QLineEdit* StampBar::line() const { return entry_->line(); }

void StampBar::show(records::Id run) {
    if (run != run_)
        entry_->cancel();
    run_ = run;
    setEnabled(session_.isOpen() && !session_.book().readOnly());
    fillMarks();
}

void StampBar::begin(records::Mark::What what, double at) {
    editing_.reset();
    entry_->begin(what, at);
}

void StampBar::edit(std::size_t index) {
    const auto run = session_.book().run(run_);
    if (!run || index >= run->marks.size() || stampKind(run->marks[index].what).asks.isEmpty())
        return;
    editing_ = index;
    entry_->begin(run->marks[index].what, run->marks[index].at, typedWords(run->marks[index]));
}

void StampBar::take(const records::Mark& mark) {
    auto run = session_.book().run(run_);
    if (!run)
        return;
    if (editing_ && *editing_ < run->marks.size())
        run->marks[*editing_] = mark;
    else
        run->marks.push_back(mark);
    std::stable_sort(run->marks.begin(), run->marks.end(), [](const auto& a, const auto& b) { return a.at < b.at; });
    keep(*run, tr("stamp %1").arg(stampKind(mark.what).name));
    Q_EMIT done();
}

void StampBar::keep(const records::Run& run, const QString& what) {
    if (auto kept = session_.changeRun(run, what); !kept)
        Q_EMIT problem(qs(kept.error().sentence()));
}

void StampBar::fillMarks() {
    emptyLayout(markRow_);
    const auto run = session_.isOpen() ? session_.book().run(run_) : std::nullopt;
    if (!run)
        return;
    for (std::size_t k = 0; k < run->marks.size(); ++k) {
        const records::Mark& m = run->marks[k];
        auto* button = new QPushButton(QStringLiteral("%1  %2").arg(onScreen(showDuration(m.at, 1.0)), markWords(m)));
        button->setObjectName(QStringLiteral("quiet"));
        button->setToolTip(tr("Change it (Return), take it away (Delete)"));
        button->setAccessibleName(tr("Stamp at %1: %2").arg(onScreen(showDuration(m.at, 1.0)), markWords(m)));
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
