// A lane for each port; on it every tier stands at its volts, as tall as its watts: hollow what is promised, filled
// what came.
#include <algorithm>
#include <map>

#include "app/behaviour/pictures.h"
#include "app/behaviour/sketch.h"
#include "app/widgets/on_screen.h"
#include "core/kinds/survey/survey.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace {

constexpr double kLeft = 64.0, kBar = 44.0, kMostVolts = 22.0;

double watts(double volts, const std::optional<double>& amps) { return amps ? volts * *amps : 0.0; }

void cell(const Sketch& s, const kinds::SurveyCell& c, double x, double foot, const Scale& tall) {
    using kinds::TierState;
    const QColor colour = c.in ? theme().in : theme().out;
    const double promised = watts(c.tierVolts, c.promisedAmps), came = c.volts && c.amps ? *c.volts * *c.amps : 0.0;
    const auto bar = [&](double w) { return QRectF(QPointF(x - kBar / 2.0, tall(w)), QPointF(x + kBar / 2.0, foot)); };
    QString words = QStringLiteral("%1 V").arg(onScreen(showNumber(c.tierVolts)));
    QString state;
    switch (c.state) {
    case TierState::NotTried:
        s.unknown(bar(std::max(promised, tall.most * 0.08)));
        state = QObject::tr("not tried");
        break;
    case TierState::NotOffered:
        s.line({x - 8, foot - 14}, {x + 8, foot - 2}, c.promised() ? theme().warn : theme().faint, 1.6);
        s.line({x - 8, foot - 2}, {x + 8, foot - 14}, c.promised() ? theme().warn : theme().faint, 1.6);
        state = QObject::tr("not there");
        break;
    case TierState::Offered:
        s.line({x - kBar / 2.0, foot - 3}, {x + kBar / 2.0, foot - 3}, colour, 3);
        state = QObject::tr("offered");
        break;
    case TierState::Holds:
    case TierState::HoldsPartly:
        s.p.fillRect(bar(came), colour);
        state = QStringLiteral("%1 W").arg(onScreen(showNumber(came, 3)));
        break;
    case TierState::Sags:
        s.p.fillRect(bar(std::max(came, tall.most * 0.06)), hatching(theme().warn, true));
        state = QObject::tr("sags");
        break;
    }
    if (promised > 0.0 && c.state != TierState::NotTried) {
        s.p.setPen(QPen(theme().ink, 1.2, Qt::DotLine));
        s.p.setBrush(Qt::NoBrush);
        s.p.drawRect(bar(promised));
    }
    const double top = std::min(tall(std::max(promised, came)), foot - 16.0);
    s.text({x, top - 5.0}, state,
           c.state == TierState::Sags || (c.state == TierState::NotOffered && c.promised()) ? theme().warn
                                                                                            : theme().ink,
           0.95, c.state == TierState::Holds, Qt::AlignHCenter);
    s.text({x, foot + 16.0}, words, theme().faint, 0.9, false, Qt::AlignHCenter);
    if (!c.promised() && c.state != TierState::NotOffered)
        s.text({x, foot + 30.0}, QObject::tr("not printed"), theme().warn, 0.8, false, Qt::AlignHCenter);
}

} // namespace

void paintSurvey(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts) {
    const Sketch s(painter, area);
    const auto f = kinds::survey(sheet, facts);
    std::vector<std::pair<std::string, std::vector<const kinds::SurveyCell*>>> lanes;
    double most = 1.0, volts = kMostVolts;
    for (const kinds::SurveyCell& c : f.cells) {
        const std::string name = c.port + (c.in ? " in" : "");
        auto at = std::find_if(lanes.begin(), lanes.end(), [&](const auto& l) { return l.first == name; });
        if (at == lanes.end())
            at = lanes.insert(lanes.end(), {name, {}});
        at->second.push_back(&c);
        most = std::max({most, watts(c.tierVolts, c.promisedAmps), c.volts && c.amps ? *c.volts * *c.amps : 0.0});
        volts = std::max(volts, c.tierVolts + 2.0);
    }
    if (lanes.empty())
        return;
    const double lane = area.height() / static_cast<double>(lanes.size());
    const Scale across{volts, area.left() + kLeft, area.right() - 16.0};
    for (std::size_t k = 0; k < lanes.size(); ++k) {
        const double foot = area.top() + lane * static_cast<double>(k + 1) - 34.0;
        s.line({area.left() + kLeft - 8.0, foot}, {area.right() - 8.0, foot}, theme().line);
        s.text({area.left() + 8.0, foot - 2.0}, qs(lanes[k].first), theme().ink, 1.3, true);
        for (const kinds::SurveyCell* c : lanes[k].second)
            cell(s, *c, across(c->tierVolts), foot, {most, foot, foot - lane + 62.0});
    }
}

} // namespace otterstone::app
