#include "app/runs/measured_head.h"

#include <QLabel>
#include <QVBoxLayout>

#include "app/runs/ends_bar.h"
#include "app/runs/path_ribbon.h"
#include "app/runs/stamps.h"
#include "app/theme.h"
#include "core/quantity/format.h"

namespace otterstone::app {

MeasuredHead::MeasuredHead(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), ribbon_(new PathRibbon), ends_(new EndsBar(session)), referred_(new QLabel),
      stamped_(new QLabel) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(kGrid / 2);
    all->addWidget(ends_);
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
    connect(ribbon_, &PathRibbon::gearWanted, this, &MeasuredHead::gearWanted);
    connect(ribbon_, &PathRibbon::pointChosen, this, &MeasuredHead::refer);
    connect(ends_, &EndsBar::problem, this, &MeasuredHead::problem);
    hide();
}

void MeasuredHead::show(const records::Run& run, const kinds::Finding& finding) {
    const auto bank = session_.book().bank(run.bank);
    const bool measured = bank && (finding.drain || finding.recharge);
    setVisible(measured);
    if (!measured)
        return;
    finding_ = finding;
    referred_->hide();
    ribbon_->show(makeRibbon(*bank, run, session_.book().gear(), finding), finding.recharge.has_value());
    ends_->show(run.id, finding);
    QStringList stamps;
    for (const records::Mark& m : run.marks)
        stamps << tr("%1 at %2").arg(markWords(m), qs(showDuration(m.at)));
    stamped_->setText(tr("Stamped besides its rows: %1.").arg(stamps.join(QStringLiteral("; "))));
    stamped_->setVisible(!stamps.isEmpty());
}

void MeasuredHead::refer(path::Point point, bool explain) {
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
