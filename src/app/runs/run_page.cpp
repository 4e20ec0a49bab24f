#include "app/runs/run_page.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QScrollArea>
#include <QShortcut>
#include <QVBoxLayout>

#include "app/behaviour/behaviour_view.h"
#include "app/runs/ends_bar.h"
#include "app/runs/gauge_curve.h"
#include "app/runs/life_line.h"
#include "app/runs/measured_path.h"
#include "app/runs/path_ribbon.h"
#include "app/runs/run_list.h"
#include "app/runs/stamp_bar.h"
#include "app/runs/trace_curve.h"
#include "app/theme.h"
#include "app/widgets/caution_panel.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/page_stack.h"
#include "app/widgets/side_panel.h"
#include "core/kinds/figure_keys.h"

namespace otterstone::app {

namespace {

const std::string kGaugeView = "gauge";

// Below, the run itself needs the room; the line leads from run to run as well.
constexpr int kRoomForList = 860;

} // namespace

RunPage::RunPage(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), title_(new QLabel), list_(new RunList), line_(new LifeLine),
      stack_(new PageStack), ribbon_(new PathRibbon), sentence_(new QLabel), copy_(new QPushButton(tr("Copy"))),
      ends_(new EndsBar(session)), figures_(new QWidget), moreFigures_(new QWidget), more_(new QPushButton),
      referred_(new QLabel), remarks_(new QLabel), views_(new QWidget), pictures_(new QStackedWidget),
      curve_(new TraceCurve), gauge_(new GaugeCurve), stamps_(new StampBar(session)),
      about_(new QPushButton(tr("About this run…"))), remove_(new QPushButton(tr("Remove this run"))),
      behaviour_(new BehaviourView(session)), notedEnds_(new EndsBar(session)),
      measuredPath_(new MeasuredPath(session)) {
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(3 * kGrid, kGrid, 2 * kGrid, kGrid);
    outer->setSpacing(kGrid);
    auto* head = new QHBoxLayout;
    title_->setFont(app::font(1.6, QFont::DemiBold));
    auto* bring = new QPushButton(tr("Bring in a log…"));
    bring->setObjectName(QStringLiteral("quiet"));
    bring->setToolTip(tr("Or drop it anywhere on the window, or paste its rows (Ctrl+I)"));
    auto* cautions = new QPushButton(tr("Before a run"));
    cautions->setObjectName(QStringLiteral("quiet"));
    cautions->setToolTip(tr("What to look at before a bank is charged or drained"));
    remove_->setObjectName(QStringLiteral("quiet"));
    head->addWidget(title_);
    head->addStretch();
    about_->setObjectName(QStringLiteral("quiet"));
    head->addWidget(about_);
    about_->setToolTip(tr("Title, ambient, port, where it was read, further traces, settling (Ctrl+T)"));
    head->addWidget(remove_);
    head->addWidget(cautions);
    head->addWidget(bring);
    outer->addLayout(head);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("The run"));
    auto* below = new QHBoxLayout;
    below->setSpacing(2 * kGrid);
    below->addWidget(list_);
    auto* beside = new QVBoxLayout;
    beside->setSpacing(kGrid / 2);
    beside->addWidget(line_);
    beside->addWidget(stack_, 1);
    below->addLayout(beside, 1);
    outer->addLayout(below, 1);
    const auto openIt = [this](long long run) { show(bank_, run); };
    connect(list_, &RunList::runWanted, this, openIt);
    connect(line_, &LifeLine::runWanted, this, openIt);
    connect(&session_, &BookSession::togetherReady, this,
            [this](long long bank, const together::BankFindings& together) {
                if (bank != bank_)
                    return;
                life_ = together.life;
                showLife();
            });

