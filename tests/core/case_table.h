// Rows of the tables in tests/cases.
#pragma once

#include <functional>

#include <QFile>
#include <QStringList>

namespace otterstone::tests {

/// The pieces of a cell, without the spaces around them; empty ones are left out.
inline QStringList parts(const QString& text, const char* by) {
    QStringList all;
    for (const QString& part : text.split(QLatin1String(by), Qt::SkipEmptyParts))
        all << part.trimmed();
    return all;
}

/// The rows of a table, each of so many cells parted by "|"; lines that begin with "=" go to `definition`. Nothing when
/// it cannot be read or a row has other cells.
inline QList<QStringList> rowsOf(const QString& path, qsizetype cells,
                                 const std::function<void(const QString&)>& definition = {}) {
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly))
        return {};
    QList<QStringList> rows;
    while (!file.atEnd()) {
        const QString line = QString::fromUtf8(file.readLine()).trimmed();
        if (line.startsWith('=') && definition) {
            definition(line.mid(1));
            continue;
        }
        if (line.isEmpty() || line.startsWith('#'))
            continue;
        QStringList row = line.split('|');
        if (row.size() != cells) {
            qWarning("not %d cells: %s", static_cast<int>(cells), qPrintable(line));
            return {};
        }
        for (QString& cell : row)
            cell = cell.trimmed();
        rows << row;
    }
    return rows;
}

} // namespace otterstone::tests
