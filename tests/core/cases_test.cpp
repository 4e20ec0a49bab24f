// C7: the runs of tests/cases/phases.txt, and what is said of them.
#include <QFile>
#include <QRegularExpression>
#include <QTest>

#include <cmath>
#include <random>

#include "core/quantity/parse.h"
#include "core/trace/phases.h"

using namespace otterstone;

namespace {

// Samples of a log as the table writes it.
class Log {
public:
    explicit Log(const QString& text) {
        const QStringList pieces = text.split(QLatin1Char(';'));
        for (const QString& piece : pieces)
            add(piece.split(QLatin1Char(' '), Qt::SkipEmptyParts));
    }
    [[nodiscard]] const trace::Trace& trace() const { return t_; }
    [[nodiscard]] bool good() const { return good_; }

private:
    struct Line {
        double from = 0.0, to = 0.0, decay = 0.0; ///< decay: seconds
        [[nodiscard]] double at(double x, double length) const {
            return decay > 0.0 ? from * std::exp(-x / decay) : from + (to - from) * (length > 0.0 ? x / length : 0.0);
        }
    };
    double seconds(const QString& text) {
        const auto s = parseDuration(text.toStdString(), {}, 1.0);
        good_ = good_ && s.has_value();
        return s.value_or(0.0);
    }
    Line line(QString word) {
        const qsizetype wave = word.indexOf(QLatin1Char('~'));
        Line l;
        if (wave >= 0)
            l.decay = seconds(word.mid(wave + 1));
        word = wave >= 0 ? word.left(wave) : word;
        word.chop(1); // its unit
        const QStringList ends = word.split(QLatin1Char('>'));
        l.from = ends.first().toDouble();
        l.to = ends.last().toDouble();
        return l;
    }
    void add(QStringList words) {
        double noise = 0.0;
        for (qsizetype k = words.size() - 1; k >= 0; --k) {
            if (words[k] == QStringLiteral("every")) {
                step_ = seconds(words[k + 1]);
                words.remove(k, 2);
            } else if (words[k].startsWith(QLatin1Char('n'))) {
                noise = words[k].mid(1).chopped(1).toDouble() / 100.0;
                words.removeAt(k);
            }
        }
        if (words.size() != 3) {
            good_ = false;
            return;
        }
        const bool counted = words[0].endsWith(QLatin1Char('x'));
        const double length = counted ? words[0].chopped(1).toDouble() * step_ : seconds(words[0]);
        const Line volts = line(words[1]), amps = line(words[2]);
        std::normal_distribution<double> scatter(1.0, noise);
        for (double x = 0.0; x < length - step_ * 1e-6; x += step_) {
            t_.time.push_back(next_);
            next_ += step_;
            t_.volts.push_back(volts.at(x, length));
            t_.amps.push_back(amps.at(x, length) * (noise > 0.0 ? scatter(random_) : 1.0));
        }
    }

    trace::Trace t_;
    double step_ = 1.0, next_ = 0.0;
    std::mt19937 random_{7};
    bool good_ = true;
};

QString endedOf(const trace::RechargePhases& p) {
    return p.end ? QStringLiteral("full") : p.brokeOff ? QStringLiteral("brokeoff") : QStringLiteral("open");
}

} // namespace

class CasesTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void a_run_is_told_as_the_tester_would_data() {
        QTest::addColumn<QStringList>("cells");
        QFile file(QStringLiteral(OTTERSTONE_TEST_CASES "/phases.txt"));
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
        const Log log(cells[2]);
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