    auto* none = new QWidget;
    auto* noneColumn = new QVBoxLayout(none);
    noneColumn->setContentsMargins(0, 2 * kGrid, 0, 0);
    noneColumn->setSpacing(2 * kGrid);
    auto* words = new QLabel(tr(
        "No run of this bank is in the book yet. Measure a recharge or a drain, then drop the meter's log on this window."));
    words->setWordWrap(true);
    words->setFont(app::font(1.15));
    noneColumn->addWidget(words);
    noneColumn->addWidget(new CautionPanel);
    auto* bringFirst = new QPushButton(tr("Bring in a log…"));
    bringFirst->setObjectName(QStringLiteral("primary"));
    noneColumn->addWidget(bringFirst, 0, Qt::AlignLeft);
    noneColumn->addStretch();
    stack_->addWidget(none);

    auto* scroll = new QScrollArea;
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, kGrid, 0);
    column->setSpacing(kGrid);
    column->addWidget(ribbon_);
    auto* quote = new QHBoxLayout;
    sentence_->setFont(app::font(1.3));
    sentence_->setWordWrap(true);
    sentence_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
    sentence_->setAccessibleName(tr("Finding"));
    copy_->setObjectName(QStringLiteral("quiet"));
    copy_->setToolTip(tr("Copy the sentence"));
    quote->addWidget(sentence_, 1);
    quote->addWidget(copy_, 0, Qt::AlignTop);
    column->addLayout(quote);
    column->addWidget(ends_);
    connect(ends_, &EndsBar::problem, this, &RunPage::problem);
    for (int key = 1; key <= 9; ++key) {
        auto* shortcut = new QShortcut(QKeySequence(Qt::Key_0 + key), this);
        shortcut->setContext(Qt::WidgetWithChildrenShortcut);
        connect(shortcut, &QShortcut::activated, this, [this, key] { (void)ends_->answer(key); });
        answers_.push_back(shortcut);
    }
    letAnswer(0);
    referred_->setFont(app::font(1.0, QFont::Medium));
    referred_->setWordWrap(true);
    referred_->setAccessibleName(tr("Figure referred along the path"));
    referred_->hide();
    column->insertWidget(1, referred_);
    figureRow_ = new FlowLayout(figures_, kGrid);
    column->addWidget(figures_);
    moreRow_ = new FlowLayout(moreFigures_, kGrid);
    more_->setObjectName(QStringLiteral("quiet"));
    more_->setCheckable(true);
    column->addWidget(moreFigures_);
    moreFigures_->hide();
    column->addWidget(more_, 0, Qt::AlignLeft);
    connect(more_, &QPushButton::toggled, moreFigures_, &QWidget::setVisible);
    remarks_->setObjectName(QStringLiteral("faint"));
    remarks_->setWordWrap(true);
    remarks_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    column->addWidget(remarks_);
    viewRow_ = new FlowLayout(views_, kGrid / 2);
    column->addWidget(views_);
    pictures_->addWidget(curve_);
    pictures_->addWidget(gauge_);
    column->addWidget(pictures_, 1);
    column->addWidget(stamps_);
    scroll->setWidget(page);
    stack_->addWidget(scroll);
    stack_->addWidget(behaviour_);
    connect(behaviour_, &BehaviourView::workingWanted, this, &RunPage::workingWanted);
    connect(behaviour_, &BehaviourView::problem, this, &RunPage::problem);
    behaviour_->putBelowTheSentence(notedEnds_);
    behaviour_->putBelowTheRows(measuredPath_);
    connect(behaviour_, &BehaviourView::judged, this, [this](const records::Run& run, const kinds::Finding& finding) {
        measuredPath_->show(run, finding);
        notedEnds_->setVisible(finding.drain || finding.recharge);
        if (notedEnds_->isVisibleTo(behaviour_))
            notedEnds_->show(run.id, finding);
    });
    connect(notedEnds_, &EndsBar::problem, this, &RunPage::problem);
    connect(measuredPath_, &MeasuredPath::workingWanted, this, &RunPage::workingWanted);
    connect(measuredPath_, &MeasuredPath::gearWanted, this, [this](int place) { Q_EMIT gearWanted(run_, place); });

    connect(cautions, &QPushButton::clicked, this, &RunPage::cautionsWanted);
    connect(bring, &QPushButton::clicked, this, &RunPage::logWanted);
    connect(bringFirst, &QPushButton::clicked, this, &RunPage::logWanted);
    connect(copy_, &QPushButton::clicked, this, [this] { QGuiApplication::clipboard()->setText(sentence_->text()); });
    connect(remove_, &QPushButton::clicked, this, [this] {
        if (auto done = session_.removeRun(run_); !done)
            Q_EMIT problem(qs(done.error().sentence()));
    });
    connect(ribbon_, &PathRibbon::gearWanted, this, [this](int place) { Q_EMIT gearWanted(run_, place); });
    connect(ribbon_, &PathRibbon::pointChosen, this, &RunPage::refer);
    connect(about_, &QPushButton::clicked, this, [this] { Q_EMIT aboutWanted(run_); });
    connect(curve_, &TraceCurve::stampWanted, this,
            [this](records::Mark::What what) { stamps_->begin(what, curve_->lensTime()); });
    connect(stamps_, &StampBar::wanted, this,
            [this](records::Mark::What what) { stamps_->begin(what, curve_->lensTime()); });
    connect(stamps_, &StampBar::done, this, [this] { curve_->setFocus(); });
    connect(stamps_, &StampBar::problem, this, &RunPage::problem);
    connect(&session_, &BookSession::changed, this, [this] {
        if (isHidden()) // it is filled anew whenever it is shown
            return;
        show(bank_, run_);
        if (bank_ != records::kNew)
            session_.judgeTogether(bank_);
    });
    connect(&session_, &BookSession::findingReady, this, [this](long long run) {
        if (run != run_ || isHidden())
            return;
        stack_->currentWidget() == behaviour_ ? behaviour_->judge() : openRun(run_);
    });
    connect(&session_, &BookSession::findingFailed, this, [this](long long run, const QString& why) {
        if (run == run_)
            sentence_->setText(why); // of one with a sheet its own view says it
    });
}

