#include "app/findings/house_panel.h"

#include <algorithm>

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/theme.h"
#include "core/quantity/parse.h"
#include "core/setup/prices.h"

namespace otterstone::app {

HousePanel::HousePanel(BookSession& session, QWidget* parent)
    : SidePanel(tr("The house's choices"), parent), session_(session), otherVolts_(new QLineEdit),
      fullShare_(new QLineEdit), fullTime_(new QLineEdit), currency_(new QLineEdit), rates_(new QLineEdit),
      wrong_(new QLabel), changed_(new QLabel) {
    auto* all = body();
    auto* words = new QLabel(tr(
        "Testers disagree on these. This book follows one answer on each; every figure's working shows the others, and a report names the choice."));
    words->setObjectName(QStringLiteral("faint"));
    words->setWordWrap(true);
    all->addWidget(words);
    auto* form = new QFormLayout;
    form->setRowWrapPolicy(QFormLayout::WrapAllRows);
    for (const setup::Question& q : setup::questions()) {
        auto* box = new QComboBox;
        for (const setup::Answer& a : q.answers)
            box->addItem(qs(a.words));
        box->setAccessibleName(qs(q.words));
        form->addRow(qs(q.words), box);
        boxes_.push_back(box);
        connect(box, &QComboBox::activated, this, &HousePanel::keep);
    }
    for (const auto& [label, edit] : {std::pair{tr("Another nominal voltage, V"), otherVolts_},
                                      {tr("Power is low below, % of the plateau"), fullShare_},
                                      {tr("… for"), fullTime_}}) {
        edit->setAccessibleName(label);
        form->addRow(label, edit);
        connect(edit, &QLineEdit::editingFinished, this, &HousePanel::keep);
    }
    currency_->setPlaceholderText(tr("EUR: each price in its own where nothing stands here"));
    rates_->setPlaceholderText(tr("USD 0.92; GBP 1.15 on 2026-11-20"));
    for (const auto& [label, edit] :
         {std::pair{tr("Prices in"), currency_}, {tr("One of each other currency is worth"), rates_}}) {
        edit->setAccessibleName(label);
        form->addRow(label, edit);
        connect(edit, &QLineEdit::editingFinished, this, &HousePanel::keepPrices);
    }
    all->addLayout(form);
    wrong_->setObjectName(QStringLiteral("problem"));
    wrong_->setWordWrap(true);
    all->addWidget(wrong_);
    changed_->setObjectName(QStringLiteral("faint"));
    changed_->setWordWrap(true);
    all->addWidget(changed_);
    all->addStretch();
    setFocusProxy(boxes_.front());
    connect(&session_, &BookSession::changed, this, [this] {
        if (isVisible())
            fill();
    });
    connect(&session_, &BookSession::rippling, this, [this](records::Id gear) {
        runsChanged_ = 0;
        changed_->setText(gear == records::kNew ? tr("Looking at what that changes…") : QString());
    });
    connect(&session_, &BookSession::rippled, this,
            [this](const std::vector<book::Ripple>& ripples, bool last, records::Id gear) {
                if (gear != records::kNew)
                    return;
                runsChanged_ += std::count_if(ripples.begin(), ripples.end(),
                                              [](const book::Ripple& r) { return r.run != records::kNew; });
                changed_->setText(runsChanged_ == 1  ? tr("One run says something else now.")
                                  : runsChanged_ > 1 ? tr("%1 runs say something else now.").arg(runsChanged_)
                                  : last             ? tr("No run says anything else now.")
                                                     : changed_->text());
            });
}

QComboBox* HousePanel::box(const std::string& question) const {
    for (std::size_t k = 0; k < boxes_.size(); ++k) {
        if (setup::questions()[k].key == question)
            return boxes_[k];
    }
    return nullptr;
}

void HousePanel::open() {
    changed_->clear();
    fill();
}

void HousePanel::fill() {
    if (!session_.isOpen())
        return;
    setEnabled(!session_.book().readOnly());
    const setup::Schools s = session_.book().schools();
    for (std::size_t k = 0; k < boxes_.size(); ++k) {
        const setup::Question& q = setup::questions()[k];
        const std::string chosen = answerOf(s, q.key);
        for (std::size_t a = 0; a < q.answers.size(); ++a) {
            if (q.answers[a].key == chosen)
                boxes_[k]->setCurrentIndex(static_cast<int>(a));
        }
    }
    otherVolts_->setText(qs(showNumber(s.otherCellVolts)));
    fullShare_->setText(qs(showNumber(s.fullShare * 100.0)));
    fullTime_->setText(qs(showDuration(s.fullSeconds)));
    const auto prices = setup::pricesFromText(session_.book().choice(setup::kPricesKey), {});
    currency_->setText(prices ? qs(prices->currency) : QString());
    rates_->setText(prices ? qs(showRates(prices->rates)) : QString());
}

// Where only one of the two can be right as yet, nothing is kept and it is said why.
void HousePanel::keepPrices() {
    if (!currency_->isModified() && !rates_->isModified())
        return;
    const auto before = setup::pricesFromText(session_.book().choice(setup::kPricesKey), {});
    if (before && !rates_->isModified() && !before->ratesHoldIn(currency_->text().toStdString())) {
        wrong_->setText(tr("The rates are in %1: write them anew, or take them out.").arg(qs(before->currency)));
        return;
    }
    const auto prices = setup::parsePrices(currency_->text().toStdString(), rates_->text().toStdString(), {});
    wrong_->setText(prices ? QString() : qs(prices.error().sentence()));
    if (!prices)
        return;
    if (auto done =
            session_.changeChoice(setup::kPricesKey, pricesToText(*prices), tr("change what prices are reckoned in"));
        !done)
        Q_EMIT problem(qs(done.error().sentence()));
}

void HousePanel::keep() {
    setup::Schools s = session_.book().schools();
    for (std::size_t k = 0; k < boxes_.size(); ++k) {
        const setup::Question& q = setup::questions()[k];
        setAnswer(s, q.key, q.answers[static_cast<std::size_t>(boxes_[k]->currentIndex())].key);
    }
    const auto volts = parseNumber(otherVolts_->text().toStdString(), "another nominal voltage");
    const auto share = parseNumber(fullShare_->text().toStdString(), "power is low below");
    const auto time = parseDuration(fullTime_->text().toStdString(), "power is low for", 60.0);
    const bool sane =
        volts && share && time && *volts > 0.5 && *volts < 10.0 && *share > 0.0 && *share < 50.0 && *time >= 10.0;
    wrong_->setText(!volts   ? qs(volts.error().sentence())
                    : !share ? qs(share.error().sentence())
                    : !time  ? qs(time.error().sentence())
                    : !sane  ? tr("A nominal voltage of 0.5 to 10 V, a share below 50 %, at least 10 s.")
                             : QString());
    if (!sane)
        return;
    s.otherCellVolts = *volts;
    s.fullShare = *share / 100.0;
    s.fullSeconds = *time;
    if (auto done = session_.changeSchools(s); !done)
        Q_EMIT problem(qs(done.error().sentence()));
}

} // namespace otterstone::app
