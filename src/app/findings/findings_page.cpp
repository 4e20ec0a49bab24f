#include "app/findings/findings_page.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/findings/claims_table.h"
#include "app/findings/usable_plot.h"
#include "app/theme.h"
#include "app/widgets/figure_button.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/side_panel.h"
#include "app/widgets/wrapped_label.h"
#include "core/kinds/figure_keys.h"
#include "core/kinds/traced/device.h"
#include "core/quantity/parse.h"

namespace otterstone::app {

namespace {

QLabel* plain(const QString& words, double scale = 1.0, bool faint = false) {
    auto* label = new WrappedLabel(words);
    label->setTextFormat(Qt::PlainText);
    label->setFont(app::font(scale));
    label->setTextInteractionFlags(Qt::TextSelectableByMouse);
    if (faint)
        label->setObjectName(QStringLiteral("faint"));
    return label;
}

} // namespace

FindingsPage::FindingsPage(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), title_(new QLabel) {
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(3 * kGrid, kGrid, 2 * kGrid, kGrid);
    auto* head = new QHBoxLayout;
    title_->setFont(app::font(1.6, QFont::DemiBold));
    auto* house = new QPushButton(tr("The house's choices…"));
    house->setObjectName(QStringLiteral("quiet"));
    house->setToolTip(tr("On which of the trade's disagreements this book stands where"));
    head->addWidget(title_);
    head->addStretch();
    head->addWidget(house);
    outer->addLayout(head);
    body_ = addScrollingColumn(outer);
    connect(house, &QPushButton::clicked, this, &FindingsPage::houseWanted);
    connect(&session_, &BookSession::changed, this, [this] {
        if (isVisible() && bank_ != records::kNew)
            session_.judgeTogether(bank_);
    });
    connect(&session_, &BookSession::togetherReady, this,
            [this](long long bank, const together::BankFindings& f, const judgement::Judged& judged) {
                if (bank != bank_)
                    return;
                findings_ = f;
                judged_ = judged;
                fill();
            });
}

void FindingsPage::show(records::Id bank) {
    if (!session_.isOpen())
        return;
    const auto found = session_.book().bank(bank);
    if (bank != bank_) {
        findings_ = {};
        judged_ = {};
        asked_.clear();
    }
    bank_ = bank;
    title_->setText(found ? tr("%1: its runs together").arg(qs(found->name)) : QString());
    session_.judgeTogether(bank);
}

FigureButton* FindingsPage::button(const Working& w) {
    auto* b = new FigureButton(w);
    connect(b, &FigureButton::clicked, this, [this, b] {
        for (auto* other : findChildren<FigureButton*>())
            other->setChecked(other == b);
        Q_EMIT workingWanted(b->working());
    });
    return b;
}

QVBoxLayout* FindingsPage::section(const QString& title, const QString& sentence) {
    auto* name = plain(title, 0.92, true);
    name->setContentsMargins(0, kGrid, 0, 0);
    body_->addWidget(name);
    if (!sentence.isEmpty())
        body_->addWidget(plain(sentence, 1.2));
    auto* holder = new QWidget;
    auto* column = new QVBoxLayout(holder);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(kGrid / 2);
    body_->addWidget(holder);
    return column;
}

void FindingsPage::figures(QVBoxLayout* into, const std::vector<Working>& all) {
    auto* row = new QWidget;
    auto* flow = new FlowLayout(row, kGrid);
    for (const Working& w : all)
        flow->addWidget(button(w));
    into->addWidget(row);
}

QWidget* FindingsPage::runLinks(const std::vector<records::Id>& runs) {
    auto* row = new QWidget;
    auto* flow = new FlowLayout(row, kGrid / 2);
    for (const records::Id id : runs) {
        const auto run = session_.book().run(id);
        auto* link = new QPushButton(run ? qs(run->title) : QString());
        link->setObjectName(QStringLiteral("quiet"));
        connect(link, &QPushButton::clicked, this, [this, id] { Q_EMIT runWanted(id); });
        flow->addWidget(link);
    }
    return row;
}

// The label, claim by claim.
void FindingsPage::addClaims() {
    auto* column = section(tr("Claims and verdicts"), onScreen(judged_.sentence));
    claims_ = nullptr;
    if (judged_.rows.empty())
        return;
    claims_ = new ClaimsTable;
    claims_->show(judged_);
    // Filled anew, it stays on the claim it was on.
    for (std::size_t k = 0; k < judged_.rows.size(); ++k) {
        if (judged_.rows[k].claim.key == claim_)
            claims_->setCurrentCell(static_cast<int>(k), 0);
    }
    connect(claims_, &QTableWidget::currentCellChanged, this,
            [this] { claim_ = claims_ && claims_->current() ? claims_->current()->claim.key : std::string(); });
    column->addWidget(claims_);
    auto* line = new QWidget;
    auto* flow = new FlowLayout(line, kGrid / 2);
    auto* run = new QPushButton(tr("Open its run (Return)"));
    auto* plan = new QPushButton(tr("Plan what would settle it (P)"));
    for (QPushButton* b : {run, plan}) {
        b->setObjectName(QStringLiteral("quiet"));
        flow->addWidget(b);
    }
    column->addWidget(line);
    const auto refresh = [this, run, plan] {
        const judgement::Held* row = claims_ ? claims_->current() : nullptr;
        run->setEnabled(row && !row->runs.empty());
        plan->setEnabled(row && !row->next.words.empty());
    };
    refresh();
    connect(claims_, &QTableWidget::currentCellChanged, this, refresh);
    connect(claims_, &ClaimsTable::workingWanted, this, &FindingsPage::workingWanted);
    connect(claims_, &ClaimsTable::runWanted, this, &FindingsPage::runWanted);
    connect(claims_, &ClaimsTable::planWanted, this,
            [this](const judgement::Held& row) { Q_EMIT planWanted(bank_, row); });
    connect(run, &QPushButton::clicked, this, [this] {
        if (const judgement::Held* row = claims_->current(); row && !row->runs.empty())
            Q_EMIT runWanted(row->runs.back());
    });
    connect(plan, &QPushButton::clicked, this, [this] {
        if (const judgement::Held* row = claims_->current(); row && !row->next.words.empty())
            Q_EMIT planWanted(bank_, *row);
    });
}

// How it behaves: one sentence for each sheet, and the way to it.
void FindingsPage::addBehaviours() {
    for (const together::Behaviour& b : findings_.behaviours)
        section(tr("%1").arg(qs(records::kindWords(b.kind))), onScreen(b.sentence))->addWidget(runLinks({b.run}));
}

// How it came, what its rests cost, what it counts itself, whether it fades; and other pieces of the same model.
void FindingsPage::addLife() {
    QStringList lines;
    for (const std::string& s : findings_.life.sentences)
        lines << onScreen(s);
    std::vector<Working> all = findings_.life.figures;
    if (findings_.cycles)
        all.insert(all.begin(), *findings_.cycles);
    if (!all.empty() || !lines.isEmpty())
        figures(section(tr("Its life"), lines.join(QLatin1Char('\n'))), all);
    for (const life::SideBySide& s : findings_.specimens) {
        auto* column = section(tr("Another specimen"), onScreen(s.sentence));
        figures(column, s.figures);
        column->addWidget(runLinks({s.runs.begin(), s.runs.end()}));
    }
}

void FindingsPage::fill() {
    if (load_)
        asked_ = load_->text();
    emptyLayout(body_);
    plot_ = nullptr;
    load_ = nullptr;
    answer_ = nullptr;
    addClaims();
    addUsable();
    if (findings_.efficiency)
        figures(section(tr("Efficiency, as the house reckons it"), {}), {*findings_.efficiency});
    addLife();
    constexpr std::size_t kAtLength = 3; // the others are a line each
    QStringList others;
    for (std::size_t k = 0; k < findings_.pairs.size(); ++k) {
        const together::Pair& p = findings_.pairs[k];
        if (k >= kAtLength) {
            others << onScreen(p.figures.front().note + ": " + p.figures.front().shown());
            continue;
        }
        auto* column = section(tr("In and out: %1").arg(onScreen(p.figures.front().note)), onScreen(p.sentence));
        figures(column, p.figures);
    }
    for (const together::Pair& p : findings_.partTrips) {
        auto* column = section(tr("There and back again"), onScreen(p.sentence));
        figures(column, p.figures);
        column->addWidget(runLinks({p.drain, p.recharge}));
    }
    if (!others.isEmpty())
        section(tr("In and out: the others"), {})->addWidget(plain(others.join(QLatin1Char('\n')), 1.0, true));
    for (const together::Contradiction& c : findings_.contradictions)
        section(tr("Cannot both be right"), onScreen(c.sentence))->addWidget(runLinks({c.runs.begin(), c.runs.end()}));
    for (const together::RepeatGroup& g : findings_.repeats) {
        auto* column = section(tr("Repeated: %1").arg(qs(g.what)), onScreen(g.sentence));
        figures(column, {g.working});
        std::vector<records::Id> runs(g.runs.begin(), g.runs.end());
        runs.insert(runs.end(), g.leftOut.begin(), g.leftOut.end());
        column->addWidget(runLinks(runs));
    }
    addInputs();
    addBehaviours();
    if (!findings_.missing.empty()) {
        QStringList words;
        for (const std::string& m : findings_.missing)
            words << QStringLiteral("·  ") + onScreen(m);
        section(tr("What would say more"), {})->addWidget(plain(words.join(QLatin1Char('\n')), 1.0, true));
    }
    body_->addStretch();
    answer();
}

void FindingsPage::addUsable() {
    const auto& usable = findings_.usable;
    QString sentence;
    if (findings_.usableFigure)
        sentence =
            tr("%1 usable: %2.").arg(onScreen(findings_.usableFigure->shown()), onScreen(findings_.usableFigure->note));
    auto* column = section(tr("Usable energy"), sentence);
    if (findings_.usableFigure)
        figures(column, {*findings_.usableFigure});
    if (!usable)
        return;
    plot_ = new UsablePlot;
    column->addWidget(plot_);
    column->addWidget(
        plain(tr("%1%2. The band is for about 95 %; dotted: beyond the loads that were tried.%3")
                  .arg(findings_.usableTier.empty() ? QString() : tr("Drains at %1: ").arg(qs(findings_.usableTier)),
                       onScreen(usable->inWords()),
                       findings_.otherDrains.empty() ? QString() : tr(" Crosses: drains at other voltages.")),
              0.92, true));
    auto* ask = new QHBoxLayout;
    ask->addWidget(plain(tr("How long will it run"), 1.1));
    load_ = new QLineEdit(asked_);
    load_->setPlaceholderText(tr("32 W"));
    load_->setAccessibleName(tr("Load in watts"));
    load_->setMaximumWidth(110);
    ask->addWidget(load_);
    auto* devices = new QComboBox;
    devices->setAccessibleName(tr("A device of the gear drawer"));
    devices->addItem(tr("or my …"));
    for (const records::Gear& g : session_.book().gear()) {
        if (g.kind == records::GearKind::Device && (g.watts || g.battery))
            devices->addItem(qs(g.name), static_cast<qlonglong>(g.id));
    }
    connect(devices, &QComboBox::activated, this, [this, devices](int k) {
        for (const records::Gear& g : session_.book().gear()) {
            if (k > 0 && g.id == devices->itemData(k).toLongLong())
                load_->setText(g.watts ? tr("%1 W").arg(qs(showNumber(*g.watts)))
                                       : tr("%1 Wh").arg(qs(showNumber(g.battery->value))));
        }
    });
    ask->addWidget(devices);
    answer_ = plain({}, 1.2);
    ask->addWidget(answer_, 1);
    column->addLayout(ask);
    answerFigures_ = new QVBoxLayout;
    column->addLayout(answerFigures_);
    connect(load_, &QLineEdit::textChanged, this, &FindingsPage::answer);
}

// "32 W" asks for a time, "26 Wh" for the number of charges.
void FindingsPage::answer() {
    if (!load_ || !findings_.usable)
        return;
    emptyLayout(answerFigures_);
    std::string text = load_->text().trimmed().toStdString();
    const bool energy = text.ends_with("Wh") || text.ends_with("wh");
    for (const std::string_view unit : {"Wh", "wh", "W", "w"}) {
        if (text.ends_with(unit)) {
            text.resize(text.size() - unit.size());
            break;
        }
    }
    const auto number = parseNumber(text);
    if (!number || !(*number > 0.0)) {
        answer_->setText(load_->text().trimmed().isEmpty() ? QString()
                                                           : tr("Write watts, as in 32 W, or a battery, as in 26 Wh."));
        plot_->show(findings_.usable, findings_.otherDrains, std::nullopt);
        return;
    }
    if (energy) {
        const Working w = findings_.usable->chargesOf(*number);
        answer_->setText(tr("about %1 charges").arg(onScreen(w.shown())));
        answerFigures_->addWidget(button(w), 0, Qt::AlignLeft);
        plot_->show(findings_.usable, findings_.otherDrains, findings_.usable->middlingLoad());
        return;
    }
    const Working w = findings_.usable->runtimeOf(*number);
    answer_->setText(w.note.empty() ? onScreen(w.shown()) : tr("%1 (%2)").arg(onScreen(w.shown()), onScreen(w.note)));
    answerFigures_->addWidget(button(w), 0, Qt::AlignLeft);
    plot_->show(findings_.usable, findings_.otherDrains, *number);
}

void FindingsPage::addInputs() {
    if (findings_.inputs.empty())
        return;
    auto* column = section(tr("Inputs and chargers, side by side"), {});
    for (const together::InputRow& in : findings_.inputs) {
        auto* head = new QWidget;
        auto* line = new QHBoxLayout(head);
        line->setContentsMargins(0, kGrid / 2, 0, 0);
        auto* name = new QPushButton(qs(in.title));
        name->setObjectName(QStringLiteral("quiet"));
        connect(name, &QPushButton::clicked, this, [this, id = in.run] { Q_EMIT runWanted(id); });
        line->addWidget(name);
        QStringList gear;
        for (const std::string& g : {in.charger, in.cable}) {
            if (!g.empty())
                gear << qs(g);
        }
        if (!in.claim.empty())
            gear << tr("claim: %1").arg(onScreen(in.claim));
        line->addWidget(plain(gear.join(QStringLiteral(" · ")), 0.95, true), 1);
        column->addWidget(head);
        std::vector<Working> all;
        for (const auto& w : {in.plateau, in.to80, in.full, in.energy, in.idle}) {
            if (w)
                all.push_back(*w);
        }
        figures(column, all);
    }
}

void FindingsPage::restyle() {
    if (bank_ != records::kNew)
        fill();
}

} // namespace otterstone::app
