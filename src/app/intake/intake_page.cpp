#include "app/intake/intake_page.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/attached/attached_strip.h"
#include "app/intake/label_form.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/side_panel.h"
#include "app/widgets/wrapped_label.h"
#include "core/label/conflicts.h"
#include "core/label/decoder.h"
#include "core/label/rating.h"

namespace otterstone::app {

namespace {

QLabel* line(const QString& words, double scale = 1.0, QFont::Weight weight = QFont::Normal,
             const char* name = nullptr) {
    auto* label = new WrappedLabel(words);
    label->setFont(app::font(scale, weight));
    label->setTextInteractionFlags(Qt::TextSelectableByMouse);
    if (name)
        label->setObjectName(QString::fromLatin1(name));
    return label;
}

} // namespace

IntakePage::IntakePage(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), form_(new LabelForm), attached_(new AttachedStrip(session)),
      title_(new QLabel) {
    setFocusPolicy(Qt::StrongFocus); // the keyboard comes to the page, and not to the button that takes the bank away
    setAccessibleName(tr("The bank"));
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(3 * kGrid, 2 * kGrid, 3 * kGrid, 2 * kGrid);
    outer->setSpacing(2 * kGrid);
    auto* head = new QHBoxLayout;
    title_->setFont(app::font(1.6, QFont::DemiBold));
    auto* remove = new QPushButton(tr("Take it off the shelf"));
    remove->setObjectName(QStringLiteral("quiet"));
    head->addWidget(title_);
    head->addStretch();
    head->addWidget(remove);
    outer->addLayout(head);
    auto* columns = new QHBoxLayout;
    columns->setSpacing(3 * kGrid);
    auto* left = new QVBoxLayout;
    addScrollingColumn(left)->addWidget(form_);
    columns->addLayout(left, 3);
    auto* sheet = new QFrame;
    sheet->setObjectName(QStringLiteral("sheet"));
    sheet->setAccessibleName(tr("What the label says"));
    auto* inside = new QVBoxLayout(sheet);
    inside->setContentsMargins(2 * kGrid, 2 * kGrid, 2 * kGrid, 2 * kGrid);
    inside->addWidget(line(tr("What the label says"), 1.05, QFont::DemiBold));
    answers_ = new QVBoxLayout;
    answers_->setSpacing(kGrid);
    inside->addLayout(answers_);
    inside->addStretch();
    sheet->setMinimumWidth(300);
    sheet->setMaximumWidth(360);
    auto* beside = new QVBoxLayout;
    beside->setSpacing(2 * kGrid);
    beside->addWidget(sheet, 1);
    beside->addWidget(attached_);
    attached_->setMaximumWidth(360);
    columns->addLayout(beside, 2);
    outer->addLayout(columns, 1);
    connect(form_, &LabelForm::typed, this, &IntakePage::check);
    connect(form_, &LabelForm::committed, this, &IntakePage::keep);
    connect(remove, &QPushButton::clicked, this, [this] {
        if (auto done = session_.removeBank(bank_); !done)
            Q_EMIT problem(qs(done.error().sentence()));
    });
    connect(attached_, &AttachedStrip::problem, this, &IntakePage::problem);
    connect(&session_, &BookSession::changed, this, [this] { show(bank_); });
}

void IntakePage::show(records::Id id) {
    bank_ = id;
    if (const auto bank = session_.isOpen() ? session_.book().bank(id) : std::nullopt) {
        title_->setText(qs(bank->name));
        form_->setEnabled(!session_.book().readOnly());
        std::vector<std::pair<records::Id, std::string>> banks;
        for (const records::Bank& b : session_.book().banks())
            banks.emplace_back(b.id, b.name);
        form_->show(*bank, std::move(banks));
        check();
        attached_->showBank(id);
    }
}

void IntakePage::focusName() { form_->focusName(); }

void IntakePage::keep() {
    if (auto kept = session_.changeBank(form_->bank()); !kept)
        Q_EMIT problem(qs(kept.error().sentence()));
}

void IntakePage::check() {
    while (QLayoutItem* item = answers_->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    const label::Label& l = form_->bank().label;
    const auto rating = label::ratedEnergy(l);
    const auto rated = rating ? std::optional(rating->energy) : std::nullopt;
    if (rating) {
        answers_->addWidget(line(onScreen(rating->working.shown()), 1.7, QFont::DemiBold));
        answers_->addWidget(
            line(tr("rated energy, %1").arg(onScreen(rating->working.note)), 0.92, QFont::Normal, "faint"));
    } else {
        answers_->addWidget(line(tr("Rated energy not known yet: enter the Wh, or mAh and cell voltage."), 1.0,
                                 QFont::Normal, "faint"));
    }
    answers_->addWidget(line(onScreen(label::flightSentence(label::flightClass(rated)))));
    for (const label::Reading& r : label::decode(l))
        answers_->addWidget(line(QStringLiteral("·  ") + onScreen(r.text)));
    const auto conflicts = label::conflicts(l);
    if (!conflicts.empty())
        answers_->addWidget(line(tr("It contradicts itself"), 1.0, QFont::DemiBold, "problem"));
    for (const label::Conflict& c : conflicts)
        answers_->addWidget(line(QStringLiteral("✗  ") + onScreen(c.text), 1.0, QFont::Normal, "problem"));
    if (conflicts.empty() && rating)
        answers_->addWidget(line(tr("Nothing on it contradicts itself."), 1.0, QFont::Normal, "faint"));
}

} // namespace otterstone::app
