#include "app/plan/wishes_panel.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>

#include "app/theme.h"
#include "bench/recipes/recipe.h"
#include "core/judgement/purpose.h"
#include "core/plan/campaign/files.h"
#include "core/plan/campaign/week.h"

namespace otterstone::app {

namespace campaign = plan::campaign;

namespace {

QLabel* heading(const QString& text) {
    auto* label = new QLabel(text);
    label->setFont(app::font(0.95, QFont::DemiBold));
    return label;
}

// "2026-09-11 18:00" of a moment that was kept.
QString shown(const std::string& iso) { return qs(iso.substr(0, 16)).replace(QLatin1Char('T'), QLatin1Char(' ')); }

} // namespace

WishesPanel::WishesPanel(QWidget* parent)
    : SidePanel(tr("Aims and hours"), parent), claims_(new QCheckBox(tr("What the &labels claim"))),
      purpose_(new QComboBox), unattended_(new QComboBox), loads_(new QSpinBox), repeats_(new QSpinBox),
      from_(new QLineEdit), until_(new QLineEdit), untilWhat_(new QLineEdit), hours_(new QLineEdit),
      banks_(new QListWidget), entryBank_(new QComboBox), entryRun_(new QComboBox), entryWords_(new QLineEdit),
      caution_(new QLabel), wrong_(new QLabel) {
    wrong_->setObjectName(QStringLiteral("problem"));
    for (QLabel* l : {wrong_, caution_})
        l->setWordWrap(true);
    body()->addWidget(wrong_);
    body()->addWidget(heading(tr("What is to be known")));
    body()->addWidget(claims_);
    auto* aims = new QFormLayout;
    aims->setRowWrapPolicy(QFormLayout::WrapAllRows);
    purpose_->addItem(tr("for no purpose"), QString());
    for (const judgement::Purpose& p : judgement::purposes())
        purpose_->addItem(qs(p.words), qs(p.key));
    loads_->setRange(0, campaign::Wishes::kMostLoads);
    loads_->setSpecialValueText(tr("none"));
    for (QSpinBox* box : {loads_, repeats_})
        box->setButtonSymbols(QAbstractSpinBox::NoButtons);
    repeats_->setRange(1, campaign::Wishes::kMostRepeats);
    aims->addRow(tr("All &figures"), purpose_);
    aims->addRow(tr("Usable energy at so many lo&ads"), loads_);
    aims->addRow(tr("&Times each drain and recharge"), repeats_);
    body()->addLayout(aims);
    body()->addWidget(heading(tr("Of these banks (none: of all)")));
    banks_->setAccessibleName(tr("Banks"));
    banks_->setMaximumHeight(132);
    body()->addWidget(banks_);
    body()->addWidget(heading(tr("When")));
    auto* when = new QFormLayout;
    when->setRowWrapPolicy(QFormLayout::WrapLongRows);
    for (QComboBox* box : {purpose_, unattended_}) { // as wide as the panel, not as the longest entry
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(12);
    }
    from_->setPlaceholderText(tr("now"));
    until_->setPlaceholderText(tr("fri 18:00, in 6 days"));
    untilWhat_->setPlaceholderText(tr("the boat"));
    hours_->setPlaceholderText(tr("mon-fri 9-17; sat 10-14 2 people"));
    when->addRow(tr("F&rom"), from_);
    when->addRow(tr("&Until"), until_);
    when->addRow(tr("… &which is"), untilWhat_);
    when->addRow(tr("Somebody is t&here"), hours_);
    unattended_->addItem(tr("nothing: somebody is there"), QStringLiteral("never"));
    unattended_->addItem(tr("between begin and end"), QStringLiteral("stop"));
    unattended_->addItem(tr("also over night"), QStringLiteral("night"));
    when->addRow(tr("Goes on al&one"), unattended_);
    body()->addLayout(when);
    caution_->setObjectName(QStringLiteral("faint"));
    body()->addWidget(caution_);
    buildEntry();
    body()->addStretch();
    const std::pair<QWidget*, QString> names[] = {{purpose_, tr("Purpose")},
                                                  {loads_, tr("Loads")},
                                                  {repeats_, tr("Times")},
                                                  {from_, tr("From")},
                                                  {until_, tr("Until")},
                                                  {untilWhat_, tr("What is at the end")},
                                                  {hours_, tr("Somebody is there")},
                                                  {unattended_, tr("Goes on alone")}};
    for (const auto& [field, name] : names)
        field->setAccessibleName(name);
    setFocusProxy(from_);
    connect(claims_, &QCheckBox::toggled, this, &WishesPanel::read);
    for (QComboBox* box : {purpose_, unattended_})
        connect(box, &QComboBox::activated, this, &WishesPanel::read);
    for (QSpinBox* box : {loads_, repeats_})
        connect(box, &QSpinBox::valueChanged, this, &WishesPanel::read);
    for (QLineEdit* edit : {from_, until_, untilWhat_, hours_})
        connect(edit, &QLineEdit::editingFinished, this, &WishesPanel::read);
    connect(banks_, &QListWidget::itemChanged, this, &WishesPanel::read);
}

// A recipe, or a kind that is written down by hand.
void WishesPanel::buildEntry() {
    body()->addWidget(heading(tr("A run of your own")));
    auto* form = new QFormLayout;
    form->addRow(tr("&Bank"), entryBank_);
    form->addRow(tr("Ru&n"), entryRun_);
    form->addRow(tr("What &for"), entryWords_);
    body()->addLayout(form);
    for (const bench::RecipeText& r : bench::builtinRecipes())
        entryRun_->addItem(qs(r.recipe.name), QStringList{qs(records::kindKey(r.recipe.kind)), qs(r.recipe.key)});
    for (const records::KindName& kind : records::kKinds)
        entryRun_->addItem(tr("%1, by hand").arg(qs(records::kindWords(kind.kind))),
                           QStringList{QLatin1String(kind.key), QString()});
    for (QComboBox* box : {entryBank_, entryRun_}) {
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(12);
    }
    entryBank_->setAccessibleName(tr("Bank of a run of your own"));
    entryRun_->setAccessibleName(tr("A run of your own"));
    entryWords_->setAccessibleName(tr("What it is for"));
    auto* put = new QPushButton(tr("Put it into the plan"));
    body()->addWidget(put, 0, Qt::AlignLeft);
    connect(put, &QPushButton::clicked, this, &WishesPanel::putEntry);
    connect(entryWords_, &QLineEdit::returnPressed, this, &WishesPanel::putEntry);
}

void WishesPanel::putEntry() {
    const QStringList run = entryRun_->currentData().toStringList();
    const auto kind = run.isEmpty() ? std::nullopt : records::kindFromKey(run.front().toStdString());
    if (!kind || entryBank_->currentIndex() < 0)
        return;
    Q_EMIT entryWanted({records::kNew, entryBank_->currentData().toLongLong(), *kind, run.back().toStdString(), "",
                        entryWords_->text().trimmed().toStdString(), false});
    entryWords_->clear();
}

void WishesPanel::show(const campaign::Wishes& w, const std::vector<records::Bank>& banks, double now) {
    filling_ = true;
    wishes_ = w;
    now_ = now;
    claims_->setChecked(w.claims);
    purpose_->setCurrentIndex(std::max(0, purpose_->findData(qs(w.purpose))));
    unattended_->setCurrentIndex(std::max(0, unattended_->findData(QLatin1String(unattendedKey(w.unattended)))));
    loads_->setValue(w.loads);
    repeats_->setValue(w.repeats);
    from_->setText(shown(w.from));
    until_->setText(shown(w.until));
    untilWhat_->setText(qs(w.untilWhat));
    hours_->setText(qs(w.hours));
    const int row = banks_->currentRow();
    banks_->clear();
    const QVariant entryBank = entryBank_->currentData();
    entryBank_->clear();
    for (const records::Bank& b : banks) {
        entryBank_->addItem(qs(b.name), b.id);
        auto* item = new QListWidgetItem(qs(b.name), banks_);
        item->setData(Qt::UserRole, b.id);
        item->setFlags(Qt::ItemIsUserCheckable | Qt::ItemIsEnabled | Qt::ItemIsSelectable);
        const bool in = std::find(w.banks.begin(), w.banks.end(), b.id) != w.banks.end();
        item->setCheckState(in ? Qt::Checked : Qt::Unchecked);
    }
    banks_->setCurrentRow(row); // whoever goes down the list by keys stays there
    entryBank_->setCurrentIndex(std::max(0, entryBank_->findData(entryBank)));
    wrong_->hide();
    caution_->setVisible(w.unattended != campaign::Unattended::Never);
    caution_->setText(
        tr("Lithium cells can burn. Alone only on a surface that does not, with an automatic stop that was "
           "tried, a smoke alarm in hearing, and where local rules allow it."));
    filling_ = false;
}

void WishesPanel::read() {
    if (filling_)
        return;
    campaign::Wishes w = wishes_;
    std::optional<Problem> problem;
    const auto moment = [&](QLineEdit* edit, std::string& into, const QString& name) {
        const std::string text = edit->text().trimmed().toStdString();
        if (text == shown(into).toStdString())
            return;
        if (text.empty() || text == "now") {
            into.clear();
            return;
        }
        const auto at = campaign::parseMoment(text, now_, name.toStdString());
        if (at)
            into = campaign::isoOf(*at);
        else if (!problem)
            problem = at.error();
    };
    w.claims = claims_->isChecked();
    w.purpose = purpose_->currentData().toString().toStdString();
    w.loads = loads_->value();
    w.repeats = repeats_->value();
    w.unattended =
        campaign::unattendedFromKey(unattended_->currentData().toString().toStdString()).value_or(w.unattended);
    moment(from_, w.from, tr("From"));
    moment(until_, w.until, tr("Until"));
    w.untilWhat = untilWhat_->text().trimmed().toStdString();
    w.hours = hours_->text().trimmed().toStdString();
    if (!w.hours.empty()) {
        if (const auto week = campaign::parseWeek(w.hours, tr("Somebody is there").toStdString()); !week && !problem)
            problem = week.error();
    }
    w.banks.clear();
    for (int k = 0; k < banks_->count(); ++k) {
        if (banks_->item(k)->checkState() == Qt::Checked)
            w.banks.push_back(banks_->item(k)->data(Qt::UserRole).toLongLong());
    }
    wrong_->setVisible(problem.has_value());
    if (problem) {
        wrong_->setText(qs(problem->sentence()));
        return;
    }
    if (w == wishes_)
        return;
    wishes_ = w;
    Q_EMIT changed(w, tr("change what the campaign is to do"));
}

} // namespace otterstone::app
