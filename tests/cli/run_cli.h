// The command line as a script runs it.
#pragma once

#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>

#include "where.h"

namespace otterstone::testing {

struct Run {
    int code = -1; ///< -2: it did not end in time
    QByteArray out;
    QString errors;
    [[nodiscard]] QJsonObject json() const { return QJsonDocument::fromJson(out).object(); }
};

inline Run cli(const QStringList& arguments) {
    QProcess p;
    p.start(where::cli(), arguments);
    const bool ended = p.waitForFinished(120'000);
    return {ended ? p.exitCode() : -2, p.readAllStandardOutput(), QString::fromUtf8(p.readAllStandardError())};
}

} // namespace otterstone::testing
