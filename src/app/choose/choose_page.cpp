#include "app/choose/choose_page.h"

#include <QButtonGroup>
#include <QComboBox>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <QtConcurrent>

#include "app/choose/bank_picker.h"
#include "app/choose/choice_bars.h"
#include "app/choose/devices_view.h"
#include "app/choose/figures_table.h"
#include "app/choose/overlay_plot.h"
#include "app/choose/purpose_editor.h"
#include "app/choose/use_view.h"
#include "app/shelf/searched.h"
#include "app/theme.h"
#include "app/widgets/copy_table.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/page_stack.h"
#include "app/widgets/side_panel.h"
#include "app/widgets/wrapped_label.h"
#include "book/store/choices.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace {

constexpr int kOfBanks = 2; // curves that are no device's

QLabel* words(double scale, bool faint) {
    auto* l = new WrappedLabel;
    l->setTextFormat(Qt::PlainText);
    l->setFont(app::font(scale));
    l->setTextInteractionFlags(Qt::TextSelectableByMouse);
    if (faint)
        l->setObjectName(QStringLiteral("faint"));
    return l;
}

} // namespace

ChoosePage::ChoosePage(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), purpose_(judgement::purposes().front()), picker_(new BankPicker),
      views_(new PageStack), table_(new FiguresTable), unlike_(words(0.92, true)), verdict_(words(1.2, false)),
      about_(words(1.0, true)), turnings_(words(0.95, true)), purposes_(new QComboBox), bars_(new ChoiceBars),
      editor_(new PurposeEditor), plot_(new OverlayPlot), curveKind_(new QComboBox), curveAxis_(new QComboBox),
      use_(new UseView(session)), devices_(new DevicesView) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(3 * kGrid, kGrid, 2 * kGrid, kGrid);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Choose"));
    title->setFont(app::font(1.6, QFont::DemiBold));
    head->addWidget(title);
    head->addSpacing(2 * kGrid);
    auto* group = new QButtonGroup(this);
    int k = 0;
    for (const QString& name : {tr("Side by side"), tr("For a purpose"), tr("Curves"), tr("In use"), tr("Devices")}) {
        auto* b = new QPushButton(name);
        b->setObjectName(QStringLiteral("quiet"));
        b->setCheckable(true);
        group->addButton(b, k);
        connect(b, &QPushButton::clicked, this, [this, k] { setView(static_cast<View>(k)); });
        head->addWidget(b);
        viewButtons_.push_back(b);
        ++k;
    }
    head->addStretch();
    auto* sheet = new QPushButton(tr("Its sheet…"));
    sheet->setObjectName(QStringLiteral("quiet"));
    sheet->setToolTip(tr("The comparison as a sheet to publish"));
    connect(sheet, &QPushButton::clicked, this, &ChoosePage::sheetWanted);
    head->addWidget(sheet);
    all->addLayout(head);
    all->addWidget(picker_);
    connect(picker_, &BankPicker::changed, this, &ChoosePage::compareAnew);
    for (QWidget* view :
         {buildFigures(), buildPurpose(), buildCurves(), static_cast<QWidget*>(use_), static_cast<QWidget*>(devices_)})
        views_->addWidget(view);
    all->addWidget(views_, 1);
    setView(Figures);
    connect(use_, &UseView::workingWanted, this, &ChoosePage::workingWanted);
    connect(use_, &UseView::problem, this, &ChoosePage::problem);
    connect(devices_, &DevicesView::workingWanted, this, &ChoosePage::workingWanted);
    connect(devices_, &DevicesView::runWanted, this, &ChoosePage::runWanted);
    connect(devices_, &DevicesView::ready, this, [this] {
        listCurves();
        if (this->view() == Curves)
            drawCurves();
    });
    connect(&comparer_, &QFutureWatcherBase::finished, this, &ChoosePage::takeComparison);
    connect(&ranker_, &QFutureWatcherBase::finished, this, &ChoosePage::showRanking);
    connect(&session_, &BookSession::evidenceReady, this, &ChoosePage::takeEvidence);
    connect(&session_, &BookSession::opened, this, &ChoosePage::takeBook);
    connect(&session_, &BookSession::changed, this, [this] {
        if (isVisible())
            open();
    });
    if (session_.isOpen())
        takeBook();
}

