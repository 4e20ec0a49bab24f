// Rows of the tables in tests/cases.
#pragma once

#include <QStringList>

namespace otterstone::tests {

/// The pieces of a cell, without the spaces around them; empty ones are left out.
inline QStringList parts(const QString& text, const char* by) {
    QStringList all;
    for (const QString& part : text.split(QLatin1String(by), Qt::SkipEmptyParts))
        all << part.trimmed();
    return all;
}

} // namespace otterstone::tests