QString RunPage::sentence() const { return sentence_->text(); }
QString RunPage::referred() const { return referred_->isHidden() ? QString() : referred_->text(); }

void RunPage::show(records::Id bank, records::Id run) {
    if (!session_.isOpen())
        return;
    const auto found = session_.book().bank(bank);
    if (bank != std::exchange(bank_, bank))
        life_ = {};
    if (life_.passages.empty() && found)
        session_.judgeTogether(bank);
    title_->setText(found ? qs(found->name) : QString());
    const auto runs = session_.book().runs(bank);
    records::Id wanted = records::kNew;
    for (const records::Run& r : runs) {
        if (r.id == run || (wanted == records::kNew && r.id == run_))
            wanted = r.id;
    }
    if (wanted == records::kNew && !runs.empty())
        wanted = runs.front().id;
    if (wanted != run_) {
        view_.clear();
        referred_->hide();
    }
    run_ = wanted;
    showLife();
    const auto opened = session_.book().run(run_);
    const bool sheet = opened && records::hasSheet(opened->kind);
    stack_->setCurrentIndex(run_ == records::kNew ? 0 : sheet ? 2 : 1);
    remove_->setVisible(opened && !session_.book().readOnly());
    about_->setVisible(opened.has_value());
    if (sheet) {
        letAnswer(0);
        behaviour_->show(*opened);
        return;
    }
    stamps_->show(run_);
    if (run_ != records::kNew)
        openRun(run_);
}

// Digits answer only where something is asked: elsewhere they are typed.
void RunPage::letAnswer(std::size_t answers) {
    for (std::size_t k = 0; k < answers_.size(); ++k)
        answers_[k]->setEnabled(k < answers);
}

void RunPage::showLife() {
    const auto runs = session_.book().runs(bank_);
    list_->show(runs, life_, run_);
    line_->show(life_, run_);
    list_->setVisible(width() >= kRoomForList && runs.size() > 1);
}

void RunPage::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    list_->setVisible(width() >= kRoomForList && list_->list()->count() > 1);
}

