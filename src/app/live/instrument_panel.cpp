#include "app/live/instrument_panel.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/theme.h"

namespace otterstone::app {

namespace {

// Where it stands in the path, by the order of roles().
constexpr const char* kHints[] = {QT_TR_NOOP("between the bank and the load"),
                                  QT_TR_NOOP("between the charger and the bank; may be the same one, moved"),
                                  QT_TR_NOOP("between the wall and the charger: a plug that tells its watts"),
                                  QT_TR_NOOP("draws, and is switched off by every stop"),
                                  QT_TR_NOOP("for two outputs at once"),
                                  QT_TR_NOOP("asks the port for a tier"),
                                  QT_TR_NOOP("does so before the second load"),
                                  QT_TR_NOOP("on the bank's hottest spot")};

// Pieces that lie on a bench and are no instrument.
struct AlsoWords {
    records::GearKind kind;
    const char* words;
};
constexpr AlsoWords kAlso[] = {{records::GearKind::Cable, QT_TR_NOOP("cable at the bank")},
                               {records::GearKind::Charger, QT_TR_NOOP("charger")}};

records::GearKind gearOf(bench::Kind kind) {
    switch (kind) {
    case bench::Kind::Meter: return records::GearKind::Meter;
    case bench::Kind::Load: return records::GearKind::Load;
    case bench::Kind::Trigger: return records::GearKind::Trigger;
    case bench::Kind::Thermometer: break;
    }
    return records::GearKind::Thermometer;
}

} // namespace

InstrumentPanel::InstrumentPanel(BookSession& session, LiveBench& live, QWidget* parent)
    : SidePanel(tr("Instruments"), parent), session_(session), live_(live), setups_(new QComboBox),
      setupName_(new QLineEdit), add_(new QPushButton(tr("Add"))), remove_(new QPushButton(tr("Remove"))),
      listener_(this), listen_(new QPushButton(tr("Listen and recognise"))),
      keep_(new QPushButton(tr("Keep as a profile"))), words_(new QLabel), wrong_(new QLabel), name_(new QLineEdit),
      keepRowWidget_(new QWidget) {
    wrong_->setObjectName(QStringLiteral("problem"));
    wrong_->setWordWrap(true);
    wrong_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    body()->addWidget(wrong_);
    buildSetups();
    auto hint = std::begin(kHints);
    for (const bench::RoleRow& r : bench::roles()) {
        auto* name = new QLabel(tr("%1: %2").arg(QLatin1String(r.key), tr(*hint++)));
        name->setWordWrap(true);
        name->setFont(app::font(1.0, QFont::DemiBold));
        body()->addWidget(name);
        auto* line = new QHBoxLayout;
        Row row{new QComboBox, new QComboBox, new QComboBox};
        row.profile->setAccessibleName(tr("Profile of the %1").arg(QLatin1String(r.key)));
        row.address->setAccessibleName(tr("Where the %1 is connected").arg(QLatin1String(r.key)));
        row.address->setEditable(true);
        row.profile->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        row.profile->setMinimumContentsLength(18);
        row.address->setMinimumContentsLength(14);
        line->addWidget(row.profile, 1);
        line->addWidget(row.address, 1);
        body()->addLayout(line);
        row.piece->setAccessibleName(tr("Which piece of the drawer the %1 is").arg(QLatin1String(r.key)));
        row.piece->setToolTip(tr("Its accuracy is what the findings are given"));
        row.piece->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        row.piece->setMinimumContentsLength(18);
        body()->addWidget(row.piece);
        rows_[r.key] = row;
        connect(row.piece, &QComboBox::activated, this, [this, role = std::string(r.key)] { keepRow(role); });
        connect(row.profile, &QComboBox::currentIndexChanged, this,
                [this, role = std::string(r.key)] { keepRow(role); });
        connect(row.address, &QComboBox::currentTextChanged, this,
                [this, role = std::string(r.key)] { keepRow(role); });
    }
    buildAlso();
    auto* title = new QLabel(tr("A meter that is not in the list"));
    title->setFont(app::font(1.0, QFont::DemiBold));
    title->setContentsMargins(0, kGrid, 0, 0);
    body()->addWidget(title);
    words_->setText(tr(
        "Let it print, draw some current, and listen on the port that is chosen for “meter”. What its columns mean is proposed with reasons."));
    words_->setWordWrap(true);
    words_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    body()->addWidget(words_);
    body()->addWidget(listen_, 0, Qt::AlignLeft);
    auto* keepRow = new QHBoxLayout(keepRowWidget_);
    keepRow->setContentsMargins(0, 0, 0, 0);
    name_->setPlaceholderText(tr("what to call it"));
    name_->setAccessibleName(tr("Name of the new profile"));
    keepRow->addWidget(name_, 1);
    keepRow->addWidget(keep_);
    body()->addWidget(keepRowWidget_);
    keepRowWidget_->hide();
    body()->addStretch();
    connect(listen_, &QPushButton::clicked, this, &InstrumentPanel::listen);
    connect(keep_, &QPushButton::clicked, this, &InstrumentPanel::keepHeard);
    connect(&listener_, &bench::Listener::heard, this, &InstrumentPanel::heard);
    connect(&listener_, &bench::Listener::failed, this, [this](const QString& sentence) {
        listen_->setEnabled(true);
        words_->setText(sentence);
    });
}

void InstrumentPanel::buildSetups() {
    auto* chosen = new QHBoxLayout;
    setups_->setAccessibleName(tr("Set-up"));
    setups_->setToolTip(tr("A bench as it stands, by its name; what is below is this one's"));
    chosen->addWidget(setups_, 1);
    remove_->setToolTip(tr("Forget this set-up"));
    chosen->addWidget(remove_);
    body()->addLayout(chosen);
    auto* another = new QHBoxLayout;
    setupName_->setPlaceholderText(tr("name of another bench"));
    setupName_->setAccessibleName(tr("Name of another set-up"));
    another->addWidget(setupName_, 1);
    another->addWidget(add_);
    body()->addLayout(another);
    connect(setups_, &QComboBox::activated, this, [this] {
        live_.setups().choose(setups_->currentData().toString().toStdString());
        open();
    });
    const auto add = [this] {
        if (const auto added = live_.setups().add(setupName_->text()); !added) {
            Q_EMIT problem(qs(added.error().sentence()));
            return;
        }
        setupName_->clear();
        open();
    };
    connect(add_, &QPushButton::clicked, this, add);
    connect(setupName_, &QLineEdit::returnPressed, this, add);
    connect(remove_, &QPushButton::clicked, this, [this] {
        live_.setups().remove();
        open();
    });
}

void InstrumentPanel::buildAlso() {
    auto* title = new QLabel(tr("Also on this bench"));
    title->setFont(app::font(1.0, QFont::DemiBold));
    title->setContentsMargins(0, kGrid, 0, 0);
    body()->addWidget(title);
    for (const AlsoWords& a : kAlso) {
        auto* box = new QComboBox;
        box->setAccessibleName(tr("Which %1").arg(tr(a.words)));
        box->setToolTip(tr(a.words));
        body()->addWidget(box);
        also_[a.kind] = box;
        connect(box, &QComboBox::activated, this, [this, kind = a.kind] { keepAlso(kind); });
    }
}

void InstrumentPanel::fillSetups() {
    setups_->clear();
    const auto all = live_.setups().read().all;
    for (const bench::SetupFile& setup : all)
        setups_->addItem(qs(setup.name), qs(setup.key));
    setups_->setCurrentIndex(setups_->findData(qs(live_.setups().chosen().key)));
    remove_->setEnabled(all.size() > 1);
    const auto also = live_.setups().chosen().also;
    for (const AlsoWords& a : kAlso) {
        std::string lies;
        for (const records::Gear& g : session_.isOpen() ? session_.book().gear() : std::vector<records::Gear>()) {
            if (g.kind == a.kind && std::find(also.begin(), also.end(), g.name) != also.end())
                lies = g.name;
        }
        fillPieces(also_.at(a.kind), a.kind, lies);
    }
}

void InstrumentPanel::fillPieces(QComboBox* box, records::GearKind kind, const std::string& chosen) {
    box->clear();
    box->addItem(kind == records::GearKind::Cable     ? tr("cable: not said")
                 : kind == records::GearKind::Charger ? tr("charger: not said")
                                                      : tr("piece of the drawer: not said"),
                 QString());
    for (const records::Gear& g : session_.isOpen() ? session_.book().gear() : std::vector<records::Gear>()) {
        if (g.kind == kind)
            box->addItem(qs(g.name), qs(g.name));
    }
    if (box->findData(qs(chosen)) < 0)
        box->addItem(tr("%1 (not in this book's drawer)").arg(qs(chosen)), qs(chosen));
    box->setCurrentIndex(box->findData(qs(chosen)));
}

void InstrumentPanel::keepAlso(records::GearKind kind) {
    if (!session_.isOpen()) // no drawer to choose from
        return;
    auto also = live_.setups().chosen().also;
    for (const records::Gear& g : session_.book().gear()) {
        if (g.kind == kind)
            std::erase(also, g.name);
    }
    if (const std::string chosen = also_.at(kind)->currentData().toString().toStdString(); !chosen.empty())
        also.push_back(chosen);
    live_.setups().setAlso(also);
}

void InstrumentPanel::open() {
    own_ = readProfiles();
    fillSetups();
    for (const bench::Role& role : bench::roleKeys())
        fill(role);
    QStringList wrong;
    for (const auto& list : {own_.unreadable, live_.setups().read().unreadable}) {
        for (const Unreadable& u : list)
            wrong << qs(u.why);
    }
    wrong_->setText(wrong.isEmpty()
                        ? QString()
                        : tr("Not in the lists, as it cannot be used: %1").arg(wrong.join(QLatin1Char('\n'))));
    wrong_->setVisible(!wrong.isEmpty());
}

void InstrumentPanel::fill(const bench::Role& role) {
    filling_ = true;
    Row& row = rows_.at(role);
    const auto set = live_.instrument(role);
    const auto setup = live_.setups().chosen();
    const auto placed = setup.placed.find(role);
    const bench::Kind kind = bench::roleNamed(role)->kind;
    fillPieces(row.piece, gearOf(kind), placed == setup.placed.end() ? std::string() : placed->second.piece);
    row.profile->clear();
    row.profile->addItem(tr("none"), QString());
    for (const bench::Profile& p : own_.all) {
        if (p.kind == kind)
            row.profile->addItem(qs(p.name), qs(p.key));
    }
    row.profile->setCurrentIndex(set ? std::max(0, row.profile->findData(qs(set->profile.key))) : 0);
    row.address->clear();
    for (const bench::PortFound& port : bench::serialPorts())
        row.address->addItem(port.name);
    row.address->setEditText(set ? set->address.text : QString());
    row.address->lineEdit()->setPlaceholderText(tr("/dev/ttyUSB0, /dev/usbtmc0 or host:port"));
    filling_ = false;
}

void InstrumentPanel::keepRow(const bench::Role& role) {
    if (filling_)
        return;
    const Row& row = rows_.at(role);
    const QString profile = row.profile->currentData().toString();
    live_.setups().place(role, {profile.toStdString(), row.address->currentText().trimmed().toStdString(),
                                row.piece->currentData().toString().toStdString()});
}

void InstrumentPanel::listen() {
    const Row& row = rows_.at(bench::role::meter);
    bench::Profile as;
    for (const bench::Profile& p : own_.all) {
        if (p.key == "printing-meter")
            as = p;
        if (qs(p.key) == row.profile->currentData().toString() && p.lines) {
            as = p;
            break;
        }
    }
    listen_->setEnabled(false);
    words_->setText(tr("Listening…"));
    listener_.listen(as, {row.address->currentText().trimmed()});
}

void InstrumentPanel::heard(const bench::Heard& heard) {
    listen_->setEnabled(true);
    heard_ = heard;
    QStringList text{tr("It prints lines like:")};
    for (std::size_t k = 0; k < std::min<std::size_t>(2, heard.lines.size()); ++k)
        text << QStringLiteral("    ") + qs(heard.lines[k]).left(60);
    for (const std::string& reason : heard.reasons)
        text << QStringLiteral("• ") + qs(reason);
    words_->setText(text.join(QLatin1Char('\n')));
    keepRowWidget_->show();
    name_->setFocus();
}

void InstrumentPanel::keepHeard() {
    if (!heard_)
        return;
    bench::Profile p = heard_->profile;
    p.name = name_->text().trimmed().toStdString();
    p.key = bench::keyOf(name_->text().toStdString());
    p.notes.clear();
    if (p.key.empty()) {
        Q_EMIT problem(tr("The new profile needs a name."));
        return;
    }
    if (auto saved = live_.saveProfile(p); !saved) {
        Q_EMIT problem(qs(saved.error().sentence()));
        return;
    }
    live_.setInstrument(bench::role::meter, qs(p.key), rows_.at(bench::role::meter).address->currentText());
    keepRowWidget_->hide();
    words_->setText(tr("Kept; it is chosen for “meter” now."));
    open();
}

} // namespace otterstone::app
