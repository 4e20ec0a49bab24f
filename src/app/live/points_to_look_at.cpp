#include "app/live/points_to_look_at.h"

#include <algorithm>

#include <QLabel>
#include <QVBoxLayout>

#include "app/theme.h"
#include "app/widgets/wrapping_check.h"

namespace otterstone::app {

PointsToLookAt::PointsToLookAt(QWidget* parent) : QWidget(parent) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, kGrid, 0, 0);
    auto* heading = new QLabel(tr("Before it starts: lithium cells burn"));
    heading->setFont(app::font(1.1, QFont::DemiBold));
    all->addWidget(heading);
    for (
        const QString& text :
        {tr("The bank is undamaged, not swollen, and does not smell."),
         tr("It lies on a surface that cannot burn, and nothing near it can."),
         tr("Somebody is near, and will pull it apart at smoke, hissing, a smell of hot resin, or swelling."),
         tr("Cables sit firmly, the meter's arrow points the right way, and the load is rated for what it will draw.")}) {
        auto* check = new WrappingCheck(text);
        connect(check, &QCheckBox::toggled, this, &PointsToLookAt::changed);
        all->addWidget(check);
        checks_.push_back(check);
    }
}

bool PointsToLookAt::allTicked() const {
    return std::all_of(checks_.begin(), checks_.end(), [](const QCheckBox* c) { return c->isChecked(); });
}

void PointsToLookAt::clear() {
    for (QCheckBox* c : checks_)
        c->setChecked(false);
}

void PointsToLookAt::takeKeyboard() { checks_.front()->setFocus(); }

} // namespace otterstone::app
