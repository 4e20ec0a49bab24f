#include "app/live/live_page.h"

#include <QDateTime>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QShortcut>
#include <QVBoxLayout>

#include "app/live/bench_row.h"
#include "app/live/running_view.h"
#include "app/live/setup_view.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/page_stack.h"
#include "app/widgets/side_panel.h"
#include "core/quantity/format.h"

namespace otterstone::app {

LivePage::LivePage(BookSession& session, LiveBench& live, QWidget* parent)
    : QWidget(parent), session_(session), live_(live), open_(new QWidget), benches_(new BenchRow(session, live)),
      stack_(new PageStack), setup_(new SetupView(session, live)) {
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(0, 0, 0, 0);
    outer->setSpacing(0);
    openColumn_ = new QVBoxLayout(open_);
    openColumn_->setContentsMargins(3 * kGrid, kGrid, 2 * kGrid, 0);
    outer->addWidget(open_);
    outer->addWidget(benches_);
    stack_->addWidget(setup_);
    outer->addWidget(stack_, 1);
    (void)viewOf(live_.chosen());
    connect(setup_, &SetupView::instrumentsWanted, this, &LivePage::instrumentsWanted);
    connect(setup_, &SetupView::recipeWanted, this, &LivePage::recipeWanted);
    connect(setup_, &SetupView::problem, this, &LivePage::problem);
    connect(&live_, &LiveBench::changed, this, &LivePage::refresh);
    connect(&live_, &LiveBench::started, this,
            [this](LiveRun* run) { live_.beganByItself(*run) ? refresh() : showRun(*run); });
    const auto byNumber = [this](int number) {
        if (LiveRun* run = live_.withNumber(number))
            showRun(*run);
    };
    const auto another = [this] {
        if (live_.isRunning() && live_.hasRoom())
            showSetup(setup_->bank());
    };
    connect(benches_, &BenchRow::wanted, this, byNumber);
    connect(benches_, &BenchRow::anotherWanted, this, another);
    for (int number = 0; number <= LiveBench::kMost; ++number) {
        auto* key = new QShortcut(QKeySequence(Qt::Key_0 + number), this);
        key->setContext(Qt::WidgetWithChildrenShortcut);
        connect(key, &QShortcut::activated, this,
                [number, byNumber, another] { number == 0 ? another() : byNumber(number); });
    }
    connect(&session_, &BookSession::opened, this, &LivePage::showOpenRuns);
}

RunningView* LivePage::viewOf(LiveRun& run) {
    RunningView*& view = views_[&run];
    if (!view) {
        view = new RunningView(session_, run);
        stack_->addWidget(view);
    }
    return view;
}

void LivePage::show(records::Id bank) {
    setup_->show(bank);
    if (LiveRun* run = live_.goingWith(bank); run && !run->isStarting())
        return showRun(*run);
    wantsSetup_ = true;
    refresh();
}

void LivePage::showSetup(records::Id bank) {
    wantsSetup_ = true;
    setup_->show(bank);
    refresh();
    setup_->recipes()->setFocus();
}

void LivePage::showRun(LiveRun& run) {
    wantsSetup_ = false;
    live_.choose(run);
    refresh();
    viewOf(run)->setFocus();
}

bool LivePage::showsRun() const { return stack_->currentWidget() != setup_; }

void LivePage::refresh() {
    if (!live_.chosen().session().isRunning())
        wantsSetup_ = true;
    stack_->setCurrentWidget(wantsSetup_ ? static_cast<QWidget*>(setup_) : viewOf(live_.chosen()));
    benches_->refresh(wantsSetup_);
    showOpenRuns();
}

void LivePage::showOpenRuns() {
    emptyLayout(openColumn_);
    const auto runs = live_.openRuns();
    open_->setVisible(!runs.empty());
    for (const records::Run& run : runs) {
        const auto bank = session_.book().bank(run.bank);
        const auto summaries = session_.book().summaries(run.id);
        const double upTo = summaries.empty() ? 0.0 : summaries.back().last;
        const QDateTime last = QDateTime::fromString(qs(run.capturedAt), Qt::ISODateWithMs).toLocalTime();
        auto* sheet = new QFrame;
        sheet->setObjectName(QStringLiteral("sheet"));
        auto* row = new QVBoxLayout(sheet);
        auto* words = new QLabel(
            tr("“%1” of %2 was going when the program ended. It is here up to its last second: %3, written %4. See first that the load is off.")
                .arg(qs(run.title), bank ? qs(bank->name) : QString(), onScreen(showDuration(std::floor(upTo), 1.0)),
                     last.toString(QStringLiteral("d MMMM, HH:mm:ss"))));
        words->setWordWrap(true);
        words->setFont(app::font(1.05, QFont::DemiBold));
        row->addWidget(words);
        auto* buttons = new QHBoxLayout;
        const auto button = [&](const QString& text, const QString& hint, auto act) {
            auto* b = new QPushButton(text);
            b->setToolTip(hint);
            connect(b, &QPushButton::clicked, this, act);
            buttons->addWidget(b);
        };
        button(tr("Show it"), tr("As far as it came"), [this, id = run.id] { Q_EMIT runWanted(id); });
        button(tr("Go on with it"), tr("Its recipe is shown, and the four points are asked again; the break is marked"),
               [this, run] {
                   setup_->offerToGoOn(run);
                   wantsSetup_ = true; // another one may be going, and shown
                   refresh();
               });
        button(tr("Close it as it is"), tr("What was measured stays; the load is switched off if it can be reached"),
               [this, run] { live_.closeOpen(run); });
        buttons->addStretch();
        row->addLayout(buttons);
        openColumn_->addWidget(sheet);
    }
}

void LivePage::restyle() {
    for (const auto& [run, view] : views_)
        view->restyle();
    setup_->restyle();
}

} // namespace otterstone::app
