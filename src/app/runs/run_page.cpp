#include "app/runs/run_page.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QStackedWidget>
#include <QVBoxLayout>

#include "app/runs/path_ribbon.h"
#include "app/runs/trace_curve.h"
#include "app/theme.h"
#include "app/widgets/caution_panel.h"
#include "app/widgets/figure_button.h"
#include "app/widgets/flow_layout.h"

namespace otterstone::app {

namespace {

// The figures a tester looks for first; the rest follows in the finding's order.
constexpr const char* kFirst[] = {"delivered_share", "energy_at_port_wh", "energy_wh", "projected_wh"};

QString runWords(const book::Run& run) {
    const QString kind = run.kind == findings::Kind::Drain ? QStringLiteral("▾ ") : QStringLiteral("▴ ");
    return kind + (run.title.empty() ? QObject::tr("run %1").arg(run.id) : qs(run.title));
}

} // namespace

RunPage::RunPage(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), title_(new QLabel), runButtons_(new QWidget), stack_(new QStackedWidget), ribbon_(new PathRibbon),
      sentence_(new QLabel), copy_(new QPushButton(tr("Copy"))), figures_(new QWidget), remarks_(new QLabel), curve_(new TraceCurve),
      remove_(new QPushButton(tr("Remove this run"))) {
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
    head->addWidget(remove_);
    head->addWidget(cautions);
    head->addWidget(bring);
    outer->addLayout(head);
    setFocusPolicy(Qt::StrongFocus);
    runRow_ = new FlowLayout(runButtons_, kGrid / 2);
    outer->addWidget(runButtons_);
    outer->addWidget(stack_, 1);

    auto* none = new QWidget;
    auto* noneColumn = new QVBoxLayout(none);
    noneColumn->setContentsMargins(0, 2 * kGrid, 0, 0);
    noneColumn->setSpacing(2 * kGrid);
    auto* words = new QLabel(tr("No run of this bank is in the book yet. Measure a recharge or a drain, then drop the meter's log on this window."));
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
    figureRow_ = new FlowLayout(figures_, kGrid);
    column->addWidget(figures_);
    remarks_->setObjectName(QStringLiteral("faint"));
    remarks_->setWordWrap(true);
    remarks_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    column->addWidget(remarks_);
    column->addWidget(curve_, 1);
    scroll->setWidget(page);
    stack_->addWidget(scroll);

    connect(cautions, &QPushButton::clicked, this, &RunPage::cautionsWanted);
    connect(bring, &QPushButton::clicked, this, &RunPage::logWanted);
    connect(bringFirst, &QPushButton::clicked, this, &RunPage::logWanted);
    connect(copy_, &QPushButton::clicked, this, [this] { QGuiApplication::clipboard()->setText(sentence_->text()); });
    connect(remove_, &QPushButton::clicked, this, [this] {
        if (auto done = session_.removeRun(run_); !done)
            Q_EMIT problem(qs(done.error().sentence()));
    });
    connect(ribbon_, &PathRibbon::gearWanted, this, [this](book::GearKind kind) { Q_EMIT gearWanted(run_, kind); });
    connect(&session_, &BookSession::changed, this, [this] { show(bank_, run_); });
    connect(&session_, &BookSession::findingReady, this, [this](long long run) {
        if (run == run_)
            openRun(run_);
    });
    connect(&session_, &BookSession::findingFailed, this, [this](long long run, const QString& why) {
        if (run == run_)
            sentence_->setText(why);
    });
}

QString RunPage::sentence() const { return sentence_->text(); }

FigureButton* RunPage::figure(const QString& key) const {
    for (auto* button : figures_->findChildren<FigureButton*>()) {
        if (qs(button->working().key) == key)
            return button;
    }
    return nullptr;
}

void RunPage::show(book::Id bank, book::Id run) {
    if (!session_.isOpen())
        return;
    const auto found = session_.book().bank(bank);
    bank_ = bank;
    title_->setText(found ? qs(found->name) : QString());
    const auto runs = session_.book().runs(bank);
    book::Id wanted = book::kNew;
    for (const book::Run& r : runs) {
        if (r.id == run || (wanted == book::kNew && r.id == run_))
            wanted = r.id;
    }
    if (wanted == book::kNew && !runs.empty())
        wanted = runs.front().id;
    run_ = wanted;
    fillRuns();
    stack_->setCurrentIndex(run_ == book::kNew ? 0 : 1);
    remove_->setVisible(run_ != book::kNew && !session_.book().readOnly());
    if (run_ != book::kNew)
        openRun(run_);
}

void RunPage::fillRuns() {
    const auto runs = session_.book().runs(bank_);
    auto buttons = runButtons_->findChildren<QPushButton*>();
    if (buttons.size() != static_cast<qsizetype>(runs.size())) {
        while (QLayoutItem* item = runRow_->takeAt(0)) {
            delete item->widget();
            delete item;
        }
        buttons.clear();
        for (std::size_t k = 0; k < runs.size(); ++k) {
            auto* button = new QPushButton;
            button->setObjectName(QStringLiteral("quiet"));
            button->setCheckable(true);
            runRow_->addWidget(button);
            connect(button, &QPushButton::clicked, this, [this, button] { show(bank_, button->property("run").toLongLong()); });
            buttons << button;
        }
    }
    for (std::size_t k = 0; k < runs.size(); ++k) {
        QPushButton* button = buttons[static_cast<qsizetype>(k)];
        button->setText(runWords(runs[k]));
        button->setProperty("run", static_cast<qlonglong>(runs[k].id));
        button->setChecked(runs[k].id == run_);
        button->setAccessibleName(qs(findings::kindKey(runs[k].kind)) + QStringLiteral(", ") + qs(runs[k].title));
    }
}

void RunPage::clearFigures() {
    while (QLayoutItem* item = figureRow_->takeAt(0)) {
        delete item->widget();
        delete item;
    }
}

void RunPage::openRun(book::Id id) {
    if (const auto finding = session_.finding(id)) {
        showFinding(*finding);
        return;
    }
    sentence_->setText(tr("Working it out…"));
    clearFigures();
    remarks_->clear();
    ribbon_->clear();
    drawn_.clear();
    curve_->clear();
}

void RunPage::showFinding(const findings::Finding& finding) {
    const auto run = session_.book().run(run_);
    const auto bank = session_.book().bank(bank_);
    if (!run || !bank)
        return;
    const bool intoBank = run->kind == findings::Kind::Recharge;
    ribbon_->show(makeRibbon(*bank, *run, session_.book().gear(), finding), intoBank);
    sentence_->setText(qs(finding.sentence));
    QStringList remarks;
    for (const Warning& w : finding.warnings)
        remarks << QStringLiteral("·  ") + qs(w.text);
    remarks_->setText(remarks.join(QLatin1Char('\n')));
    remarks_->setVisible(!remarks.isEmpty());

    QString focused;
    for (auto* button : figures_->findChildren<FigureButton*>()) {
        if (button->hasFocus() || button->isChecked())
            focused = qs(button->working().key);
    }
    clearFigures();
    std::vector<const Working*> order;
    for (const char* key : kFirst) {
        if (const Working* w = findings::figure(finding, key))
            order.push_back(w);
    }
    for (const Working& w : finding.figures) {
        if (std::find(order.begin(), order.end(), &w) == order.end())
            order.push_back(&w);
    }
    for (const Working* w : order) {
        auto* button = new FigureButton(*w);
        figureRow_->addWidget(button);
        connect(button, &FigureButton::clicked, this, [this, button] {
            const Working opened = button->working();
            uncheckFigures();
            button->setChecked(true);
            Q_EMIT workingWanted(opened);
        });
        if (!focused.isEmpty() && qs(w->key) == focused) {
            button->setChecked(true);
            Q_EMIT workingWanted(*w); // the drawer follows what has changed
        }
    }
    figures_->updateGeometry();

    // The samples never change; phases and marks may.
    std::string picture = std::to_string(run_) + session_.book().path().toStdString();
    for (const trace::Phase& p : finding.phases)
        picture += trace::phaseName(p.kind) + std::to_string(p.from);
    for (const findings::Mark& m : run->marks)
        picture += std::to_string(m.at) + m.text;
    if (picture == drawn_)
        return;
    drawn_ = picture;
    CurveData samples(session_.book().summaries(run_), [this, id = run_](int first, int last) { return session_.book().chunks(id, first, last); });
    curve_->show(std::move(samples), &finding, run->marks, intoBank);
}

void RunPage::uncheckFigures() {
    for (auto* button : figures_->findChildren<FigureButton*>())
        button->setChecked(false);
}

void RunPage::restyle() { curve_->restyle(); }

} // namespace otterstone::app
