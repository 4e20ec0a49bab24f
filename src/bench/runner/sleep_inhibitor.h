// Keeps the computer awake while a run goes, through the login manager's D-Bus interface; says so when it cannot.
#pragma once

#include <QDBusConnection>
#include <QDBusUnixFileDescriptor>
#include <QString>

namespace otterstone::bench {

class SleepInhibitor {
public:
    /// The system's bus as a rule; a test brings its own.
    explicit SleepInhibitor(QDBusConnection bus = QDBusConnection::systemBus()) : bus_(std::move(bus)) {}

    /// Until release(). False when nobody grants it; trouble() says why.
    bool hold(const QString& why);
    void release() { held_ = QDBusUnixFileDescriptor(); }
    [[nodiscard]] bool isHeld() const { return held_.isValid(); }
    [[nodiscard]] const QString& trouble() const { return trouble_; }

private:
    QDBusConnection bus_;
    QDBusUnixFileDescriptor held_; ///< sleep is put off as long as this is open
    QString trouble_;
};

} // namespace otterstone::bench