void RunPage::openRun(records::Id id) {
    if (const auto finding = session_.finding(id)) {
        showFinding(*finding);
        return;
    }
    sentence_->setText(tr("Working it out…"));
    ends_->clear();
    letAnswer(0);
    clearFigures();
    remarks_->clear();
    ribbon_->clear();
    drawn_.clear();
    curve_->clear();
}

void RunPage::showFinding(const kinds::Finding& finding) {
    const auto run = session_.book().run(run_);
    const auto bank = session_.book().bank(bank_);
    if (!run || !bank)
        return;
    const bool intoBank = run->kind == records::Kind::Recharge;
    ribbon_->show(makeRibbon(*bank, *run, session_.book().gear(), finding), intoBank);
    sentence_->setText(onScreen(finding.sentence));
    ends_->show(run_, finding);
    letAnswer(finding.ends.questions.empty() ? 0 : finding.ends.questions.front().answers.size());
    QStringList remarks;
    for (const Warning& w : finding.warnings)
        if (w.code != "taken") // the line above says so, with what to do about it
            remarks << QStringLiteral("·  ") + onScreen(w.text);
    remarks_->setText(remarks.join(QLatin1Char('\n')));
    remarks_->setVisible(!remarks.isEmpty());

    showFigures(finding);
    fillViews(*run);
    gauge_->show(kinds::answers(finding, key::gaugeError) ? finding.gauge : std::nullopt, !intoBank);
    showCurve(*run, finding);
}

void RunPage::fillViews(const records::Run& run) {
    emptyLayout(viewRow_);
    const auto add = [this](const QString& words, const std::string& view) {
        auto* button = new QPushButton(words);
        button->setObjectName(QStringLiteral("quiet"));
        button->setCheckable(true);
        button->setChecked(view == view_);
        viewRow_->addWidget(button);
        connect(button, &QPushButton::clicked, this, [this, view] {
            view_ = view;
            openRun(run_);
        });
    };
    add(tr("trace at the %1").arg(qs(path::pointWords(run.point))), {});
    for (const records::AlsoTrace& t : run.also)
        add(tr("at the %1").arg(qs(t.key())), t.key());
    add(tr("display against truth"), kGaugeView);
    views_->updateGeometry();
}

void RunPage::showCurve(const records::Run& run, const kinds::Finding& finding) {
    pictures_->setCurrentWidget(view_ == kGaugeView ? static_cast<QWidget*>(gauge_) : curve_);
    if (view_ == kGaugeView)
        return;
    // Samples stay; phases and marks may change.
    std::string picture = std::to_string(run_) + session_.book().path().toStdString() + view_;
    for (const trace::Phase& p : finding.phases)
        picture += trace::phaseName(p.kind) + std::to_string(p.from) + std::to_string(p.wattHours);
    for (const records::Mark& m : run.marks)
        picture += std::to_string(m.at) + m.text + records::markKey(m.what) + std::to_string(m.number.value_or(-1.0));
    if (picture == drawn_)
        return;
    drawn_ = picture;
    CurveData samples(session_.book().summaries(run_, view_), [this, id = run_, view = view_](int first, int last) {
        return session_.book().chunks(id, first, last, view);
    });
    // Phases and stamps lie on the main trace's clock.
    const bool main = view_.empty();
    curve_->show(std::move(samples), main ? &finding : nullptr, main ? run.marks : std::vector<records::Mark>{},
                 run.kind == records::Kind::Recharge);
}

void RunPage::refer(path::Point point, bool explain) {
    const auto finding = session_.finding(run_);
    if (!finding)
        return;
    referred_->setText(sayAt(*finding, point));
    referred_->setVisible(!referred_->text().isEmpty());
    if (!explain)
        return;
    uncheckFigures();
    for (const kinds::PointFigure& p : finding->points) {
        if (p.point == point) {
            Q_EMIT workingWanted(p.energy);
            return;
        }
    }
}

void RunPage::restyle() {
    curve_->restyle();
    gauge_->restyle();
    behaviour_->update();
}

} // namespace otterstone::app
