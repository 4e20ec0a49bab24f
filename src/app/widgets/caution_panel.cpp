#include "app/widgets/caution_panel.h"

#include <QLabel>
#include <QVBoxLayout>

#include "app/theme.h"

namespace otterstone::app {

CautionPanel::CautionPanel(QWidget* parent) : QFrame(parent) {
    setObjectName(QStringLiteral("sheet"));
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(2 * kGrid, kGrid, 2 * kGrid, kGrid);
    all->setSpacing(kGrid / 2);
    auto* title = new QLabel(tr("Before you start any run: lithium cells burn"));
    title->setFont(app::font(1.0, QFont::DemiBold));
    all->addWidget(title);
    const QString lines[] = {
        tr("The bank is undamaged, not swollen, and does not smell. Never open a bank or bridge its cells."),
        tr("It lies on a surface that cannot burn, with nothing flammable near, and somebody is there or the run stops by itself."),
        tr("Stop at smoke, hissing, a smell of hot resin, swelling, or past the temperature limit you set."),
        tr("Overload and short-circuit steps only into protected equipment rated for them. Mains work, standards and disposal: "
           "local codes and licensed people."),
        tr("Medical equipment: only its maker's approved back-up supplies; ask the clinician. Flying: rated Wh decide and the "
           "carrier's rule stands. Otterstone informs; it does not certify."),
    };
    for (const QString& line : lines) {
        auto* label = new QLabel(QStringLiteral("–  ") + line);
        label->setWordWrap(true);
        all->addWidget(label);
    }
    all->addStretch();
}

} // namespace otterstone::app