void ChoosePage::takeBook() {
    picker_->reset();
    evidence_ = std::make_shared<const std::vector<evidence::Evidence>>();
    compareAgain_ = comparing_; // what is on its way is another book's
    choosePurpose(book::purposeOr(session_.book().choice(book::choice::purpose)));
}

QWidget* ChoosePage::buildFigures() {
    auto* view = new QWidget;
    auto* column = new QVBoxLayout(view);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(table_, 1);
    auto* told = new QScrollArea; // with twelve banks there is much to tell, and the table needs its room
    told->setWidgetResizable(true);
    told->setFrameShape(QFrame::NoFrame);
    told->setMaximumHeight(104);
    told->setAccessibleName(tr("Figures found under unlike conditions"));
    told->setWidget(unlike_);
    unlike_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    column->addWidget(told);
    auto* foot = new QHBoxLayout;
    addCopyButtons(foot, table_);
    foot->addStretch();
    column->addLayout(foot);
    connect(table_, &FiguresTable::workingWanted, this, &ChoosePage::workingWanted);
    connect(table_, &FiguresTable::runWanted, this, &ChoosePage::runWanted);
    return view;
}

QWidget* ChoosePage::buildPurpose() {
    auto* view = new QWidget;
    auto* outer = new QVBoxLayout(view);
    outer->setContentsMargins(0, 0, 0, 0);
    auto* line = new QHBoxLayout;
    auto* label = new QLabel(tr("&Purpose"));
    label->setBuddy(purposes_);
    purposes_->setAccessibleName(tr("Purpose"));
    line->addWidget(label);
    line->addWidget(purposes_);
    line->addWidget(about_, 1);
    outer->addLayout(line);
    auto* column = addScrollingColumn(outer);
    column->addWidget(verdict_);
    column->addWidget(bars_);
    column->addWidget(turnings_);
    column->addWidget(editor_);
    column->addStretch();
    for (const judgement::Purpose& p : judgement::purposes())
        purposes_->addItem(qs(p.words), qs(p.key));
    purposes_->addItem(tr("Own"), QStringLiteral("own"));
    connect(purposes_, &QComboBox::activated, this, [this](int k) {
        judgement::Purpose next = purpose_;
        next.key = "own";
        next.words = "Own";
        if (const judgement::Purpose* known = judgement::purposeNamed(purposes_->itemData(k).toString().toStdString()))
            next = *known;
        if (auto kept = session_.changeChoice(book::choice::purpose, judgement::purposeToJson(next),
                                              tr("choose for another purpose"));
            !kept)
            Q_EMIT problem(qs(kept.error().sentence()));
        choosePurpose(next);
    });
    connect(editor_, &PurposeEditor::changed, this, [this](const judgement::Purpose& own) {
        if (auto kept =
                session_.changeChoice(book::choice::purpose, judgement::purposeToJson(own), tr("change the weights"));
            !kept)
            Q_EMIT problem(qs(kept.error().sentence()));
        choosePurpose(own);
    });
    connect(bars_, &ChoiceBars::placeWanted, this, [this](int place) {
        Q_EMIT workingWanted(
            answer_.ranking.working(static_cast<std::size_t>(place), *answer_.comparison, answer_.purpose));
    });
    return view;
}

QWidget* ChoosePage::buildCurves() {
    auto* view = new QWidget;
    auto* column = new QVBoxLayout(view);
    column->setContentsMargins(0, 0, 0, 0);
    auto* line = new QHBoxLayout;
    curveKind_->setAccessibleName(tr("Which curves"));
    curveKind_->addItems({tr("Recharges from empty"), tr("Gentle drains")});
    curveAxis_->setAccessibleName(tr("Along"));
    curveAxis_->addItems({tr("over time"), tr("over energy"), tr("over percent of it")});
    auto* copy = new QPushButton(tr("Copy as SVG and PNG"));
    copy->setObjectName(QStringLiteral("quiet"));
    line->addWidget(curveKind_);
    line->addWidget(curveAxis_);
    line->addStretch();
    line->addWidget(copy);
    column->addLayout(line);
    column->addWidget(plot_, 1);
    connect(curveKind_, &QComboBox::activated, this, &ChoosePage::drawCurves);
    connect(curveAxis_, &QComboBox::activated, this, &ChoosePage::drawCurves);
    connect(copy, &QPushButton::clicked, this, &ChoosePage::copyCurve);
    return view;
}

