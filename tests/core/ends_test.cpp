// What a run really was: the cases of tests/cases/ends.txt, as a tester would tell them.
#include <QMap>
#include <QTest>

#include <cmath>

#include "case_table.h"
#include "core/kinds/needs.h"
#include "core/kinds/traced/finding.h"
#include "core/quantity/parse.h"
#include "where.h"
#include "written_log.h"

using namespace otterstone;
using kinds::Ends;
using kinds::Finding;
using records::Kind;
using tests::parts;

namespace {

double seconds(const QString& text) { return parseDuration(text.toStdString(), "case", 1.0).value(); }

records::State stateOf(const QString& text) { return records::parseState(text.toStdString(), "case").value(); }

// What was written down beside the log.
struct Written {
    setup::Setup setup;
    std::optional<kinds::Neighbour> before, after;

    bool add(const QString& text) {
        const QStringList w = parts(text, " ");
        const auto rest = [&](qsizetype from) { return w.mid(from).join(' ').toStdString(); };
        if (w[0] == "at") {
            records::Mark m;
            m.at = seconds(w[1]);
            m.what = records::markFromKey(w[2].toStdString()).value();
            using What = records::Mark::What;
            if (m.what == What::Percent || m.what == What::DevicePercent || m.what == What::Leds)
                m.number = w[3].toDouble();
            if (m.what == What::Estimate)
                m.number = seconds(w[3]);
            m.text = rest(m.what == What::Leds ? 4 : 3);
            setup.marks.push_back(std::move(m));
            return true;
        }
        if (w[0] == "said" && w[1] == "began") {
            setup.ends.began = records::parseBegan(rest(2), "case").value();
            return true;
        }
        if (w[0] == "said" && w[1] == "ended")
            return records::parseEnded(rest(2), "case", setup.ends).has_value();
        if (w[0] == "said" && w[1] == "device")
            return records::parseDevice(rest(2), "case", setup.ends).has_value();
        if (w[0] == "device") { // "device 12 Wh"
            setup.device.emplace();
            setup.device->name = "tablet";
            setup.device->batteryWattHours = Stated(w[1].toDouble());
            return true;
        }
        if (w[0] == "answered") {
            setup.ends = kinds::answered(setup.ends, w[1].toStdString(), rest(2)).value();
            return true;
        }
        if (w[0] == "rated") {
            label::Label l;
            l.energy = WattHours(w[1].toDouble());
            setRating(setup, l);
            return true;
        }
        if (w[0] == "claims") { // "claims 3h with 20 W of 20 W"
            setup.claimedRecharge = Hours(seconds(w[1]) / 3600.0);
            setup.chargerWatts = Watts(w[3].toDouble());
            setup.claimedInput = Watts(w[6].toDouble());
            return true;
        }
        if (w[0] == "came") { // "came 58 % 2d": how the bank came, days before
            before = kinds::Neighbour{{},
                                      kinds::KnownState{stateOf(w.mid(1, w.size() - 2).join(' '))},
                                      QString(w.back()).chopped(1).toDouble(),
                                      Kind::Drain,
                                      0.0,
                                      true};
            return true;
        }
        if (w[0] == "before" || w[0] == "after") { // "before drain ended 45 % 2d 8 Wh"
            const qsizetype days = w.size() - 3;
            kinds::Neighbour n;
            n.title = "The other run";
            n.kind = *records::kindFromKey(w[1].toStdString());
            n.state = kinds::KnownState{stateOf(w.mid(3, days - 3).join(' ')), kinds::StateFrom::Trace, "as it showed"};
            n.days = QString(w[days]).chopped(1).toDouble();
            n.wattHours = w[days + 1].toDouble();
            (w[0] == "before" ? before : after) = n;
            return true;
        }
        return false;
    }
};

QString shown(const std::optional<kinds::KnownState>& s) {
    if (!s)
        return QStringLiteral("unknown");
    const auto number = [](double v) { return QString::number(v); };
    return (s->state.isFull()               ? QStringLiteral("full")
            : s->state.isEmpty()            ? QStringLiteral("empty")
            : s->state.low == s->state.high ? number(s->state.low)
                                            : number(s->state.low) + '-' + number(s->state.high)) +
           " by " + QString::fromStdString(kinds::fromKey(s->from));
}

QString asked(const Finding& f) {
    QStringList keys;
    for (const kinds::Question& q : f.ends.questions)
        keys << QString::fromStdString(q.key);
    return keys.isEmpty() ? QStringLiteral("nothing") : keys.join(',');
}

QString warned(const Finding& f) {
    QString all;
    for (const Warning& w : f.warnings)
        all += QString::fromStdString(w.text) + '\n';
    return all;
}

} // namespace

