// The label's Wh by each school. The runs are straight lines whose energies are products: 6.6 h of 5 V 1 A out (33 Wh,
// 6600 mAh), 2.2 h of 18 W and a taper of 20 min to a sixtieth in (39.6 Wh and 3.05 Wh).
#include <QtTest>

#include "core/evidence/evidence.h"
#include "core/judgement/hold.h"

using namespace otterstone;
using namespace otterstone::judgement;
using records::Kind;

namespace {

void add(trace::Trace& t, double hours, double volts, double fromAmps, double toAmps) {
    const double begin = t.time.empty() ? 0.0 : t.time.back() + 5.0;
    const int n = static_cast<int>(hours * 720.0);
    for (int k = 0; k < n; ++k) {
        t.time.push_back(begin + 5.0 * k);
        t.volts.push_back(volts);
        t.amps.push_back(fromAmps + (toAmps - fromAmps) * k / n);
    }
}

kinds::RunEntry run(long long id, Kind kind, double volts, double amps, double hours) {
    trace::Trace t;
    add(t, hours, volts, amps, amps);
    if (kind == Kind::Recharge)
        add(t, 1.0 / 3.0, volts, amps, amps / 60.0);
    add(t, 0.5, kind == Kind::Drain ? 0.0 : volts, 0.0, 0.0);
    setup::Setup s;
    s.meter = *path::parseMeter("volts 0.1%+3mV, amps 0.2%+3mA, clock 50ppm", "meter");
    s.meter.name = "Bench meter";
    s.pathOhms = Measured(0.0);
    s.run = std::to_string(id);
    kinds::RunEntry e;
    e.run = id;
    e.title = records::kindKey(kind);
    e.startedAt = "2026-10-0" + std::to_string(id) + "T08:00:00";
    const auto found = kinds::analyse(t, kind, s);
    if (!found)
        qFatal("%s", found.error().sentence().c_str());
    e.finding = *found;
    return e;
}

evidence::Evidence written(double labelWh, double ratedMah, const QString& runs, const char* school) {
    evidence::Evidence e;
    e.label.energy = WattHours(labelWh);
    if (ratedMah > 0.0) {
        e.label.outputCapacity = AmpHours(ratedMah / 1000.0);
        e.label.outputVolts = Volts(5.0);
    }
    for (const QChar c : runs) {
        const auto id = static_cast<long long>(e.runs.size()) + 1;
        e.runs.push_back(c == u'i'   ? run(id, Kind::Recharge, 9.0, 2.0, 2.2)
                         : c == u'o' ? run(id, Kind::Drain, 5.0, 1.0, 6.6)
                         : c == u'h' ? run(id, Kind::Drain, 5.0, 2.0, 3.1)
                                     : run(id, Kind::Drain, 5.0, 0.2, 30.0));
    }
    if (!setup::setAnswer(e.schools, "label_by", school))
        qFatal("no school %s", school);
    e.together = together::judgeTogether(e.runs, labelWh, e.schools);
    return e;
}

} // namespace

class LabelByTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void each_school_has_its_verdict_data() {
        QTest::addColumn<double>("label");
        QTest::addColumn<double>("rated");
        QTest::addColumn<QString>("runs");
        QTest::addColumn<QString>("school");
        QTest::addColumn<QString>("verdict");
        QTest::addColumn<QString>("why");
        const auto row = [](double label, double rated, const char* runs, const char* school, const char* verdict,
                            const char* why) {
            QTest::addRow("%g Wh, %g mAh rated, %s, by %s", label, rated, runs, school)
                << label << rated << runs << school << verdict << why;
        };
        // √(33.0 · 42.65) = 37.5 Wh, good to about ± 2.8: the losses may lie on either side.
        row(37.0, 6000, "io", "cells", "too close to call", "37");
        row(33.5, 6000, "io", "cells", "meets", "37");
        row(42.0, 6000, "io", "cells", "falls short", "37");
        row(37.0, 6000, "io", "came_out", "falls short", "33");
        row(32.0, 6000, "io", "came_out", "meets", "33");
        row(33.0, 6000, "io", "came_out", "too close to call", "33");
        row(37.0, 6400, "io", "rated_output", "meets", "38"); // 37 · 6600 ÷ 6400
        row(37.0, 6800, "io", "rated_output", "falls short", "35.9");
        row(37.0, 0, "io", "rated_output", "not tested", "the label states no rated output");
        row(37.0, 6000, "io", "empty_load", "not tested", "rests on one load alone");
        // The drain at which most came out counts, not the lightest.
        row(31.0, 6000, "iol", "came_out", "meets", "33");
        // Held against itself: without a recharge the curve's upper bound is the label.
        row(48.0, 6000, "oh", "empty_load", "not tested", "leans on the label itself");
        row(48.0, 6000, "ioh", "empty_load", "falls short", "against at least 48");
    }
    void each_school_has_its_verdict() {
        QFETCH(double, label);
        QFETCH(double, rated);
        QFETCH(QString, runs);
        QFETCH(QString, school);
        QFETCH(QString, verdict);
        QFETCH(QString, why);
        const Judged j = holdClaims(written(label, rated, runs, qPrintable(school)));
        const Held* row = j.row("energy");
        QVERIFY(row);
        QCOMPARE(QString::fromStdString(verdictWords(row->verdict)), verdict);
        QVERIFY2(row->why.find(why.toStdString()) != std::string::npos, row->why.c_str());
        // A school that is not the default is named in the row, and the others stand beside it.
        QCOMPARE(row->claim.condition.starts_with("by "), school != QStringLiteral("cells"));
        QCOMPARE(row->claim.words.ends_with(" Wh, " + row->claim.condition), school != QStringLiteral("cells"));
        QCOMPARE(row->claim.words.ends_with(" Wh in the cells"), school == QStringLiteral("cells"));
        QVERIFY(!row->seen.empty());
        for (const std::string& seen : row->seen)
            QVERIFY2(seen.starts_with("by "), seen.c_str());
        if (row->finding) {
            QCOMPARE(row->finding->school, school.toStdString());
            QCOMPARE(row->finding->question, std::string("label_by"));
            QCOMPARE(row->finding->others.size(), row->seen.size());
            for (const Working& other : row->finding->others) // each can be made the house's choice
                QVERIFY(other.question == "label_by" && other.school != school.toStdString());
        }
    }
};

QTEST_APPLESS_MAIN(LabelByTest)
#include "label_by_test.moc"