void ChoosePage::open() {
    if (session_.isOpen())
        session_.gatherEvidence({});
}

void ChoosePage::setView(View view) {
    views_->setCurrentIndex(view);
    viewButtons_[static_cast<std::size_t>(view)]->setChecked(true);
    if (view == Curves)
        drawCurves();
    // The keyboard goes into the view, not to the first button of the page.
    if (isVisible())
        (view == Figures   ? static_cast<QWidget*>(table_)
         : view == Purpose ? static_cast<QWidget*>(purposes_)
         : view == Curves  ? static_cast<QWidget*>(curveKind_)
         : view == Devices ? static_cast<QWidget*>(devices_->asked())
                           : static_cast<QWidget*>(use_->needs()))
            ->setFocus();
}

ChoosePage::View ChoosePage::view() const { return static_cast<View>(views_->currentIndex()); }

void ChoosePage::takeEvidence(const SharedEvidence& evidence) {
    evidence_ = evidence;
    // The house's purpose may have been undone.
    purpose_ = book::purposeOr(session_.book().choice(book::choice::purpose));
    showBanks();
    compareAnew();
}

void ChoosePage::showBanks() {
    std::vector<BankPicker::Bank> all;
    for (const records::Bank& bank : session_.book().banks())
        all.push_back({bank.id, qs(bank.name), searchedIn(bank)});
    picker_->show(std::move(all));
}

std::vector<records::Id> ChoosePage::banks() const {
    std::vector<records::Id> ids;
    for (const evidence::Evidence& e : *evidence_) {
        if (picker_->isIn(e.bank))
            ids.push_back(e.bank);
    }
    return ids;
}

// All that was gathered, or a copy of those that are in.
SharedEvidence ChoosePage::chosen() const {
    const auto isIn = [this](const evidence::Evidence& e) { return picker_->isIn(e.bank); };
    if (std::all_of(evidence_->begin(), evidence_->end(), isIn))
        return evidence_;
    auto some = std::make_shared<std::vector<evidence::Evidence>>();
    std::copy_if(evidence_->begin(), evidence_->end(), std::back_inserter(*some), isIn);
    return some;
}

void ChoosePage::compareAnew() {
    const SharedEvidence banks = chosen();
    compareAgain_ = comparing_;
    if (!std::exchange(comparing_, true))
        comparer_.setFuture(QtConcurrent::run([banks] {
            Compared c{std::make_shared<const judgement::Comparison>(judgement::compare(*banks)), {}};
            for (const judgement::FigureRow& row : c.comparison->rows) {
                if (std::string text = judgement::unlikeWords(row, c.comparison->banks); !text.empty())
                    c.unlike.push_back(std::move(text));
            }
            return c;
        }));
    use_->show(banks);
    if (views_->currentIndex() == Curves)
        drawCurves();
    devices_->show(banks);
}

void ChoosePage::takeComparison() {
    comparing_ = false;
    if (std::exchange(compareAgain_, false))
        return compareAnew();
    compared_ = comparer_.result();
    showFigures();
}

void ChoosePage::showFigures() {
    table_->show(compared_.comparison);
    QStringList unlike;
    for (const std::string& text : compared_.unlike)
        unlike << onScreen(text);
    unlike_->setText(unlike.isEmpty() ? tr("All figures of a row were found under like conditions.")
                                      : QStringLiteral("* ") + unlike.join(QLatin1Char('\n')));
    rankAnew();
}

void ChoosePage::choosePurpose(const judgement::Purpose& purpose) {
    purpose_ = purpose;
    rankAnew();
}

void ChoosePage::rankAnew() {
    const int at = purposes_->findData(qs(purpose_.key));
    purposes_->setCurrentIndex(at >= 0 ? at : purposes_->count() - 1);
    about_->setText(qs(purpose_.about));
    editor_->show(purpose_);
    rankAgain_ = ranks_;
    if (!std::exchange(ranks_, true))
        ranker_.setFuture(QtConcurrent::run([comparison = compared_.comparison, purpose = purpose_] {
            return Answer{comparison, purpose, judgement::rank(*comparison, purpose)};
        }));
}

