#include "app/runs/about_panel.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDateTime>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/attached/attached_strip.h"
#include "app/runs/ribbon_model.h"
#include "app/theme.h"
#include "app/widgets/ends_fields.h"
#include "app/widgets/flow_layout.h"
#include "core/kinds/catalogue.h"
#include "core/kinds/traced/heat.h"
#include "core/quantity/parse.h"

namespace otterstone::app {

namespace {

QString shown(const std::optional<double>& v) { return v ? qs(showNumber(*v, 5)) : QString(); }

} // namespace

AboutPanel::AboutPanel(BookSession& session, QWidget* parent)
    : SidePanel(tr("About this run"), parent), session_(session), form_(new QFormLayout), title_(new QLineEdit),
      started_(new QLineEdit), ambient_(new QLineEdit), targetStart_(new QLineEdit), targetEnd_(new QLineEdit),
      targetEfficiency_(new QLineEdit), notes_(new QLineEdit), conditions_(new QLineEdit), port_(new QComboBox),
      point_(new QComboBox), target_(new QComboBox),
      settling_(new QCheckBox(tr("A settling run: left out of repeats and curves"))),
      display_(new QCheckBox(tr("Read off the bank's own display"))), ends_(new EndsFields(Qt::Vertical)),
      wrong_(new QLabel), traces_(new QVBoxLayout), attached_(new AttachedStrip(session)) {
    auto* all = body();
    form_->setRowWrapPolicy(QFormLayout::WrapLongRows);
    const auto row = [this](const QString& label, QWidget* w) {
        w->setAccessibleName(label);
        form_->addRow(label, w);
    };
    row(tr("Title"), title_);
    row(tr("Started"), started_);
    form_->addRow(ends_);
    row(tr("Ambient"), ambient_);
    row(tr("Conditions"), conditions_);
    row(tr("Port of the bank"), port_);
    row(tr("Main trace read at"), point_);
    form_->addRow(display_);
    form_->addRow(settling_);
    row(tr("Poured into"), target_);
    row(tr("It said before, %"), targetStart_);
    row(tr("It said after, %"), targetEnd_);
    row(tr("Its charging efficiency, %"), targetEfficiency_);
    row(tr("Notes"), notes_);
    ambient_->setPlaceholderText(tr("21 °C or 70 °F"));
    conditions_->setPlaceholderText(tr("e.g. case on; screen off"));
    conditions_->setToolTip(tr("What makes this run unlike others besides load and gear: only runs under the same "
                               "conditions are held for repeats of one another"));
    started_->setPlaceholderText(QStringLiteral("2026-04-02T09:10:00"));
    all->addLayout(form_);
    wrong_->setObjectName(QStringLiteral("problem"));
    wrong_->setWordWrap(true);
    all->addWidget(wrong_);
    const auto heading = [](const QString& text) {
        auto* label = new QLabel(text);
        label->setFont(app::font(1.0, QFont::DemiBold));
        return label;
    };
    ofTraces_ = new QWidget;
    auto* traces = new QVBoxLayout(ofTraces_);
    traces->setContentsMargins(0, 0, 0, 0);
    traces->addWidget(heading(tr("Traces of this run")));
    traces->addLayout(traces_);
    auto* more = new QPushButton(tr("Add a trace read at another point…"));
    more->setToolTip(tr("A second meter around a cable, a wall meter, input and output at once"));
    traces->addWidget(more, 0, Qt::AlignLeft);
    all->addWidget(ofTraces_);
    all->addWidget(heading(tr("Gear of this run")));
    auto* gear = new QWidget;
    auto* flow = new FlowLayout(gear, kGrid);
    using records::Run;
    for (const auto& [words, piece, onRibbon] : {std::tuple{tr("Meter"), &Run::meter, true},
                                                 {tr("Cable"), &Run::cable, true},
                                                 {tr("Charger"), &Run::charger, true},
                                                 {tr("Load"), &Run::load, true},
                                                 {tr("Device"), &Run::device, false},
                                                 {tr("Trigger"), &Run::trigger, false},
                                                 {tr("Thermometer"), &Run::thermometer, false}}) {
        auto* button = new QPushButton;
        button->setObjectName(QStringLiteral("quiet"));
        flow->addWidget(button);
        gear_.push_back({button, piece, words, onRibbon});
        connect(button, &QPushButton::clicked, this,
                [this, place = placeOf(piece)] { Q_EMIT gearWanted(run_, place); });
    }
    all->addWidget(gear);
    all->addWidget(attached_);
    all->addStretch();
    connect(attached_, &AttachedStrip::problem, this, &SidePanel::problem);
    setFocusProxy(title_);
    connect(more, &QPushButton::clicked, this, [this] { Q_EMIT traceWanted(run_); });
    for (QLineEdit* edit :
         {title_, started_, ambient_, targetStart_, targetEnd_, targetEfficiency_, notes_, conditions_})
        connect(edit, &QLineEdit::editingFinished, this, &AboutPanel::keep);
    for (QComboBox* box : {port_, point_, target_})
        connect(box, &QComboBox::activated, this, &AboutPanel::keep);
    for (QCheckBox* box : {settling_, display_})
        connect(box, &QCheckBox::clicked, this, &AboutPanel::keep);
    connect(ends_, &EndsFields::changed, this, &AboutPanel::keep);
    connect(&session_, &BookSession::changed, this, [this] {
        if (isVisible())
            fill();
    });
}

void AboutPanel::open(records::Id run) {
    run_ = run;
    fill();
}

void AboutPanel::fill() {
    const auto run = session_.isOpen() ? session_.book().run(run_) : std::nullopt;
    if (!run)
        return;
    setEnabled(!session_.book().readOnly());
    wrong_->clear();
    attached_->showRun(run_);
    const auto put = [](QLineEdit* edit, const QString& text) {
        if (!edit->hasFocus() || !edit->isModified())
            edit->setText(text);
    };
    put(title_, qs(run->title));
    put(started_, qs(run->startedAt));
    put(ambient_, run->ambient ? shown(run->ambient) + QStringLiteral(" °C") : QString());
    put(notes_, qs(run->notes));
    put(conditions_, qs(records::showConditions(run->conditions)));
    const records::Kind serves = kinds::servedAs(*run);
    ends_->setKind(serves);
    ends_->show(run->ends);
    form_->setRowVisible(ends_, !records::hasSheet(serves));
    settling_->setChecked(run->settling);
    display_->setChecked(run->byDisplay);
    port_->clear();
    port_->addItem(tr("not stated"));
    if (const auto bank = session_.book().bank(run->bank)) {
        for (const label::Port& p : bank->label.ports) {
            port_->addItem(qs(p.name));
            if (p.name == run->port)
                port_->setCurrentIndex(port_->count() - 1);
        }
    }
    const bool drain = run->kind == records::Kind::Drain;
    point_->clear();
    for (const path::Point p : kinds::pointsAlong(drain)) {
        point_->addItem(qs(path::pointWords(p)), static_cast<int>(p));
        if (p == run->point)
            point_->setCurrentIndex(point_->count() - 1);
    }
    target_->clear();
    target_->addItem(tr("no other bank"), static_cast<qlonglong>(records::kNew));
    for (const records::Bank& b : session_.book().banks()) {
        if (b.id == run->bank)
            continue;
        target_->addItem(qs(b.name), static_cast<qlonglong>(b.id));
        if (run->target && run->target->bank == b.id)
            target_->setCurrentIndex(target_->count() - 1);
    }
    form_->setRowVisible(target_, drain);
    for (QLineEdit* edit : {targetStart_, targetEnd_, targetEfficiency_})
        form_->setRowVisible(edit, drain && run->target.has_value());
    if (run->target) {
        put(targetStart_, shown(run->target->startPercent));
        put(targetEnd_, shown(run->target->endPercent));
        put(targetEfficiency_,
            run->target->efficiency ? qs(showNumber(run->target->efficiency->value * 100.0)) : QString());
    }
    ofTraces_->setVisible(!run->sheet || run->hasTrace());
    fillTraces(*run);
    fillGear(*run);
}

// "Meter: Bench meter"; of a sheet all, as no ribbon shows its path.
void AboutPanel::fillGear(const records::Run& run) {
    const auto all = session_.book().gear();
    for (const Piece& p : gear_) {
        p.button->setVisible(run.sheet || !p.onRibbon);
        const auto at =
            std::find_if(all.begin(), all.end(), [&](const records::Gear& g) { return run.*p.piece == g.id; });
        p.button->setText(at == all.end() ? p.words + QStringLiteral("…")
                                          : QStringLiteral("%1: %2").arg(p.words, qs(at->name)));
    }
}

void AboutPanel::fillTraces(const records::Run& run) {
    emptyLayout(traces_);
    const auto nameOf = [this](std::optional<records::Id> id, bool display) {
        if (display)
            return tr("the bank's display");
        for (const records::Gear& g : session_.book().gear()) {
            if (id && g.id == *id)
                return qs(g.name);
        }
        return tr("a meter not stated");
    };
    auto* main = new QLabel(
        tr("%1, by %2: the main one").arg(qs(path::pointWords(run.point)), nameOf(run.meter, run.byDisplay)));
    main->setObjectName(QStringLiteral("faint"));
    main->setWordWrap(true);
    traces_->addWidget(main);
    for (const records::AlsoTrace& t : run.also) {
        auto* row = new QWidget;
        auto* line = new QHBoxLayout(row);
        line->setContentsMargins(0, 0, 0, 0);
        auto* words = new QLabel(tr("%1, by %2").arg(qs(path::pointWords(t.point)), nameOf(t.meter, t.byDisplay)));
        words->setObjectName(QStringLiteral("faint"));
        auto* remove = new QPushButton(tr("Remove"));
        remove->setObjectName(QStringLiteral("quiet"));
        remove->setAccessibleName(tr("Remove the trace at the %1").arg(qs(t.key())));
        line->addWidget(words, 1);
        line->addWidget(remove);
        traces_->addWidget(row);
        connect(remove, &QPushButton::clicked, this, [this, key = t.key()] {
            if (auto done = session_.removeTrace(run_, key); !done)
                Q_EMIT problem(qs(done.error().sentence()));
        });
    }
}

void AboutPanel::keep() {
    auto run = session_.book().run(run_);
    if (!run)
        return;
    std::optional<Problem> bad;
    const auto percent = [&](QLineEdit* edit, std::optional<double>& into) {
        into.reset();
        if (edit->text().trimmed().isEmpty())
            return;
        const auto n =
            parseNumber(edit->text().remove(QLatin1Char('%')).toStdString(), edit->accessibleName().toStdString());
        if (!n)
            bad = n.error();
        else if (*n < 0.0 || *n > 100.0)
            bad = Problem{"above_hundred", edit->accessibleName().toStdString(), "must be from 0 to 100.", ""};
        else
            into = *n;
    };
    run->title = title_->text().trimmed().toStdString();
    run->startedAt = started_->text().trimmed().toStdString();
    if (!run->startedAt.empty() && !QDateTime::fromString(qs(run->startedAt), Qt::ISODate).isValid())
        bad = Problem{"bad_date", "started", "“" + run->startedAt + "” is not a moment.",
                      "Write it like 2026-04-02T09:10:00."};
    run->notes = notes_->text().trimmed().toStdString();
    run->conditions = records::parseConditions(conditions_->text().toStdString());
    if (!records::hasSheet(kinds::servedAs(*run))) {
        if (const auto said = ends_->said())
            run->ends = *said;
        else
            bad = said.error();
    }
    run->ambient.reset();
    if (!ambient_->text().trimmed().isEmpty()) {
        if (const auto celsius = kinds::parseTemperature(ambient_->text().toStdString(), "ambient"))
            run->ambient = *celsius;
        else
            bad = celsius.error();
    }
    run->settling = settling_->isChecked();
    run->byDisplay = display_->isChecked();
    run->port = port_->currentIndex() > 0 ? port_->currentText().toStdString() : std::string();
    const auto point = static_cast<path::Point>(point_->currentData().toInt());
    if (point != run->point &&
        std::any_of(run->also.begin(), run->also.end(), [&](const records::AlsoTrace& t) { return t.point == point; }))
        bad = Problem{"point_taken", path::pointWords(point), "another trace of this run was read there.",
                      "Remove that one first."};
    else
        run->point = point;
    const records::Id target = target_->currentData().toLongLong();
    if (target == records::kNew)
        run->target.reset();
    else if (!run->target)
        run->target = records::Target{target, {}, {}, {}};
    if (run->target) {
        run->target->bank = target;
        percent(targetStart_, run->target->startPercent);
        percent(targetEnd_, run->target->endPercent);
        std::optional<double> efficiency;
        percent(targetEfficiency_, efficiency);
        run->target->efficiency =
            efficiency && *efficiency > 0.0 ? std::optional(Stated(*efficiency / 100.0)) : std::nullopt;
    }
    wrong_->setText(bad ? qs(bad->sentence()) : QString());
    if (bad)
        return;
    for (QLineEdit* edit :
         {title_, started_, ambient_, targetStart_, targetEnd_, targetEfficiency_, notes_, conditions_})
        edit->setModified(false);
    if (auto done = session_.changeRun(*run, tr("change what is known of a run")); !done)
        Q_EMIT problem(qs(done.error().sentence()));
}

} // namespace otterstone::app
