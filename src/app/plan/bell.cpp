#include "app/plan/bell.h"

#include <QDBusConnection>
#include <QDBusMessage>
#include <QDBusPendingCall>

#include "app/theme.h"
#include "bench/campaign/book_campaign.h"
#include "core/plan/campaign/day_sheet.h"
#include "core/quantity/date.h"

namespace otterstone::app {

namespace campaign = plan::campaign;

namespace {

constexpr int kLookMs = 15'000;

} // namespace

Bell::Bell(BookSession& session, QObject* parent) : QObject(parent), session_(session) {
    connect(&every_, &QTimer::timeout, this, [this] { look(bench::clockNow()); });
    connect(&session_, &BookSession::opened, this, [this] {
        looked_.reset();
        every_.start(kLookMs);
    });
}

void Bell::look(double now) {
    if (!session_.isOpen())
        return;
    const double since = std::exchange(looked_, now).value_or(now);
    const auto wishes = bench::wishesOf(session_.book());
    if (!wishes || !wishes->from.empty() || now <= since)
        return;
    const auto due = [&](const std::string& moment) {
        const auto at = secondsOf(moment);
        return at && *at > since && *at <= now;
    };
    QStringList sentences;
    for (const campaign::Lived& lived :
         livedThrough(wishes->kept, bench::runsMade(session_.book(), wishes->kept), now)) {
        const campaign::KeptJob& kept = wishes->kept.jobs[lived.job];
        if (due(kept.from) && !lived.run)
            sentences << tr("It is time for “%1”, until about %2.")
                             .arg(qs(kept.words), qs(campaign::clockWords(secondsOf(kept.to).value_or(now))));
        if (due(kept.to))
            sentences << tr("“%1” should be over: hands are wanted.").arg(qs(kept.words));
    }
    if (!sentences.isEmpty())
        Q_EMIT rings(sentences.join(QLatin1Char(' ')));
}

void notifyDesktop(const QString& sentence) {
    QDBusConnection bus = QDBusConnection::sessionBus();
    if (!bus.isConnected())
        return;
    QDBusMessage call = QDBusMessage::createMethodCall(
        QStringLiteral("org.freedesktop.Notifications"), QStringLiteral("/org/freedesktop/Notifications"),
        QStringLiteral("org.freedesktop.Notifications"), QStringLiteral("Notify"));
    call << QStringLiteral("Otterstone") << 0U << QString() << QObject::tr("The plan wants hands")
         << sentence.toHtmlEscaped() << QStringList() << QVariantMap() << -1;
    bus.asyncCall(call);
}

} // namespace otterstone::app
