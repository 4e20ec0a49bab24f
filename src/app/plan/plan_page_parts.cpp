// What the plan page is made of.
#include <QFontMetrics>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QShortcut>
#include <QSplitter>
#include <QTableWidget>
#include <QVBoxLayout>

#include "app/plan/plan_page.h"
#include "app/plan/tide_view.h"
#include "app/plan/wishes_panel.h"
#include "app/theme.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/kept_widths.h"
#include "app/widgets/wrapped_label.h"
#include "core/plan/campaign/files.h"

namespace otterstone::app {

namespace campaign = plan::campaign;

namespace {

QPushButton* button(const QString& text, const QString& tip, bool quiet = true) {
    auto* b = new QPushButton(text);
    b->setToolTip(tip);
    if (quiet)
        b->setObjectName(QStringLiteral("quiet"));
    return b;
}

QLabel* words(double scale) {
    auto* l = new WrappedLabel;
    l->setTextFormat(Qt::PlainText);
    l->setFont(app::font(scale));
    l->setTextInteractionFlags(Qt::TextSelectableByMouse);
    return l;
}

} // namespace

PlanPage::PlanPage(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), panel_(new WishesPanel), tide_(new TideView), table_(new QTableWidget),
      sentence_(words(1.1)), now_(words(1.0)), lived_(words(1.0)), wishesWords_(words(0.9)), progress_(new QLabel),
      told_(words(0.9)),
      aims_(button(tr("Aims and hours…"), tr("What is to be known, of which banks, until when, with whose hands (A)"))),
      agree_(
          button(tr("Agree on it"), tr("Keep this plan: runs take their places in it, and what is late is told (G)"))),
      again_(button(tr("From now"), tr("Plan anew from now on (N)"))),
      sheet_(button(tr("Day sheet…"), tr("What hands do, day by day, to print"))),
      calendar_(button(tr("Calendar…"), tr("The moments that want hands, for a calendar (iCalendar)"))),
      csv_(button(tr("CSV…"), tr("The plan as a table"))),
      start_(button(tr("Start it live…"), tr("On the live bench or as a rehearsal, with its gear (Enter)"), false)),
      write_(button(tr("Write it down by hand…"), tr("For a run without instruments"), false)),
      pin_(button(tr("Pin it there (P)"),
                  tr("It begins then; ← and → move it by a quarter of an hour, with Shift by an hour"), false)),
      first_(button(tr("First of all (F)"), tr("Nothing else begins before it has ended"), false)),
      ownDay_(button(tr("A day of its own (D)"), tr("No other run of its bank on the same day"), false)),
      wired_(button(
          tr("No hands needed (H)"),
          tr("For this run all lies plugged in and instruments switch it: where runs may go on alone it begins by "
             "itself, when the run before it on its gear has ended"),
          false)),
      out_(button(tr("Take it out"), tr("It is not planned any more (Del)"), false)),
      back_(button(QString(), tr("Plan them again"))),
      stop_(button(tr("Good enough"), tr("Ends the search: the best so far stays"))) {
    start_->setObjectName(QStringLiteral("primary"));
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(3 * kGrid, kGrid, 2 * kGrid, kGrid);
    all->setSpacing(kGrid / 2);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Plan"));
    title->setFont(app::font(1.6, QFont::DemiBold));
    head->addWidget(title);
    head->addSpacing(kGrid);
    for (QPushButton* b : {aims_, agree_, again_, sheet_, calendar_, csv_})
        head->addWidget(b);
    head->addStretch();
    head->addWidget(progress_);
    head->addWidget(stop_);
    all->addLayout(head);
    wishesWords_->setObjectName(QStringLiteral("faint"));
    for (QLabel* l : {progress_, told_})
        l->setObjectName(QStringLiteral("faint"));
    now_->setFont(app::font(1.0, QFont::DemiBold));
    for (QLabel* l : {wishesWords_, sentence_, now_, lived_})
        all->addWidget(l);
    table_->setColumnCount(kPlanColumns);
    table_->setHorizontalHeaderLabels({tr("When"), tr("Bank"), tr("Run"), tr("On"), tr("What for")});
    table_->setObjectName(QStringLiteral("roomy"));
    table_->setAccessibleName(tr("The plan as a list"));
    table_->setEditTriggers(QTableWidget::NoEditTriggers);
    table_->setSelectionBehavior(QTableWidget::SelectRows);
    table_->setSelectionMode(QTableWidget::SingleSelection);
    table_->setTabKeyNavigation(false);
    table_->setShowGrid(false);
    table_->verticalHeader()->hide();
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Interactive);
    table_->horizontalHeader()->setSectionResizeMode(kWhatFor, QHeaderView::Stretch);
    const int em = QFontMetrics(app::font(1.0)).averageCharWidth();
    const auto widthName = [](int column) { return QStringLiteral("plan/%1").arg(column); };
    for (const auto& [column, chars] : {std::pair{kWhen, 20}, {kBank, 20}, {kRun, 22}, {kOn, 34}})
        table_->setColumnWidth(column, keptWidth(widthName(column)).value_or(chars * em));
    keepColumns(table_->horizontalHeader(), widthName);
    for (int k = 0; k < kPlanColumns; ++k)
        table_->horizontalHeaderItem(k)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    auto* splitter = new QSplitter(Qt::Vertical);
    splitter->addWidget(tide_);
    splitter->addWidget(table_);
    splitter->setStretchFactor(0, 3);
    splitter->setStretchFactor(1, 1);
    splitter->setSizes({400, 160});
    splitter->setChildrenCollapsible(false);
    table_->setMinimumHeight(72);
    tide_->setMinimumHeight(160);
    keepParts(splitter, QStringLiteral("plan"));
    all->addWidget(splitter, 1);
    auto* foot = new QWidget;
    auto* flow = new FlowLayout(foot, kGrid / 2);
    for (QPushButton* b : {start_, write_, pin_, first_, ownDay_, wired_, out_, back_})
        flow->addWidget(b);
    stop_->hide();
    back_->hide();
    all->addWidget(foot);
    all->addWidget(told_);

