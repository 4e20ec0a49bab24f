#include "app/runs/measured_path.h"

#include <QLabel>
#include <QVBoxLayout>

#include "app/runs/path_ribbon.h"
#include "app/runs/stamps.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "core/quantity/format.h"

namespace otterstone::app {

MeasuredPath::MeasuredPath(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), ribbon_(new PathRibbon), referred_(new QLabel), stamped_(new QLabel) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(kGrid / 2);
    all->addWidget(ribbon_);
    referred_->setFont(app::font(1.0, QFont::Medium));
    referred_->setAccessibleName(tr("Figure referred along the path"));
    stamped_->setObjectName(QStringLiteral("faint"));
    stamped_->setAccessibleName(tr("Stamps"));
    for (QLabel* l : {referred_, stamped_}) {
        l->setWordWrap(true);
        l->hide();
        all->addWidget(l);
    }
    connect(ribbon_, &PathRibbon::gearWanted, this, &MeasuredPath::gearWanted);
    connect(ribbon_, &PathRibbon::pointChosen, this, &MeasuredPath::refer);
    hide();
}

void MeasuredPath::show(const records::Run& run, const kinds::Finding& finding) {
    const auto bank = session_.book().bank(run.bank);
    const bool measured = bank && (finding.drain || finding.recharge);
    setVisible(measured);
    if (!measured)
        return;
    finding_ = finding;
    referred_->hide();
    ribbon_->show(makeRibbon(*bank, run, session_.book().gear(), finding), finding.recharge.has_value());
    QStringList stamps;
    for (const records::Mark& m : run.marks)
        stamps << tr("%1 at %2").arg(markWords(m), onScreen(showDuration(m.at)));
    stamped_->setText(tr("Stamped besides its rows: %1.").arg(stamps.join(QStringLiteral("; "))));
    stamped_->setVisible(!stamps.isEmpty());
}

void MeasuredPath::refer(path::Point point, bool explain) {
    referred_->setText(sayAt(finding_, point));
    referred_->setVisible(!referred_->text().isEmpty());
    if (!explain)
        return;
    for (const kinds::PointFigure& p : finding_.points) {
        if (p.point == point)
            return Q_EMIT workingWanted(p.energy);
    }
}

} // namespace otterstone::app
