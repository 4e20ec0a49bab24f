#include "app/live/setup_view.h"

#include <QApplication>
#include <QComboBox>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QRadioButton>
#include <QVBoxLayout>

#include "app/live/points_to_look_at.h"
#include "app/theme.h"
#include "app/widgets/ends_fields.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/side_panel.h"
#include "bench/runner/house.h"
#include "core/kinds/traced/heat.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"

namespace otterstone::app {

namespace {

constexpr double kFastest = 5000.0;

QLabel* heading(const QString& text) {
    auto* l = new QLabel(text);
    l->setFont(app::font(1.1, QFont::DemiBold));
    l->setContentsMargins(0, kGrid, 0, 0);
    return l;
}

} // namespace

SetupView::SetupView(BookSession& session, LiveBench& live, QWidget* parent)
    : QWidget(parent), session_(session), live_(live), title_(new QLabel), hint_(new QLabel), about_(new QLabel),
      willHead_(heading(tr("What it will do"))), will_(new QLabel), estimate_(new QLabel), instruments_(new QLabel),
      outcome_(new QLabel), list_(new QListWidget), setups_(new QComboBox),
      rehearse_(new QRadioButton(tr("&Rehearse on the simulated bench"))),
      real_(new QRadioButton(tr("On the &instruments that are set up"))), speed_(new QLineEdit(QStringLiteral("500"))),
      celsius_(new QLineEdit(QStringLiteral("60"))), speedRow_(new QWidget), ends_(new EndsFields),
      points_(new PointsToLookAt), start_(new QPushButton(tr("Start the rehearsal"))),
      edit_(new QPushButton(tr("Edit this recipe…"))), setUp_(new QPushButton(tr("Instruments…"))) {
    auto* outer = new QHBoxLayout(this);
    outer->setContentsMargins(3 * kGrid, kGrid, 2 * kGrid, kGrid);
    outer->setSpacing(3 * kGrid);

    auto* left = new QVBoxLayout;
    title_->setFont(app::font(1.6, QFont::DemiBold));
    left->addWidget(title_);
    hint_->setObjectName(QStringLiteral("faint"));
    hint_->setWordWrap(true);
    left->addWidget(hint_);
    list_->setObjectName(QStringLiteral("recipes"));
    list_->setAccessibleName(tr("Recipe"));
    list_->setMinimumWidth(150);
    list_->setMaximumWidth(250);
    list_->setTextElideMode(Qt::ElideRight);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    left->addWidget(list_, 1);
    edit_->setObjectName(QStringLiteral("quiet"));
    left->addWidget(edit_, 0, Qt::AlignLeft);
    outer->addLayout(left);

    auto* right = new QVBoxLayout;
    right->setContentsMargins(0, 0, 0, 0);
    outer->addLayout(right, 1);
    auto* column = addScrollingColumn(right);
    outcome_->setWordWrap(true);
    outcome_->setFont(app::font(1.15, QFont::DemiBold));
    outcome_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    outcome_->hide();
    column->addWidget(outcome_);
    about_->setWordWrap(true);
    about_->setFont(app::font(1.1));
    column->addWidget(about_);
    column->addWidget(willHead_);
    will_->setWordWrap(true);
    column->addWidget(will_);
    estimate_->setWordWrap(true);
    estimate_->setFont(app::font(1.0, QFont::DemiBold));
    column->addWidget(estimate_);

    column->addWidget(heading(tr("On what")));
    rehearse_->setChecked(true);
    column->addWidget(rehearse_);
    auto* speedRow = new QHBoxLayout(speedRow_);
    speedRow->setContentsMargins(3 * kGrid, 0, 0, 0);
    auto* speedWords = new QLabel(tr("times as &fast as real:"));
    speedWords->setBuddy(speed_);
    speed_->setFixedWidth(90);
    speed_->setAccessibleName(tr("Times as fast as real"));
    speedRow->addWidget(speedWords);
    speedRow->addWidget(speed_);
    speedRow->addStretch();
    column->addWidget(speedRow_);
    column->addWidget(real_);
    auto* setUpRow = new QHBoxLayout; // of its own: beside an open panel there is no room for both
    setUpRow->setContentsMargins(3 * kGrid, 0, 0, 0);
    setups_->setAccessibleName(tr("Set-up"));
    setups_->setToolTip(tr("Which instruments, where, and which pieces of the drawer they are"));
    setups_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    setUpRow->addWidget(setups_);
    setUp_->setObjectName(QStringLiteral("quiet"));
    setUpRow->addWidget(setUp_);
    setUpRow->addStretch();
    column->addLayout(setUpRow);
    instruments_->setObjectName(QStringLiteral("faint"));
    instruments_->setWordWrap(true);
    instruments_->setContentsMargins(3 * kGrid, 0, 0, 0);
    column->addWidget(instruments_);
    ends_->onlyBegan();
    ends_->began()->setAccessibleName(tr("The bank begins"));
    auto* endsRow = new QHBoxLayout;
    endsRow->addWidget(ends_);
    endsRow->addStretch();
    column->addLayout(endsRow);
    auto* limitRow = new QHBoxLayout;
    auto* limitWords = new QLabel(tr("Stop above, °&C:"));
    limitWords->setBuddy(celsius_);
    celsius_->setFixedWidth(90);
    celsius_->setAccessibleName(tr("Stop above, °C"));
    celsius_->setToolTip(tr("In degrees Celsius, or with its unit: 140 °F"));
    limitRow->addWidget(limitWords);
    limitRow->addWidget(celsius_);
    limitRow->addStretch();
    column->addLayout(limitRow);

    column->addWidget(points_);
    column->addStretch();
    start_->setObjectName(QStringLiteral("primary"));
    right->addWidget(start_, 0, Qt::AlignLeft);

    connect(list_, &QListWidget::currentRowChanged, this, [this] {
        leftOpen_.reset();
        refresh();
    });
    connect(points_, &PointsToLookAt::changed, this, &SetupView::refresh);
    connect(list_, &QListWidget::itemActivated, this, [this] {
        if (!rehearses())
            points_->takeKeyboard(); // what is real begins by its own button alone
        else if (start_->isEnabled())
            begin();
    });
    connect(rehearse_, &QRadioButton::toggled, this, &SetupView::refresh);
    connect(setups_, &QComboBox::activated, this,
            [this] { live_.setups().choose(setups_->currentData().toString().toStdString()); });
    connect(start_, &QPushButton::clicked, this, &SetupView::begin);
    connect(setUp_, &QPushButton::clicked, this, &SetupView::instrumentsWanted);
    connect(edit_, &QPushButton::clicked, this, [this] {
        if (const RecipeText* r = chosen())
            Q_EMIT recipeWanted(qs(r->json));
        else if (const Unreadable* wrong = chosenUnreadable())
            Q_EMIT recipeWanted(wrong->text);
    });
    connect(&live_, &LiveBench::changed, this, [this] {
        if (isVisible())
            show(bank_.id);
    });
    connect(&live_, &LiveBench::started, points_, &PointsToLookAt::clear);
    connect(&live_, &LiveBench::ended, this, [this](const bench::Outcome& outcome, const LiveRun* run) {
        if (run->plan().run.bank != bank_.id && outcome.stillOn.empty())
            return;
        QString said = tr("The run ended: %1.").arg(onScreen(outcome.stop.why));
        if (outcome.run == 0)
            said = tr("It did not begin: %1.").arg(onScreen(outcome.stop.why));
        if (!outcome.rescued.empty())
            said +=
                tr(" What the book did not take is in %1. Bring that file in (Ctrl+I, or drop it here) when there is room: it becomes part of this run again.")
                    .arg(qs(outcome.rescued));
        if (!outcome.stillOn.empty()) {
            said =
                tr("THE LOAD MAY STILL BE ON (%1). Pull the plug out of the bank. It is told to switch off as soon as it can be reached. ")
                    .arg(qs(outcome.stillOn)) +
                said;
            QApplication::beep();
        }
        outcome_->setText(said);
        outcome_->show();
    });
}

void SetupView::offerToGoOn(const records::Run& run) {
    const auto recipe = bench::recipeFromJson(run.recipe, "the recipe of this run");
    if (!recipe) {
        Q_EMIT problem(tr("This run cannot be gone on with; close it as it is. %1").arg(qs(recipe.error().sentence())));
        return;
    }
    leftOpen_ = run;
    itsRecipe_ = RecipeText{*recipe, run.recipe};
    celsius_->setText(qs(showNumber(recipe->celsius.value_or(60.0))));
    points_->clear();
    show(run.bank);
    points_->takeKeyboard();
}

bool SetupView::rehearses() const { return rehearse_->isChecked() && !leftOpen_; }

const std::vector<QCheckBox*>& SetupView::checks() const { return points_->checks(); }

const RecipeText* SetupView::chosen() const {
    if (leftOpen_)
        return &*itsRecipe_;
    const int row = list_->currentRow();
    return row >= 0 && row < static_cast<int>(own_.all.size()) ? &own_.all[static_cast<std::size_t>(row)] : nullptr;
}

const Unreadable* SetupView::chosenUnreadable() const {
    const int row = list_->currentRow() - static_cast<int>(own_.all.size());
    return row >= 0 && row < static_cast<int>(own_.unreadable.size()) ? &own_.unreadable[static_cast<std::size_t>(row)]
                                                                      : nullptr;
}

void SetupView::chooseRehearsal() {
    rehearse_->setChecked(true);
    list_->setFocus();
}

void SetupView::chooseRecipe(const std::string& key) {
    for (std::size_t k = 0; k < own_.all.size(); ++k) {
        if (own_.all[k].recipe.key == key)
            list_->setCurrentRow(static_cast<int>(k));
    }
    list_->setFocus();
}

void SetupView::takePlan(std::vector<std::string> gear, std::optional<double> watts) {
    gear_ = std::move(gear);
    watts_ = watts;
    gearFor_ = chosen() && !leftOpen_ ? chosen()->recipe.key : std::string();
    atPlannedWatts();
    refresh();
}

void SetupView::atPlannedWatts() {
    for (RecipeText& r : own_.all) {
        if (watts_ && r.recipe.key == gearFor_)
            r = bench::atWatts(r, *watts_);
    }
}

std::vector<std::string> SetupView::plannedGear() const {
    return chosen() && !leftOpen_ && chosen()->recipe.key == gearFor_ ? gear_ : std::vector<std::string>();
}

void SetupView::show(records::Id bank) {
    const auto found = session_.isOpen() ? session_.book().bank(bank) : std::nullopt;
    if (!found)
        return;
    if (bank_.id != found->id) {
        outcome_->hide();
        takePlan({}, {});
    }
    if (leftOpen_ && (leftOpen_->bank != bank || !session_.book().run(leftOpen_->id)))
        leftOpen_.reset();
    bank_ = *found;
    title_->setText(qs(bank_.name));
    const QString before = chosen() ? qs(chosen()->recipe.key) : QString();
    own_ = readRecipes();
    atPlannedWatts();
    const QSignalBlocker quiet(list_);
    list_->clear();
    int row = 0;
    for (const RecipeText& r : own_.all) {
        auto* item = new QListWidgetItem((records::hasSheet(r.recipe.kind)        ? QStringLiteral("◇ ")
                                          : r.recipe.kind == records::Kind::Drain ? QStringLiteral("▾ ")
                                                                                  : QStringLiteral("▴ ")) +
                                             qs(r.recipe.name),
                                         list_);
        item->setToolTip(onScreen(r.recipe.about));
        item->setSizeHint({0, 4 * kGrid});
        if (qs(r.recipe.key) == before)
            row = list_->count() - 1;
    }
    for (const Unreadable& u : own_.unreadable) {
        auto* item = new QListWidgetItem(QStringLiteral("✗ ") + u.file, list_);
        item->setToolTip(onScreen(u.why));
        item->setSizeHint({0, 4 * kGrid});
    }
    list_->setCurrentRow(row);
    setups_->clear();
    for (const bench::SetupFile& setup : live_.setups().read().all)
        setups_->addItem(qs(setup.name), qs(setup.key));
    setups_->setCurrentIndex(setups_->findData(qs(live_.setups().chosen().key)));
    refresh();
}

void SetupView::refresh() {
    const RecipeText* r = chosen();
    for (QLabel* l : {willHead_, will_, estimate_})
        l->setVisible(r);
    if (!r) {
        const Unreadable* wrong = chosenUnreadable();
        about_->setText(wrong ? tr("This recipe of yours cannot be used. %1").arg(qs(wrong->why)) : QString());
        instruments_->clear();
        start_->setEnabled(false);
        start_->setToolTip(tr("First a recipe that can be used"));
        return;
    }
    about_->setText(leftOpen_ ? tr("Going on with “%1”, which was left open, by the recipe it was begun with. %2")
                                    .arg(qs(leftOpen_->title), onScreen(r->recipe.about))
                              : onScreen(r->recipe.about));
    const bool rehearsal = rehearses();
    hint_->setText(rehearsal ? tr("A recipe measures by itself, and stops by itself. Return starts its rehearsal.")
                             : tr("A recipe measures by itself, and stops by itself."));
    rehearse_->setEnabled(!leftOpen_);
    QStringList lines;
    for (const std::string& sentence : bench::describe(r->recipe, bank_.label))
        lines << QStringLiteral("%1.  %2").arg(lines.size() + 1).arg(onScreen(sentence));
    will_->setText(lines.join(QLatin1Char('\n')));
    const Expectation e = live_.expect(bank_, r->recipe);
    estimate_->setText(e.seconds
                           ? tr("It takes about %1%2.")
                                 .arg(onScreen(showDuration(*e.seconds)),
                                      e.from.isEmpty() ? QString() : tr(", reckoned from %1").arg(e.from))
                           : tr("How long it takes cannot be told: write down the label's Wh (and its input) first."));
    if (const auto gear = plannedGear(); !gear.empty()) {
        QStringList names;
        for (const std::string& name : gear)
            names << qs(name);
        estimate_->setText(estimate_->text() + QLatin1Char('\n') +
                           tr("With, as it is planned: %1.").arg(names.join(QStringLiteral(", "))));
    }
    speedRow_->setEnabled(rehearsal);
    // The usual is there to be seen and changed; a rehearsal's bank is made so.
    const bool asks = !records::hasSheet(r->recipe.kind) && !leftOpen_;
    ends_->setVisible(asks);
    ends_->setEnabled(!rehearsal);
    if (asks && asked_ != r->recipe.kind) {
        asked_ = r->recipe.kind;
        ends_->setKind(r->recipe.kind);
        ends_->sayTheUsual();
    }
    QStringList set;
    for (const auto* roles : {&r->recipe.needs, &r->recipe.uses}) {
        for (const bench::Role& role : *roles) {
            const auto instrument = live_.instrument(role);
            const bool needed = roles == &r->recipe.needs;
            set << (instrument
                        ? tr("✓ %1: %2 at %3").arg(qs(role), qs(instrument->profile.name), instrument->address.text)
                    : needed ? tr("✗ %1: needed, not set up").arg(qs(role))
                             : tr("○ %1: would help, not set up").arg(qs(role)));
        }
    }
    QStringList pieces;
    for (const std::string& piece : live_.setups().chosen().pieces())
        pieces << qs(piece);
    if (!pieces.isEmpty() && plannedGear().empty())
        set << tr("On it lie: %1").arg(pieces.join(QStringLiteral(", ")));
    instruments_->setText(set.join(QLatin1Char('\n')) + warnings());
    instruments_->setVisible(!rehearsal);
    setups_->setVisible(setups_->count() > 1);
    start_->setText(leftOpen_ ? tr("Go on with the run") : rehearsal ? tr("Start the rehearsal") : tr("Start the run"));
    points_->setVisible(!rehearsal); // nothing of a simulated bench can burn, and nobody need be near it
    const bool all = rehearsal || points_->allTicked();
    start_->setEnabled(all && live_.hasRoom());
    start_->setToolTip(all ? QString() : tr("First the four points above"));
}

// What guards this run less than it could.
QString SetupView::warnings() const {
    QString all;
    const auto add = [&all](const QString& words) { all += QStringLiteral("\n⚠ ") + words; };
    const auto needs = [this](const char* role) {
        const bench::Recipe& r = chosen()->recipe;
        return std::find(r.needs.begin(), r.needs.end(), role) != r.needs.end() ||
               std::find(r.uses.begin(), r.uses.end(), role) != r.uses.end();
    };
    for (const char* role : bench::role::loads) {
        const auto load = needs(role) ? live_.instrument(role) : std::nullopt;
        if (load && !load->profile.watchdogSeconds)
            add(tr("%1: no watchdog of its own is known. Should this computer fail, it stays on: set one at the load, and write it into its profile (watchdog_s).")
                    .arg(qs(role)));
    }
    const auto meter = live_.instrument(bench::role::meter);
    if (needs(bench::role::load) && live_.instrument(bench::role::load) && !meter)
        add(tr(
            "No meter stands on the load's path: should the load say that it is off and go on, nothing here shows it."));
    const bool column = meter && meter->profile.lines &&
                        std::any_of(meter->profile.lines->meaning.begin(), meter->profile.lines->meaning.end(),
                                    [](const auto& c) { return c.role == logs::Role::Temperature; });
    if (!column && !live_.instrument(bench::role::thermometer))
        add(tr("No thermometer: the limit on temperature is not watched. Stay near."));
    return all;
}

void SetupView::begin() {
    const RecipeText* r = chosen();
    const auto speed = parseNumber(speed_->text().toStdString(), "times as fast");
    const auto celsius = kinds::parseTemperature(celsius_->text().toStdString(), "stop above");
    if (leftOpen_) {
        if (const auto sane = bench::checkCelsius(celsius.value_or(0.0), "stop above"); !sane) {
            Q_EMIT problem(qs(sane.error().sentence()));
            return;
        }
        live_.goOn(*std::exchange(leftOpen_, std::nullopt), *celsius);
        return;
    }
    if (rehearse_->isChecked() && (!speed || *speed < 0.1 || *speed > kFastest)) {
        Q_EMIT problem(tr("A rehearsal runs 0.1 to %1 times as fast as real.").arg(kFastest));
        return;
    }
    const auto sane = bench::checkCelsius(celsius.value_or(0.0), "stop above");
    if (!sane) {
        Q_EMIT problem(qs(sane.error().sentence()));
        return;
    }
    const auto ends = ends_->said();
    if (!ends) {
        Q_EMIT problem(qs(ends.error().sentence()));
        return;
    }
    outcome_->hide();
    if (r)
        live_.begin({bank_,
                     *r,
                     rehearse_->isChecked(),
                     speed.value_or(1.0),
                     {},
                     *celsius,
                     records::hasSheet(r->recipe.kind) ? records::StatedEnds{} : *ends,
                     plannedGear()});
}

} // namespace otterstone::app