    connect(&planner_, &Planner::planned, this, &PlanPage::take);
    connect(&planner_, &Planner::failed, this, [this](const QString& sentence) {
        progress_->clear();
        stop_->hide();
        sentence_->setText(sentence);
    });
    connect(panel_, &WishesPanel::changed, this, &PlanPage::keep);
    connect(panel_, &WishesPanel::entryWanted, this, [this](const records::PlannedRun& entry) {
        if (const auto added = session_.addPlanned(entry); !added)
            Q_EMIT problem(qs(added.error().sentence()));
    });
    connect(aims_, &QPushButton::clicked, this, &PlanPage::panelWanted);
    connect(agree_, &QPushButton::clicked, this, &PlanPage::agree);
    connect(again_, &QPushButton::clicked, this, &PlanPage::planFromNow);
    connect(sheet_, &QPushButton::clicked, this, [this] {
        if (plan_)
            printDaySheet();
    });
    connect(calendar_, &QPushButton::clicked, this, [this] {
        if (!plan_)
            return;
        std::vector<std::string> names;
        for (const campaign::Drawn& j : plan_->campaign.drawn.jobs)
            names.push_back(nameOf(j.key));
        saveAs(tr("Calendar"), tr("Calendars (*.ics)"), QStringLiteral("campaign.ics"),
               campaign::calendarOf(plan_->campaign.drawn.problem, plan_->told.answer.schedule, names,
                                    plan_->campaign.begins, bench::clockNow()));
    });
    connect(csv_, &QPushButton::clicked, this, [this] {
        if (plan_)
            saveAs(tr("The plan as a table"), tr("Tables (*.csv)"), QStringLiteral("campaign.csv"),
                   campaign::csvOf(plan_->campaign.drawn.problem, plan_->told.answer.schedule, plan_->campaign.begins));
    });
    const auto start = [this] {
        const auto todo = toDo();
        if (!todo || todo->recipe.empty())
            return;
        agreeOnce();
        Q_EMIT startWanted(*todo);
    };
    connect(start_, &QPushButton::clicked, this, start);
    connect(tide_, &TideView::startWanted, this, start);
    connect(table_, &QTableWidget::cellActivated, this, start);
    connect(write_, &QPushButton::clicked, this, [this] {
        const auto todo = toDo();
        if (!todo)
            return;
        agreeOnce();
        Q_EMIT writeWanted(*todo);
    });
    connect(pin_, &QPushButton::clicked, this, &PlanPage::togglePin);
    connect(out_, &QPushButton::clicked, this, &PlanPage::takeOut);
    connect(back_, &QPushButton::clicked, this, &PlanPage::putBack);
    connect(stop_, &QPushButton::clicked, &planner_, &Planner::stop);
    connect(table_, &QTableWidget::currentCellChanged, this, &PlanPage::chooseRow);
    connect(tide_, &TideView::chosen, this, [this](qulonglong placed) { chooseJob(placed); });
    connect(tide_, &TideView::moveWanted, this, [this](qulonglong placed, double seconds) {
        pinAt(plan_->told.answer.schedule.placed[placed].job, seconds);
    });
    connect(tide_, &TideView::shiftWanted, this, [this](qulonglong placed, double by) { shift(placed, by); });
    connect(tide_, &TideView::pinWanted, this, &PlanPage::togglePin);
    connect(tide_, &TideView::outWanted, this, &PlanPage::takeOut);
    const auto key = [this](Qt::Key k, auto method) {
        auto* shortcut = new QShortcut(k, this);
        shortcut->setContext(Qt::WidgetWithChildrenShortcut);
        connect(shortcut, &QShortcut::activated, this, method);
    };
    const auto first = [this] {
        toggle(&campaign::Wishes::first, tr("put a run first"), tr("let a run come in any order"));
    };
    const auto ownDay = [this] {
        toggle(&campaign::Wishes::ownDay, tr("give a run a day of its own"), tr("let a run be on any day"));
    };
    const auto wired = [this] {
        toggle(&campaign::Wishes::wired, tr("let a run begin without hands"), tr("let a run wait for hands"));
    };
    connect(first_, &QPushButton::clicked, this, first);
    connect(wired_, &QPushButton::clicked, this, wired);
    connect(ownDay_, &QPushButton::clicked, this, ownDay);
    key(Qt::Key_F, first);
    key(Qt::Key_D, ownDay);
    key(Qt::Key_H, wired);
    key(Qt::Key_A, &PlanPage::panelWanted);
    key(Qt::Key_G, &PlanPage::agree);
    key(Qt::Key_N, &PlanPage::planFromNow);
    connect(&session_, &BookSession::changed, this, [this] {
        if (isVisible())
            refresh();
    });
    connect(&session_, &BookSession::opened, this, [this] {
        planner_.drop(); // it is of the book that was open before
        plan_.reset();
        before_.reset();
        chosen_.reset();
        tide_->show({});
        rows_.clear();
        table_->setRowCount(0);
    });
    showCurrent();
}

} // namespace otterstone::app
