// C7: the runs of tests/cases/phases.txt, and what is said of them.
#include <QFile>
#include <QRegularExpression>
#include <QTest>

#include <cmath>

#include "core/quantity/parse.h"
#include "core/trace/phases.h"
#include "where.h"
#include "written_log.h"

using namespace otterstone;

namespace {

QString endedOf(const trace::RechargePhases& p) {
    return p.end ? QStringLiteral("full") : p.brokeOff ? QStringLiteral("brokeoff") : QStringLiteral("open");
}

} // namespace

class CasesTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void a_run_is_told_as_the_tester_would_data() {
        QTest::addColumn<QStringList>("cells");
        QFile file(where::cases("phases.txt"));
        QVERIFY(file.open(QIODevice::ReadOnly));
        int rows = 0;
        while (!file.atEnd()) {
            const QString line = QString::fromUtf8(file.readLine()).trimmed();
            if (line.isEmpty() || line.startsWith(QLatin1Char('#')))
                continue;
            QStringList cells = line.split(QLatin1Char('|'));
            for (QString& c : cells)
                c = c.trimmed();
            QCOMPARE(cells.size(), qsizetype(9));
            QTest::addRow("%s: %s", qPrintable(cells[0]), qPrintable(cells[1])) << cells;
            ++rows;
        }
        QVERIFY(rows >= 60);
    }
    void a_run_is_told_as_the_tester_would() {
        QFETCH(QStringList, cells);
        const tests::WrittenLog log(cells[2]);
        QVERIFY2(log.good(), "the log is not written as the table wants it");
        const trace::Trace& t = log.trace();
        const double gap = trace::gapThreshold(trace::medianStep(t.time));
        const trace::Plateau plateau = findPlateau(t, gap);
        const trace::Totals totals = integrate(t, plateau, gap);
        const trace::RunningEnergy energy(t, gap, totals);
        const double step = trace::medianStep(t.time);
        const auto count = [&](int column, std::size_t found) {
            if (!cells[column].isEmpty())
                QCOMPARE(static_cast<int>(found), cells[column].toInt());
        };
        std::optional<double> begun;
        if (cells[0] == QStringLiteral("drain")) {
            const trace::DrainPhases p = drainPhases(t, plateau, energy);
            begun = p.on;
            if (!cells[4].isEmpty())
                QCOMPARE(QString::fromStdString(endedByKey(p.endedBy)), cells[4]);
            count(5, p.interruptions.size());
            count(6, p.pauses.size());
        } else {
            const trace::RechargePhases p = rechargePhases(t, plateau, energy);
            begun = p.start;
            QCOMPARE(endedOf(p), cells[4]);
            count(7, p.throttles.size());
            if (!cells[8].isEmpty()) {
                const double minutes = (*p.end - *p.start) / 60.0;
                QVERIFY2(std::fabs(minutes - cells[8].toDouble()) <= std::max(1.5, step / 30.0),
                         qPrintable(QStringLiteral("full after %1 min").arg(minutes)));
            }
        }
        if (!cells[3].isEmpty()) {
            const auto expected = parseDuration(cells[3].toStdString(), {}, 1.0);
            QVERIFY(begun.has_value() && expected.has_value());
            QVERIFY2(std::fabs(*begun - *expected) <= std::max(1.0, step),
                     qPrintable(QStringLiteral("begun at %1 s").arg(*begun)));
        }
    }
};

QTEST_APPLESS_MAIN(CasesTest)
#include "cases_test.moc"
