#include "bench/runner/sleep_inhibitor.h"

#include <QDBusInterface>
#include <QDBusReply>

namespace otterstone::bench {

bool SleepInhibitor::hold(const QString& why) {
    if (held_.isValid())
        return true;
    trouble_.clear();
    if (!bus_.isConnected()) {
        trouble_ = QStringLiteral("there is no message bus");
        return false;
    }
    QDBusMessage call = QDBusMessage::createMethodCall(
        QStringLiteral("org.freedesktop.login1"), QStringLiteral("/org/freedesktop/login1"),
        QStringLiteral("org.freedesktop.login1.Manager"), QStringLiteral("Inhibit"));
    call << QStringLiteral("sleep:idle:handle-lid-switch") << QStringLiteral("Otterstone") << why
         << QStringLiteral("block");
    constexpr int kAnswerMs = 500; // the run must not wait for it
    const QDBusReply<QDBusUnixFileDescriptor> reply = bus_.call(call, QDBus::Block, kAnswerMs);
    if (!reply.isValid()) {
        trouble_ = reply.error().message();
        return false;
    }
    held_ = reply.value();
    return held_.isValid();
}

} // namespace otterstone::bench
