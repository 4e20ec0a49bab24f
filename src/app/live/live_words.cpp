#include "app/live/live_words.h"

#include <QLabel>

#include <QDateTime>
#include <QObject>

#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "core/quantity/format.h"

namespace otterstone::app {

using bench::Phase;

QString stateWords(const bench::Progress& p) {
    QString doing = qs(p.doing);
    switch (p.phase) {
    case Phase::Idle: return QObject::tr("Nothing runs.");
    case Phase::Connecting: return QObject::tr("Connecting the instruments.");
    case Phase::Running: return QObject::tr("Running, step %1 of %2: %3").arg(p.step + 1).arg(p.steps).arg(doing);
    case Phase::Waiting: return QObject::tr("Waiting for you: %1").arg(qs(p.toDo));
    case Phase::Closing:
    case Phase::StillOn:
    case Phase::Finished: return doing;
    }
    return {};
}

bool wantsHands(const bench::Progress& p) { return p.phase == Phase::Waiting || !p.stillOn.empty(); }

QString stateSign(const bench::Progress& p) {
    if (!p.stillOn.empty())
        return QStringLiteral("⚠");
    switch (p.phase) {
    case Phase::Running: return QStringLiteral("▶");
    case Phase::Waiting: return QStringLiteral("✋");
    case Phase::Connecting: return QStringLiteral("…");
    case Phase::Closing:
    case Phase::StillOn:
    case Phase::Finished: return QStringLiteral("■");
    case Phase::Idle: break;
    }
    return QStringLiteral("○");
}

QString endWords(const bench::Progress& p, bool drain, double speed) {
    QStringList parts;
    const auto at = [&](double end) {
        const double in = std::max(0.0, end - p.elapsed);
        // The clock on the wall tells nothing about a bench whose time runs faster.
        return speed == 1.0 ? QObject::tr("at %1").arg(QDateTime::currentDateTime()
                                                           .addSecs(static_cast<qint64>(in))
                                                           .toString(QStringLiteral("HH:mm")))
                            : QObject::tr("after %1").arg(onScreen(showDuration(end)));
    };
    if (p.ownEnd)
        parts << (drain ? QObject::tr("Cut-off predicted %1 (from %2)") : QObject::tr("Full predicted %1 (from %2)"))
                     .arg(at(*p.ownEnd), qs(p.ownFrom));
    if (p.claimEnd)
        parts << QObject::tr("as claimed %1").arg(at(*p.claimEnd));
    if (p.displayEnd)
        parts << QObject::tr("by its own display %1").arg(at(*p.displayEnd));
    return parts.join(QStringLiteral(" · "));
}

QString healthWords(const bench::Progress& p) {
    QStringList parts;
    for (const bench::Health& h : p.health) {
        QString words = QStringLiteral("%1 %2").arg(h.up ? QStringLiteral("✓") : QStringLiteral("✗"), qs(h.role));
        if (h.readings > 0)
            words += QObject::tr(", %1 readings").arg(h.readings);
        if (h.spoiled > 0)
            words += QObject::tr(", %1 unreadable").arg(h.spoiled);
        if (!h.up && !h.trouble.empty())
            words += QStringLiteral(": ") + qs(h.trouble);
        parts << words;
    }
    return parts.join(QStringLiteral("   "));
}

void say(QLabel* label, const QString& words) {
    if (label->text() != words)
        label->setText(words);
}

} // namespace otterstone::app
