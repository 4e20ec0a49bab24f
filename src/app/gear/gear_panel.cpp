#include "app/gear/gear_panel.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/gear/gear_form.h"
#include "app/gear/ripple_list.h"
#include "app/theme.h"
#include "app/widgets/wrapped_label.h"

namespace otterstone::app {

namespace {

const records::Stretch& stretchAt(int index) { return records::kStretches[static_cast<std::size_t>(index)]; }

QString stretchTitle(int index) {
    static const char* const kTitles[] = {QT_TR_NOOP("Charger of this run"),
                                          QT_TR_NOOP("Cable on the meter's far side"),
                                          QT_TR_NOOP("Cable between port and meter"),
                                          QT_TR_NOOP("Meter of this run"),
                                          QT_TR_NOOP("Load of this run"),
                                          QT_TR_NOOP("Trigger of this run"),
                                          QT_TR_NOOP("Thermometer of this run"),
                                          QT_TR_NOOP("Device that was charged")};
    return GearPanel::tr(kTitles[index]);
}

QLabel* faint() {
    auto* label = new WrappedLabel;
    label->setTextFormat(Qt::PlainText);
    label->setObjectName(QStringLiteral("faint"));
    return label;
}

} // namespace

GearPanel::GearPanel(BookSession& session, QWidget* parent)
    : SidePanel({}, parent), session_(session), piece_(new QComboBox), form_(new GearForm), hint_(faint()),
      remove_(new QPushButton(tr("Take out"))), users_(faint()), ripples_(new RippleList) {
    remove_->setObjectName(QStringLiteral("quiet"));
    remove_->setToolTip(tr("Take this piece out of the gear drawer; no run uses it"));
    head()->insertWidget(2, remove_);
    for (QWidget* w : std::initializer_list<QWidget*>{piece_, form_, hint_, users_, ripples_})
        body()->addWidget(w);
    body()->addStretch();
    piece_->setAccessibleName(tr("Piece of gear"));
    setFocusProxy(piece_);
    connect(piece_, &QComboBox::activated, this, &GearPanel::choose);
    connect(form_, &GearForm::edited, this, [this](const records::Gear& gear) {
        if (auto done = session_.changeGear(gear); !done)
            Q_EMIT problem(qs(done.error().sentence()));
    });
    connect(remove_, &QPushButton::clicked, this, [this] {
        if (const auto gear = current()) {
            if (auto done = session_.removeGear(gear->id); !done)
                Q_EMIT problem(qs(done.error().sentence()));
            Q_EMIT closed();
        }
    });
    connect(&session_, &BookSession::changed, this, [this] {
        if (isVisible())
            fill();
    });
    const auto shows = [this](records::Id gear) {
        const auto piece = session_.isOpen() ? current() : std::nullopt;
        return piece && piece->id == gear;
    };
    connect(&session_, &BookSession::rippling, ripples_, [this, shows](records::Id gear) {
        ripples_->clear();
        if (shows(gear))
            ripples_->begin();
    });
    connect(&session_, &BookSession::rippled, ripples_,
            [this, shows](const std::vector<book::Ripple>& ripples, bool all, records::Id gear) {
                if (shows(gear))
                    all ? ripples_->finish() : ripples_->add(ripples);
            });
}

std::optional<records::Gear> GearPanel::current() const {
    records::Id id = gear_;
    if (run_ != records::kNew) {
        const auto run = session_.book().run(run_);
        id = run ? ((*run).*(stretchAt(stretch_).piece)).value_or(records::kNew) : records::kNew;
    }
    for (const records::Gear& g : session_.book().gear()) {
        if (id != records::kNew && g.id == id)
            return g;
    }
    return std::nullopt;
}

void GearPanel::openStretch(records::Id run, int stretch) {
    run_ = run;
    stretch_ = stretch;
    gear_ = records::kNew;
    title()->setText(stretchTitle(stretch));
    hint_->setText(kindHint(stretchAt(stretch).kind));
    ripples_->clear();
    form_->clear();
    setFocusProxy(piece_);
    fill();
}

void GearPanel::openPiece(records::Id gear) {
    run_ = records::kNew;
    gear_ = gear;
    ripples_->clear();
    form_->clear();
    fill();
    if (const auto piece = current()) {
        title()->setText(kindWords(piece->kind));
        hint_->setText(kindHint(piece->kind));
    }
    setFocusProxy(form_);
}

void GearPanel::fill() {
    if (!session_.isOpen())
        return;
    piece_->clear();
    piece_->setVisible(run_ != records::kNew);
    const auto chosen = current();
    if (run_ != records::kNew) {
        piece_->addItem(tr("not stated"), static_cast<qlonglong>(records::kNew));
        for (const records::Gear& g : session_.book().gear()) {
            if (g.kind != stretchAt(stretch_).kind)
                continue;
            piece_->addItem(qs(g.name), static_cast<qlonglong>(g.id));
            if (chosen && chosen->id == g.id)
                piece_->setCurrentIndex(piece_->count() - 1);
        }
        piece_->addItem(tr("a new one…"));
    }
    users_->clear();
    if (!chosen) {
        remove_->hide();
        form_->clear();
        return;
    }
    form_->show(*chosen);
    form_->setEnabled(!session_.book().readOnly());
    const auto uses = session_.book().gearUses();
    const int runs = uses.contains(chosen->id) ? uses.at(chosen->id) : 0;
    remove_->setVisible(runs == 0 && run_ == records::kNew && !session_.book().readOnly());
    users_->setText(runs == 0   ? tr("No run uses it yet.")
                    : runs == 1 ? tr("One run uses it: a figure changed here is worked into it.")
                                : tr("%1 runs use it: a figure changed here is worked into all of them.").arg(runs));
}

void GearPanel::choose(int index) {
    auto run = session_.book().run(run_);
    if (!run)
        return;
    const records::Stretch& stretch = stretchAt(stretch_);
    const QVariant picked = piece_->itemData(index);
    std::optional<records::Id> id;
    if (!picked.isValid()) {
        records::Gear fresh;
        fresh.kind = stretch.kind;
        fresh.name = tr("New %1").arg(qs(records::gearKey(stretch.kind))).toStdString();
        const auto saved = session_.addGear(fresh);
        if (!saved) {
            Q_EMIT problem(qs(saved.error().sentence()));
            return;
        }
        id = *saved;
    } else if (picked.toLongLong() != records::kNew) {
        id = picked.toLongLong();
    }
    (*run).*(stretch.piece) = id;
    if (auto done = session_.changeRun(*run, tr("change the %1 of a run").arg(qs(records::gearKey(stretch.kind))));
        !done)
        Q_EMIT problem(qs(done.error().sentence()));
    fill();
    if (!picked.isValid())
        form_->focusName();
}

} // namespace otterstone::app
