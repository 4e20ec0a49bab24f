#include "app/live/instrument_panel.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/theme.h"

namespace otterstone::app {

namespace {

struct RoleWords {
    const char* role;
    bench::Kind kind;
    const char* hint;
};
constexpr RoleWords kRoles[] = {
    {"meter", bench::Kind::Meter, QT_TR_NOOP("between the bank and the load")},
    {"input meter", bench::Kind::Meter, QT_TR_NOOP("between the charger and the bank; may be the same one, moved")},
    {"load", bench::Kind::Load, QT_TR_NOOP("draws, and is switched off by every stop")},
    {"second load", bench::Kind::Load, QT_TR_NOOP("for two outputs at once")},
    {"trigger", bench::Kind::Trigger, QT_TR_NOOP("asks the port for a tier")},
    {"second trigger", bench::Kind::Trigger, QT_TR_NOOP("does so before the second load")},
    {"thermometer", bench::Kind::Thermometer, QT_TR_NOOP("on the bank's hottest spot")}};

std::string keyFrom(const QString& name) {
    std::string key;
    for (const QChar c : name.toLower()) {
        if (c.isLetterOrNumber() && c.unicode() < 128)
            key += c.toLatin1();
        else if (!key.empty() && key.back() != '-')
            key += '-';
    }
    while (!key.empty() && key.back() == '-')
        key.pop_back();
    return key;
}

} // namespace

InstrumentPanel::InstrumentPanel(LiveBench& live, QWidget* parent)
    : SidePanel(tr("Instruments"), parent), live_(live), listener_(this),
      listen_(new QPushButton(tr("Listen and recognise"))), keep_(new QPushButton(tr("Keep as a profile"))),
      words_(new QLabel), wrong_(new QLabel), name_(new QLineEdit), keepRowWidget_(new QWidget) {
    wrong_->setObjectName(QStringLiteral("problem"));
    wrong_->setWordWrap(true);
    wrong_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    body()->addWidget(wrong_);
    for (const RoleWords& r : kRoles) {
        auto* name = new QLabel(tr("%1: %2").arg(QLatin1String(r.role), tr(r.hint)));
        name->setWordWrap(true);
        name->setFont(app::font(1.0, QFont::DemiBold));
        body()->addWidget(name);
        auto* line = new QHBoxLayout;
        Row row{new QComboBox, new QComboBox};
        row.profile->setAccessibleName(tr("Profile of the %1").arg(QLatin1String(r.role)));
        row.address->setAccessibleName(tr("Where the %1 is connected").arg(QLatin1String(r.role)));
        row.address->setEditable(true);
        row.profile->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        row.profile->setMinimumContentsLength(18);
        row.address->setMinimumContentsLength(14);
        line->addWidget(row.profile, 1);
        line->addWidget(row.address, 1);
        body()->addLayout(line);
        rows_[r.role] = row;
        connect(row.profile, &QComboBox::currentIndexChanged, this,
                [this, role = std::string(r.role)] { keepRow(role); });
        connect(row.address, &QComboBox::currentTextChanged, this,
                [this, role = std::string(r.role)] { keepRow(role); });
    }
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

void InstrumentPanel::open() {
    own_ = readProfiles();
    for (const RoleWords& r : kRoles)
        fill(r.role);
    QStringList wrong;
    for (const Unreadable& u : own_.unreadable)
        wrong << qs(u.why);
    wrong_->setText(wrong.isEmpty()
                        ? QString()
                        : tr("Not in the lists, as it cannot be used: %1").arg(wrong.join(QLatin1Char('\n'))));
    wrong_->setVisible(!wrong.isEmpty());
}

void InstrumentPanel::fill(const bench::Role& role) {
    filling_ = true;
    Row& row = rows_.at(role);
    const auto set = live_.instrument(role);
    row.profile->clear();
    row.profile->addItem(tr("none"), QString());
    const auto kind =
        std::find_if(std::begin(kRoles), std::end(kRoles), [&](const RoleWords& r) { return role == r.role; })->kind;
    for (const bench::Profile& p : own_.all) {
        if (p.kind == kind)
            row.profile->addItem(qs(p.name), qs(p.key));
    }
    row.profile->setCurrentIndex(set ? std::max(0, row.profile->findData(qs(set->profile.key))) : 0);
    row.address->clear();
    for (const bench::PortFound& port : bench::serialPorts())
        row.address->addItem(port.name);
    row.address->setEditText(set ? set->address.text : QString());
    row.address->lineEdit()->setPlaceholderText(tr("/dev/ttyUSB0 or host:port"));
    filling_ = false;
}

void InstrumentPanel::keepRow(const bench::Role& role) {
    if (filling_)
        return;
    const Row& row = rows_.at(role);
    const QString profile = row.profile->currentData().toString();
    live_.setInstrument(role, profile, profile.isEmpty() ? QString() : row.address->currentText());
}

void InstrumentPanel::listen() {
    const Row& row = rows_.at("meter");
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
    p.key = keyFrom(name_->text());
    p.notes.clear();
    if (p.key.empty()) {
        Q_EMIT problem(tr("The new profile needs a name."));
        return;
    }
    if (auto saved = live_.saveProfile(p); !saved) {
        Q_EMIT problem(qs(saved.error().sentence()));
        return;
    }
    live_.setInstrument("meter", qs(p.key), rows_.at("meter").address->currentText());
    keepRowWidget_->hide();
    words_->setText(tr("Kept; it is chosen for “meter” now."));
    open();
}

} // namespace otterstone::app