class EndsTest : public QObject {
    Q_OBJECT

private:
    QMap<QString, QString> logs_;

private Q_SLOTS:
    void what_a_run_was_data() {
        QTest::addColumn<QStringList>("cells");
        int rows = 0;
        const auto log = [this](const QString& line) {
            logs_[line.section(':', 0, 0).trimmed()] = line.section(':', 1).trimmed();
        };
        for (const QStringList& cells : tests::rowsOf(where::cases("ends.txt"), 5, log))
            QTest::addRow("%d %s: %s", ++rows, qPrintable(cells[0]), qPrintable(cells[1])) << cells;
        QVERIFY(rows >= 80);
    }

    void what_a_run_was() {
        QFETCH(QStringList, cells);
        const Kind kind = *records::kindFromKey(cells[0].toStdString());
        const tests::WrittenLog log(logs_.value(cells[2], cells[2]));
        QVERIFY2(log.good(), "the log is not written as the table wants it");
        Written written;
        for (const QString& one : parts(cells[3], ";"))
            QVERIFY2(written.add(one), qPrintable(one));
        auto alone = kinds::analyse(log.trace(), kind, written.setup);
        QVERIFY2(alone.has_value(), alone ? "" : alone.error().sentence().c_str());
        const Finding f = kinds::settled(*alone, written.before, written.after);
        const QString sentence = QString::fromStdString(f.sentence);
        const auto said = [&](const QString& what) {
            return QString(what + "\n  began " + shown(f.ends.began) + ", ended " + shown(f.ends.ended) + ", " +
                           QString::fromStdString(records::endingKey(f.ends.ending)) + ", asks " + asked(f) + "\n  " +
                           sentence + "\n" + warned(f))
                .toUtf8();
        };
        for (const QString& expected : parts(cells[4], ";")) {
            const QString first = expected.section(' ', 0, 0), rest = expected.section(' ', 1);
            if (first == "began" || first == "ended") {
                const QString is = shown(first == "began" ? f.ends.began : f.ends.ended), wanted = rest.mid(2);
                QVERIFY2(is == wanted || is.section(' ', 0, 0) == wanted, said(expected).constData());
            } else if (first == "ending") {
                QVERIFY2(QString::fromStdString(records::endingKey(f.ends.ending)) == rest.mid(2),
                         said(expected).constData());
            } else if (first == "asks") {
                QVERIFY2(asked(f) == rest.mid(2), said(expected).constData());
                for (const kinds::Question& q : f.ends.questions) {
                    QVERIFY2(q.sentence.ends_with('?') && q.answers.size() >= 2, q.sentence.c_str());
                    // Each answer settles it: the question is not asked again.
                    for (const kinds::Answer& a : q.answers) {
                        setup::Setup setup = written.setup;
                        const auto answer = kinds::answered(setup.ends, q.key, a.key);
                        QVERIFY2(answer.has_value(), a.key.c_str());
                        setup.ends = *answer;
                        const Finding then =
                            kinds::settled(*kinds::analyse(log.trace(), kind, setup), written.before, written.after);
                        QVERIFY2(std::none_of(then.ends.questions.begin(), then.ends.questions.end(),
                                              [&](const auto& again) { return again.key == q.key; }),
                                 said(QString::fromStdString("asked again after " + a.key)));
                    }
                }
            } else if (first == "gives" || first == "withholds") {
                for (const QString& key : rest.split(','))
                    QVERIFY2((kinds::figure(f, key.toStdString()) != nullptr) == (first == "gives"),
                             said(expected).constData());
            } else if (first == "not") {
                QVERIFY2(!kinds::answers(f, rest.section(' ', 1).toStdString()), said(expected).constData());
            } else if (first == "claim") {
                const Working* w = kinds::figure(f, "against_claim");
                QVERIFY2(w && w->isText && !f.recharge->claimTested, said(expected).constData());
            } else if (first == "warns") {
                QVERIFY2(warned(f).contains(rest.section(' ', 1)) == rest.startsWith('~'), said(expected).constData());
            } else if (first == "~" || first == "!~") {
                QVERIFY2(sentence.contains(rest) == (first == "~"), said(expected).constData());
            } else if (first == "device") {
                const QString device = shown(f.ends.deviceBegan) + " to " + shown(f.ends.deviceEnded);
                QVERIFY2("= " + device == rest, said(expected + " but " + device).constData());
            } else if (first == "display" || first == "share") {
                const Working* w = kinds::figure(f, first == "share" ? "transfer" : "against_display");
                QVERIFY2(w && std::fabs(w->value.value() * 100.0 - rest.toDouble()) < 1.0, said(expected).constData());
            } else if (first == "estimate") {
                const Working* w = kinds::figure(f, "projected_wh");
                QVERIFY2(w && std::fabs(w->value.value() / rest.toDouble() - 1.0) < 0.02,
                         said(expected + (w ? ": " + QString::number(w->value.value()) : QString())));
                QVERIFY2(w->value.u() > 0.0, said("an estimate without a doubt").constData());
            } else {
                QFAIL(qPrintable("not understood: " + expected));
            }
        }
        // Settled without neighbours it is what it was; nothing is lost by settling.
        QCOMPARE(kinds::settled(f).sentence, alone->sentence);
        QCOMPARE(kinds::settled(f).figures.size(), alone->figures.size());
        // A sentence is whole.
        QVERIFY2(sentence.endsWith('.') && !sentence.contains(",,") && !sentence.contains(", ."),
                 said("sentence").constData());
    }

