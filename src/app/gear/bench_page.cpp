#include "app/gear/bench_page.h"

#include <map>

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/gear/gear_card.h"
#include "app/gear/gear_fields.h"
#include "app/theme.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/side_panel.h"

namespace otterstone::app {

namespace {

QString drawerWords(records::GearKind kind) {
    switch (kind) {
    case records::GearKind::Charger: return BenchPage::tr("Chargers");
    case records::GearKind::Cable: return BenchPage::tr("Cables");
    case records::GearKind::Meter: return BenchPage::tr("Meters");
    case records::GearKind::Load: return BenchPage::tr("Loads");
    case records::GearKind::Trigger: return BenchPage::tr("Triggers");
    case records::GearKind::Thermometer: return BenchPage::tr("Thermometers");
    case records::GearKind::Device: return BenchPage::tr("Devices");
    }
    return {};
}

} // namespace

BenchPage::BenchPage(BookSession& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(3 * kGrid, kGrid, 2 * kGrid, kGrid);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Bench"));
    title->setFont(app::font(1.6, QFont::DemiBold));
    head->addWidget(title);
    head->addStretch();
    const auto button = [&](const QString& text, const QString& hint, auto signal) {
        auto* b = new QPushButton(text);
        b->setToolTip(hint);
        head->addWidget(b);
        connect(b, &QPushButton::clicked, this, signal);
        return b;
    };
    button(tr("Before a run"), tr("What to look at before a bank is charged or drained"), &BenchPage::cautionsWanted)
        ->setObjectName(QStringLiteral("quiet"));
    button(tr("Bring in a log…"), tr("Ctrl+I"), &BenchPage::logWanted);
    button(tr("Write down by hand…"), tr("Readings off a display, or only the counters at the end (Ctrl+H)"),
           &BenchPage::handWanted)
        ->setObjectName(QStringLiteral("primary"));
    outer->addLayout(head);
    auto* words = new QLabel(tr(
        "The gear drawer: what stands between the wall, the bank and the load. What is known of it decides how well anything can be known."));
    words->setObjectName(QStringLiteral("faint"));
    words->setWordWrap(true);
    outer->addWidget(words);
    drawer_ = addScrollingColumn(outer);
    connect(&session_, &BookSession::changed, this, [this] {
        if (isVisible())
            refresh();
    });
}

void BenchPage::refresh() {
    if (!session_.isOpen())
        return;
    QString focused;
    for (auto* card : findChildren<GearCard*>()) {
        if (card->hasFocus())
            focused = card->text();
    }
    emptyLayout(drawer_);
    const auto gear = session_.book().gear();
    const auto uses = session_.book().gearUses();
    for (const records::GearKind kind : records::gearKinds()) {
        auto* head = new QWidget;
        auto* row = new QHBoxLayout(head);
        row->setContentsMargins(0, kGrid, 0, 0);
        auto* name = new QLabel(drawerWords(kind));
        name->setFont(app::font(1.1, QFont::DemiBold));
        row->addWidget(name);
        auto* add = new QPushButton(tr("+ %1").arg(qs(records::gearKey(kind))));
        add->setObjectName(QStringLiteral("quiet"));
        add->setEnabled(!session_.book().readOnly());
        add->setAccessibleName(tr("Add a %1").arg(qs(records::gearKey(kind))));
        connect(add, &QPushButton::clicked, this, [this, kind] { this->add(kind); });
        row->addWidget(add);
        row->addStretch();
        drawer_->addWidget(head);
        auto* tray = new QWidget;
        auto* flow = new FlowLayout(tray, kGrid);
        for (const records::Gear& g : gear) {
            if (g.kind != kind)
                continue;
            auto* card = new GearCard(g, uses.contains(g.id) ? uses.at(g.id) : 0);
            connect(card, &GearCard::clicked, this, [this, id = g.id] { Q_EMIT gearWanted(id); });
            flow->addWidget(card);
            if (card->text() == focused)
                card->setFocus();
        }
        if (flow->count() > 0)
            drawer_->addWidget(tray);
        else
            delete tray;
    }
    drawer_->addStretch();
}

void BenchPage::add(records::GearKind kind) {
    records::Gear fresh;
    fresh.kind = kind;
    fresh.name = tr("New %1").arg(qs(records::gearKey(kind))).toStdString();
    if (const auto id = session_.addGear(fresh))
        Q_EMIT gearWanted(*id);
    else
        Q_EMIT problem(qs(id.error().sentence()));
}

} // namespace otterstone::app