void ChoosePage::showRanking() {
    answer_ = ranker_.result();
    ranks_ = false;
    if (rankAgain_)
        rankAnew();
    const judgement::Ranking& ranking = answer_.ranking;
    verdict_->setText(onScreen(ranking.sentence));
    bars_->show(answer_.comparison, ranking, answer_.purpose);
    QStringList turns;
    for (const judgement::Turning& t : ranking.turnings) {
        const QString figure = qs(judgement::figureKind(t.figure)->words);
        if (t.below)
            turns << tr("“%1” at %2 times its weight: %3 would lead.")
                         .arg(figure, onScreen(showNumber(*t.below, 2)), onScreen(t.leaderBelow));
        if (t.above)
            turns << tr("“%1” at %2 times its weight: %3 would lead.")
                         .arg(figure, onScreen(showNumber(*t.above, 2)), onScreen(t.leaderAbove));
    }
    const bool unlike = std::any_of(ranking.banks.begin(), ranking.banks.end(), [](const judgement::Ranked& b) {
        return std::any_of(b.parts.begin(), b.parts.end(),
                           [](const judgement::Contributed& part) { return part.unlike; });
    });
    turnings_->setText(
        (unlike ? tr("* from a figure found under another condition than most; click the bar. ") : QString()) +
        (turns.isEmpty() ? tr("No single weight, from none to ten times, would put another bank first.")
                         : turns.join(QLatin1Char(' '))));
}

void ChoosePage::drawCurves() {
    const QString device = curveKind_->currentData().toString();
    curveAxis_->setEnabled(device.isEmpty());
    if (!device.isEmpty())
        return drawDevice(device);
    std::vector<OverlaySeries> series;
    const auto axis = static_cast<OverlayAxis>(curveAxis_->currentIndex());
    for (const evidence::Evidence& e : *evidence_) {
        if (!picker_->isIn(e.bank) || !session_.isOpen())
            continue;
        // The runs a sheet shows first.
        report::BankMaterial material;
        for (const kinds::RunEntry& r : e.runs) {
            report::RunSaid& said = material.runs.emplace_back();
            said.run = r.run;
            said.startedAt = r.startedAt;
            said.kind = r.finding->kind;
            said.settling = r.settling;
            said.finding = r.finding;
        }
        const auto id =
            curveKind_->currentIndex() == 0 ? report::firstRecharge(material) : report::gentlestDrain(material);
        const auto run = id ? session_.book().run(*id) : std::nullopt;
        if (run)
            series.push_back(overlayOf(session_.book(), *run, qs(e.name), axis));
    }
    plot_->show(series, axis);
}

// After the banks' own curves those of each device that a notebook followed; what was chosen stays.
void ChoosePage::listCurves() {
    const QString chosen = curveKind_->currentData().toString();
    while (curveKind_->count() > kOfBanks)
        curveKind_->removeItem(kOfBanks);
    const evidence::DevicesAcross& all = devices_->devices();
    for (std::size_t k = 0; k < all.devices.size(); ++k) {
        if (std::ranges::any_of(all.curves, [k](const auto& c) { return c.device == k; }))
            curveKind_->addItem(tr("%1, charged").arg(qs(all.devices[k].name)), qs(all.devices[k].name));
    }
    if (!chosen.isEmpty())
        curveKind_->setCurrentIndex(std::max(0, curveKind_->findData(chosen)));
}

// One device on the banks, each charge from where its display began.
void ChoosePage::drawDevice(const QString& device) {
    std::vector<OverlaySeries> series;
    const evidence::DevicesAcross& all = devices_->devices();
    for (const evidence::DevicesAcross::Curve& c : all.curves) {
        if (qs(all.devices[c.device].name) != device)
            continue;
        OverlaySeries s;
        s.name = qs(all.banks[c.bank]) + (c.curve.way.empty() ? QString() : QStringLiteral(", ") + qs(c.curve.way));
        for (const auto& [seconds, percent] : c.curve.points) {
            s.x << seconds / 3600.0;
            s.y << percent;
        }
        series.push_back(std::move(s));
    }
    plot_->show(series, OverlayAxis::Time, tr("% of %1").arg(device));
}

void ChoosePage::copyCurve() {
    copyPlot(plot_->plot());
    Q_EMIT done(tr("The curves are in the clipboard, as SVG and as PNG."));
}

void ChoosePage::restyle() {
    showFigures(); // nothing is worked out anew
    use_->show(chosen());
    devices_->show(chosen());
    if (views_->currentIndex() == Curves)
        drawCurves();
    editor_->show(purpose_);
}

} // namespace otterstone::app
