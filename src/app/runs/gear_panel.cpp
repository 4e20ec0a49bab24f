#include "app/runs/gear_panel.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/theme.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/trace/clock.h"

namespace otterstone::app {

namespace {

std::optional<book::Id> book::Run::*memberOf(book::GearKind kind) {
    switch (kind) {
    case book::GearKind::Charger: return &book::Run::charger;
    case book::GearKind::Cable: return &book::Run::cable;
    case book::GearKind::Meter: return &book::Run::meter;
    case book::GearKind::Load: return &book::Run::load;
    }
    return &book::Run::meter;
}

QString withDoubt(std::optional<double> value, std::optional<double> expanded, int digits) {
    if (!value)
        return {};
    return qs(showNumber(*value, digits)) + (expanded ? QStringLiteral(" ± ") + qs(showNumber(*expanded, 3)) : QString());
}

QString titleOf(book::GearKind kind) {
    switch (kind) {
    case book::GearKind::Charger: return QObject::tr("Charger of this run");
    case book::GearKind::Cable: return QObject::tr("Cable between port and meter");
    case book::GearKind::Meter: return QObject::tr("Meter of this run");
    case book::GearKind::Load: return QObject::tr("Load of this run");
    }
    return {};
}

QString hintOf(book::GearKind kind) {
    switch (kind) {
    case book::GearKind::Charger:
        return QObject::tr("The most it gives decides whether a recharge claim can be held against this run at all.");
    case book::GearKind::Cable:
        return QObject::tr("With its loop resistance, what the meter read is referred to the bank's port: I²R, sample by sample.");
    case book::GearKind::Meter:
        return QObject::tr("Its accuracy makes the ± of every figure. A clock that runs slow makes every energy wrong: compare it once with a "
                           "stopwatch, and write both: 60 min / 58 min 50 s.");
    case book::GearKind::Load: return QObject::tr("Only for the record: which load the bank was drained into.");
    }
    return {};
}

} // namespace

GearPanel::GearPanel(BookSession& session, QWidget* parent)
    : QFrame(parent), session_(session), title_(new QLabel), hint_(new QLabel), wrong_(new QLabel), piece_(new QComboBox), form_(new QFormLayout),
      name_(new QLineEdit), watts_(new QLineEdit), ohms_(new QLineEdit), accuracy_(new QLineEdit), clock_(new QLineEdit) {
    setObjectName(QStringLiteral("sheet"));
    setMinimumWidth(340);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(2 * kGrid, kGrid, kGrid, kGrid);
    auto* head = new QHBoxLayout;
    title_->setFont(app::font(1.0, QFont::DemiBold));
    auto* close = new QPushButton(tr("Close (Esc)"));
    close->setObjectName(QStringLiteral("quiet"));
    head->addWidget(title_);
    head->addStretch();
    head->addWidget(close);
    all->addLayout(head);
    all->addWidget(piece_);
    form_->addRow(tr("Name"), name_);
    form_->addRow(tr("Gives at most, W"), watts_);
    form_->addRow(tr("Loop resistance, Ω"), ohms_);
    form_->addRow(tr("Accuracy"), accuracy_);
    form_->addRow(tr("Clock factor"), clock_);
    ohms_->setPlaceholderText(QStringLiteral("0.115 ± 0.015"));
    accuracy_->setPlaceholderText(QStringLiteral("volts 0.05%+2mV, amps 0.1%+3mA, clock 50ppm"));
    clock_->setPlaceholderText(QStringLiteral("1.02 ± 0.001"));
    piece_->setAccessibleName(tr("Piece of gear"));
    all->addLayout(form_);
    wrong_->setObjectName(QStringLiteral("problem"));
    wrong_->setWordWrap(true);
    all->addWidget(wrong_);
    hint_->setObjectName(QStringLiteral("faint"));
    hint_->setWordWrap(true);
    all->addWidget(hint_);
    auto* shared = new QLabel(tr("A piece of gear serves many runs: a figure changed here is worked into all of them."));
    shared->setObjectName(QStringLiteral("faint"));
    shared->setWordWrap(true);
    all->addWidget(shared);
    all->addStretch();
    setFocusProxy(piece_);
    connect(close, &QPushButton::clicked, this, &GearPanel::closed);
    connect(piece_, &QComboBox::activated, this, &GearPanel::choose);
    for (QLineEdit* edit : {name_, watts_, ohms_, accuracy_, clock_})
        connect(edit, &QLineEdit::editingFinished, this, &GearPanel::keep);
}

std::optional<book::Gear> GearPanel::current() const {
    const auto run = session_.book().run(run_);
    if (!run || !((*run).*memberOf(kind_)))
        return std::nullopt;
    for (const book::Gear& g : session_.book().gear()) {
        if (g.id == *((*run).*memberOf(kind_)))
            return g;
    }
    return std::nullopt;
}

void GearPanel::open(book::Id run, book::GearKind kind) {
    run_ = run;
    kind_ = kind;
    title_->setText(titleOf(kind));
    hint_->setText(hintOf(kind));
    form_->setRowVisible(watts_, kind == book::GearKind::Charger || kind == book::GearKind::Load);
    form_->setRowVisible(ohms_, kind == book::GearKind::Cable);
    form_->setRowVisible(accuracy_, kind == book::GearKind::Meter);
    form_->setRowVisible(clock_, kind == book::GearKind::Meter);
    fill();
}

void GearPanel::fill() {
    wrong_->clear();
    piece_->clear();
    piece_->addItem(tr("not stated"), static_cast<qlonglong>(book::kNew));
    const auto chosen = current();
    for (const book::Gear& g : session_.book().gear()) {
        if (g.kind != kind_)
            continue;
        piece_->addItem(qs(g.name), static_cast<qlonglong>(g.id));
        if (chosen && chosen->id == g.id)
            piece_->setCurrentIndex(piece_->count() - 1);
    }
    piece_->addItem(tr("a new one…"));
    for (QLineEdit* edit : {name_, watts_, ohms_, accuracy_, clock_}) {
        edit->clear();
        edit->setEnabled(chosen.has_value());
    }
    if (!chosen)
        return;
    name_->setText(qs(chosen->name));
    watts_->setText(chosen->watts ? qs(showNumber(*chosen->watts)) : QString());
    ohms_->setText(withDoubt(chosen->ohms, chosen->ohmsExpanded, 5));
    accuracy_->setText(qs(path::showMeter(chosen->meter)));
    clock_->setText(chosen->clockFactor == 1.0 && !chosen->clockExpanded ? QString() : withDoubt(chosen->clockFactor, chosen->clockExpanded, 7));
    accuracy_->setCursorPosition(0);
}

void GearPanel::choose(int index) {
    auto run = session_.book().run(run_);
    if (!run)
        return;
    const QVariant picked = piece_->itemData(index);
    std::optional<book::Id> id;
    if (!picked.isValid()) {
        book::Gear fresh;
        fresh.kind = kind_;
        fresh.name = tr("New %1").arg(qs(book::gearKey(kind_))).toStdString();
        const auto saved = session_.book().save(fresh);
        if (!saved) {
            Q_EMIT problem(qs(saved.error().sentence()));
            return;
        }
        id = *saved;
    } else if (picked.toLongLong() != book::kNew) {
        id = picked.toLongLong();
    }
    (*run).*memberOf(kind_) = id;
    if (auto done = session_.changeRun(*run, tr("change the %1 of a run").arg(qs(book::gearKey(kind_)))); !done)
        Q_EMIT problem(qs(done.error().sentence()));
    fill();
    if (!picked.isValid()) {
        name_->setFocus();
        name_->selectAll();
    }
}

void GearPanel::keep() {
    auto gear = current();
    if (!gear)
        return;
    std::optional<Problem> bad;
    const auto measured = [&](const QLineEdit* edit, const char* place, std::optional<double>& value, std::optional<double>& expanded) {
        value.reset();
        expanded.reset();
        if (edit->text().trimmed().isEmpty())
            return;
        const auto m = parseMeasured(edit->text().toStdString(), place, "entered");
        if (!m || m->value() < 0.0) {
            bad = m ? Problem{"negative", place, "must not be negative.", ""} : m.error();
            return;
        }
        value = m->value();
        if (m->hasDoubt())
            expanded = 2.0 * m->u();
    };
    std::optional<double> none;
    measured(watts_, "watts", gear->watts, none);
    measured(ohms_, "loop resistance", gear->ohms, gear->ohmsExpanded);
    gear->clockFactor = 1.0;
    gear->clockExpanded.reset();
    if (!clock_->text().trimmed().isEmpty()) {
        const auto clock = trace::parseClockFactor(clock_->text().toStdString(), "clock factor", "entered");
        if (!clock)
            bad = clock.error();
        else
            gear->clockFactor = clock->value();
        if (clock && clock->hasDoubt())
            gear->clockExpanded = clock->expanded();
    }
    if (name_->text().trimmed().isEmpty())
        bad = Problem{"no_name", "name", "a piece of gear needs a name.", ""};
    gear->name = name_->text().trimmed().toStdString();
    if (kind_ == book::GearKind::Meter) {
        if (const auto meter = path::parseMeter(accuracy_->text().toStdString(), "accuracy"))
            gear->meter = *meter;
        else
            bad = meter.error();
        gear->meter.name = gear->name;
    }
    wrong_->setText(bad ? qs(bad->sentence()) : QString());
    if (bad)
        return;
    if (auto done = session_.changeGear(*gear); !done)
        Q_EMIT problem(qs(done.error().sentence()));
}

} // namespace otterstone::app