    void states_and_endings_are_read_as_they_are_typed_data() {
        QTest::addColumn<QString>("typed");
        QTest::addColumn<QString>("began");
        QTest::addColumn<QString>("ended");
        const auto row = [](const char* typed, const char* began, const char* ended) {
            QTest::newRow(typed) << typed << began << ended;
        };
        row("full", "full", "full");
        row("empty", "empty", "empty");
        row("92", "92 %", "92 %");
        row("92,5 %", "92.5 %", "92.5 %");
        row("at 45 %", "45 %", "45 %");
        row("25-50", "25 to 50 %", "25 to 50 %");
        row("2 of 4", "25 to 50 %", "25 to 50 %");
        row("unknown", "unknown", "unknown");
        row("Cut-off", "", "cut-off");
        row("device_full", "", "device full");
        row("device full, 2 of 4", "", "device full at 25 to 50 %");
        row("unplugged at 45 %", "", "unplugged at 45 %");
        row("heat 40", "", "heat at 40 %");
        row("charger error", "", "charger error");
        row("120", "", "");
        row("-3", "", "");
        row("half", "", "");
        row("5 of 4", "", "");
        row("", "", "");
        row("nan", "", "");
    }
    void states_and_endings_are_read_as_they_are_typed() {
        QFETCH(QString, typed);
        QFETCH(QString, began);
        QFETCH(QString, ended);
        const auto b = records::parseBegan(typed.toStdString(), "--began");
        QCOMPARE(b ? QString::fromStdString(records::typedBegan({*b, {}, {}, {}, {}})) : QString(), began);
        records::StatedEnds ends;
        const auto e = records::parseEnded(typed.toStdString(), "--ended", ends);
        QCOMPARE(e ? QString::fromStdString(records::typedEnded(ends)) : QString(), ended);
        if (!e && !typed.isEmpty())
            QVERIFY(!e.error().mend.empty());
    }

    // What is typed again is what was said.
    void said_again_it_is_the_same() {
        for (const char* text : {"full", "empty", "92 %", "25 to 50 %", "unknown"}) {
            const auto once = records::parseBegan(text, "began");
            QVERIFY(once.has_value());
            QCOMPARE(records::typedBegan({*once, {}, {}, {}, {}}), std::string(text));
        }
        for (const records::EndingName& n : records::kEndings) {
            records::StatedEnds ends, again;
            QVERIFY(records::parseEnded(n.key, "ended", ends).has_value());
            QVERIFY(records::parseEnded(records::typedEnded(ends), "ended", again).has_value());
            QVERIFY(ends == again);
        }
    }

    // Every figure that needs something is told with a reason when it is withheld.
    void every_need_has_its_reason() {
        for (const kinds::FigureNeed& n : kinds::figureNeeds()) {
            Ends nothing;
            QVERIFY(!kinds::answers(n.kind, nothing, n.figure));
            QVERIFY(!kinds::whyNot(n.kind, nothing, n.figure).empty());
            Ends all;
            const bool drain = n.kind == Kind::Drain;
            all.began =
                kinds::KnownState{drain ? records::State::full() : records::State::empty(), kinds::StateFrom::Stated};
            all.ended =
                kinds::KnownState{drain ? records::State::empty() : records::State::full(), kinds::StateFrom::Trace};
            QVERIFY(kinds::answers(n.kind, all, n.figure));
            QVERIFY(kinds::whyNot(n.kind, all, n.figure).empty());
        }
    }
};

QTEST_APPLESS_MAIN(EndsTest)
#include "ends_test.moc"
