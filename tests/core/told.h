// What a table of cases wants said of a sheet, held against what is said.
#pragma once

#include <cmath>
#include <functional>

#include <QTest>

#include "core/kinds/judge.h"
#include "core/kinds/observation.h"

namespace otterstone::tests {

inline bool near(double a, double b) { return std::fabs(a - b) <= 0.01 * std::fabs(b); }

/// "~ words" and "!~ words" in the sentence or a warning ("\" is a semicolon); "! code", a remark, and no others then
/// are asked for; "sees what [PORT] [alone]" and "sees no what"; "key = value ± expanded", to 1 %; "no key"; anything
/// else is `further`'s. A key that ends in ":" stands for all that begin so.
inline void holdAgainst(const QStringList& wants, const kinds::Said& said, const std::vector<kinds::Observation>& seen,
                        const std::function<void(const QString&)>& further = {}) {
    QString all = QString::fromStdString(said.sentence) + '\n';
    for (const Warning& w : said.warnings)
        all += QString::fromStdString(w.text) + '\n';
    QStringList codes;
    for (const kinds::Remark& r : said.remarks)
        codes << QString::fromStdString(r.problem.code);
    const auto figureOf = [&said](const QString& key) -> const Working* {
        for (const Working& w : said.figures) {
            if (QString::fromStdString(w.key) == key ||
                (key.endsWith(':') && QString::fromStdString(w.key).startsWith(key)))
                return &w;
        }
        return nullptr;
    };
    const auto sees = [&seen](QStringList words) {
        const bool alone = words.removeOne(QStringLiteral("alone"));
        return std::ranges::any_of(seen, [&](const kinds::Observation& o) {
            return QString::fromStdString(kinds::whatKey(o.what)) == words[0] && (!alone || o.alone()) &&
                   (words.size() < 2 || QString::fromStdString(o.port) == words[1]);
        });
    };
    bool remarks = false;
    for (QString want : wants) {
        want.replace('\\', ';'); // a sentence may have one
        if (want.startsWith("~ ")) {
            QVERIFY2(all.contains(want.mid(2)), qPrintable(want + "\n" + all));
        } else if (want.startsWith("!~ ")) {
            QVERIFY2(!all.contains(want.mid(3)), qPrintable(want + "\n" + all));
        } else if (want.startsWith("! ")) {
            remarks = true;
            QVERIFY2(codes.contains(want.mid(2)), qPrintable(want + ": " + codes.join(' ')));
        } else if (want.startsWith("sees ")) {
            const bool wanted = !want.startsWith("sees no ");
            QVERIFY2(sees(want.mid(wanted ? 5 : 8).split(' ')) == wanted, qPrintable(want));
        } else if (want.startsWith("no ")) {
            const QString key = want.mid(3);
            QVERIFY2(!figureOf(key) && !figureOf(key + ':'), qPrintable(want + "\n" + all));
        } else if (want.contains(" = ")) {
            const QStringList sides = want.split(" = "), figure = sides[1].split(QStringLiteral(" ± "));
            const Working* w = figureOf(sides[0]);
            QVERIFY2(w, qPrintable(want + "\n" + all));
            QVERIFY2(near(w->value.value(), figure[0].toDouble()),
                     qPrintable(want + QStringLiteral(", not %1").arg(w->value.value())));
            QVERIFY2(figure.size() < 2 || near(w->value.expanded(), figure[1].toDouble()),
                     qPrintable(want + QStringLiteral(", not ± %1").arg(w->value.expanded())));
        } else {
            QVERIFY2(further, qPrintable("not understood: " + want));
            further(want);
        }
    }
    QVERIFY2(remarks || codes.isEmpty(), qPrintable(codes.join(' ')));
    // Each sentence is one: no doubled space, one full stop.
    QVERIFY2(!all.contains("  ") && !all.contains("..") && !all.contains(" ."), qPrintable(all));
}

} // namespace otterstone::tests
