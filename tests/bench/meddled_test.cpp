// What flows is what this run asked for: by a bench that is not the shipped one. Somebody else turns a knob, a load
// lies, or talks without a pause; a port gives what nobody asked for. Within seconds the load is off, or is said to be
// on.
#include "bench/runner/house.h"
#include "trial.h"

using namespace otterstone;
using namespace otterstone::testing;

namespace {

bench::Step rest(double seconds) {
    bench::Step s;
    s.what = bench::Step::Do::Rest;
    s.seconds = seconds;
    return s;
}

QByteArray said(const Trial& t) { return QByteArray::fromStdString(t.outcome.stop.why); }

} // namespace

class MeddledTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void somebody_else_at_the_load_data() {
        QTest::addColumn<double>("amps");  // that the load draws from then on
        QTest::addColumn<bool>("metered"); // by a meter beside the load
        QTest::addColumn<bool>("stops");
        QTest::newRow("1 A raised to 8 A") << 8.0 << true << true;
        QTest::newRow("raised to 8 A, no meter but the load's own") << 8.0 << false << true;
        QTest::newRow("raised to 1.5 A") << 1.5 << true << true;
        QTest::newRow("1.05 A: a load's own error") << 1.05 << true << false;
    }
    void somebody_else_at_the_load() {
        QFETCH(double, amps);
        QFETCH(bool, metered);
        QFETCH(bool, stops);
        Trial t(true, [&](bench::Plan& p) {
            if (!metered)
                p.instruments.erase("meter");
            p.limits.silentSeconds = 4.0;
        });
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
        QTest::qWait(2500);
        QVERIFY2(t.endedAt < 0, said(t));
        t.bench.amps = amps;
        t.hurtAt = t.bench.clock.elapsed();
        if (!stops) {
            QTest::qWait(7000);
            QVERIFY2(t.endedAt < 0 && t.bench.on, said(t));
            return;
        }
        QTRY_VERIFY_WITH_TIMEOUT(!t.bench.on, 7000);
        QVERIFY2(*t.safeAfter() <= 5000, qPrintable(QString::number(*t.safeAfter())));
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 15000);
        QVERIFY2(said(t).contains("were asked for"), said(t));
        QVERIFY(!bench::isOrderly(t.outcome.stop.kind));
    }
    // What flows may stay the same: a bank that gives no more hides what the load was set to.
    void a_load_that_was_set_to_more_says_so() {
        Trial t(true, [](bench::Plan& p) { p.instruments.at("load").profile.scpi["set.cc"] = "SOURce:CURRent?"; });
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
        QTest::qWait(4000);
        QVERIFY2(t.endedAt < 0, said(t));
        t.bench.setTo = 8.0;
        t.hurtAt = t.bench.clock.elapsed();
        QTRY_VERIFY_WITH_TIMEOUT(!t.bench.on, 6000);
        QVERIFY(*t.safeAfter() <= 4500);
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 15000);
        QVERIFY2(said(t).contains("says that it is set to 8"), said(t));
    }
    void somebody_switches_it_on_in_a_rest() {
        Trial t(true, [](bench::Plan& p) { p.recipe.steps.insert(p.recipe.steps.begin(), rest(60.0)); });
        QTRY_VERIFY_WITH_TIMEOUT(t.session.progress().run != 0, 15000);
        QTest::qWait(1500);
        QVERIFY(!t.bench.on);
        t.bench.amps = 1.0;
        t.hurtAt = t.bench.clock.elapsed();
        t.bench.on = true;
        QTRY_VERIFY_WITH_TIMEOUT(!t.bench.on, 5000);
        QVERIFY(*t.safeAfter() <= 3500);
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 15000);
        QVERIFY2(said(t).contains("did not switch it on"), said(t));
    }
    void somebody_switches_it_on_as_the_run_ends() {
        Trial t(true, [](bench::Plan& p) {
            p.recipe.closingSeconds = 6.0;
            p.recipe.steps.back().seconds = 3.0;
        });
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
        QTRY_VERIFY_WITH_TIMEOUT(!t.bench.on, 8000); // its time is over
        QTest::qWait(500);
        QVERIFY(t.endedAt < 0);
        t.bench.on = true;
        QTRY_VERIFY_WITH_TIMEOUT(!t.bench.on, 5000);
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 15000);
        QVERIFY(!t.bench.on && t.outcome.stillOn.empty());
        QVERIFY2(!bench::isOrderly(t.outcome.stop.kind) && said(t).contains("somebody else"), said(t));
    }
    // The meter decides: what it reads on is told, and the load with it.
    void a_load_that_lies_is_told_as_on() {
        Trial t;
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
        QTest::qWait(1500);
        t.bench.load.fail(Fault::Lies);
        t.hurtAt = t.bench.clock.elapsed();
        t.session.stop();
        QTRY_VERIFY_WITH_TIMEOUT(t.saidOnAt >= 0, 6000);
        QVERIFY(t.saidOnAt - t.hurtAt <= 4000);
        QTest::qWait(2500);
        QVERIFY(t.endedAt < 0 && !t.claimedFalsely);
        QVERIFY2(t.session.progress().stillOn.find("the meter on its path still reads 1") != std::string::npos,
                 t.session.progress().stillOn.c_str());
        t.bench.load.fail(Fault::None); // it obeys again: it is told all the time
        QTRY_VERIFY_WITH_TIMEOUT(!t.bench.on, 3000);
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 8000);
        QVERIFY2(t.outcome.stillOn.empty(), t.outcome.stillOn.c_str());
    }
    void what_would_show_a_lie_is_missing_and_said() {
        Trial t(true, [](bench::Plan& p) { p.instruments.erase("meter"); });
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
        t.session.stop();
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 15000);
        const auto marks = t.book.book->run(t.outcome.run)->marks;
        QVERIFY(std::any_of(marks.begin(), marks.end(),
                            [](const auto& m) { return m.text.find("no meter stands on") != std::string::npos; }));
    }
    void a_load_that_talks_without_a_pause_data() {
        QTest::addColumn<QByteArray>("words");
        QTest::newRow("an ampere") << QByteArray("1.0000");
        QTest::newRow("that it is off") << QByteArray("0");
        QTest::newRow("OFF") << QByteArray("OFF");
        QTest::newRow("nothing that is an answer") << QByteArray("#!");
    }
    void a_load_that_talks_without_a_pause() {
        QFETCH(QByteArray, words);
        Trial t(true, {}, [&](FakeBench& b) { b.flood = words.constData(); });
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
        QTest::qWait(1000);
        t.bench.load.fail(Fault::Floods);
        t.hurtAt = t.bench.clock.elapsed();
        t.session.stop();
        QTRY_VERIFY_WITH_TIMEOUT(t.saidOnAt >= 0, 6000);
        QVERIFY2(t.saidOnAt - t.hurtAt <= 3000 + kSlack, qPrintable(QString::number(t.saidOnAt - t.hurtAt)));
        QVERIFY(t.bench.on && t.endedAt < 0 && !t.claimedFalsely);
        t.bench.load.fail(Fault::None);
        QTRY_VERIFY_WITH_TIMEOUT(!t.bench.on, 6000);
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 15000);
    }
    void a_port_that_gives_what_nobody_asked_for_data() {
        QTest::addColumn<double>("volts");
        QTest::addColumn<bool>("asked");       // the recipe asks for 5 V first
        QTest::addColumn<double>("highShare"); // the recipe's own limit; 0: none
        QTest::addColumn<bool>("stops");
        QTest::newRow("30 V at a 5 V port") << 30.0 << false << 1.15 << true;
        QTest::newRow("30 V, after it was asked") << 30.0 << true << 1.15 << true;
        QTest::newRow("a meter that jumps to 8.5 V") << 8.5 << false << 0.0 << true;
        QTest::newRow("5.5 V is a port's own right") << 5.5 << false << 0.0 << false;
    }
    void a_port_that_gives_what_nobody_asked_for() {
        QFETCH(double, volts);
        QFETCH(bool, asked);
        QFETCH(double, highShare);
        QFETCH(bool, stops);
        Trial t(true, [&](bench::Plan& p) {
            p.recipe.highVolts = highShare > 0.0 ? std::optional(highShare) : std::nullopt;
            p.recipe.lowVolts.reset();
            if (asked) {
                bench::Step ask;
                ask.what = bench::Step::Do::Ask;
                ask.volts = 5.0;
                p.recipe.steps.insert(p.recipe.steps.begin(), ask);
            }
        });
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
        QTest::qWait(1000);
        t.bench.volts = volts;
        t.hurtAt = t.bench.clock.elapsed();
        if (!stops) {
            QTest::qWait(2500);
            QVERIFY2(t.endedAt < 0 && t.bench.on, said(t));
            return;
        }
        QTRY_VERIFY_WITH_TIMEOUT(!t.bench.on, 5000);
        QVERIFY2(*t.safeAfter() <= 1000 + kSlack, qPrintable(QString::number(*t.safeAfter())));
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 15000);
        QVERIFY2(t.outcome.stop.kind == bench::StopKind::VoltageWindow, said(t));
    }
    // Where nothing is asked for: what stands at the socket says what it is, as far as the label prints it.
    void what_stands_there_says_what_was_meant_data() {
        QTest::addColumn<QList<double>>("printed"); // volts of fixed tiers; a range as two with a minus before
        QTest::addColumn<double>("reads");
        QTest::addColumn<double>("meant");
        const auto row = [](const char* name, const QList<double>& printed, double reads, double meant) {
            QTest::newRow(name) << printed << reads << meant;
        };
        row("a port of 5 V", {5}, 5.1, 5);
        row("a vehicle's socket", {5, 12}, 12.4, 12);
        row("that socket, charged", {5, 12}, 14.4, 12);
        row("9 V, asked for by hand", {5, 9, 12}, 8.8, 9);
        row("30 V at a port of 5 V", {5}, 30, 5);
        row("30 V where 20 are the most", {5, 20}, 30, 5);
        row("nothing printed", {}, 5.2, 5);
        row("nothing printed, 12 V", {}, 12.3, 5);
        row("within a range", {5, -3.3, -21}, 8.5, 8.5);
        row("above a range", {5, -3.3, -11}, 11.5, 11);
    }
    void what_stands_there_says_what_was_meant() {
        QFETCH(QList<double>, printed);
        QFETCH(double, reads);
        QFETCH(double, meant);
        label::Port port;
        for (qsizetype k = 0; k < printed.size(); ++k) {
            const bool range = printed[k] < 0.0;
            port.tiers.push_back(
                {Volts(std::fabs(printed[k])), Volts(std::fabs(printed[range ? k + 1 : k])), Amps(2.0)});
            k += range ? 1 : 0;
        }
        label::Port takes = port; // what it takes says nothing of what it gives
        takes.direction = label::Direction::In;
        takes.tiers = {{Volts(30.0), Volts(30.0), Amps(2.0)}};
        label::Label label;
        label.ports = {port, takes};
        QCOMPARE(bench::meantVolts(label, reads), meant);
    }
    void a_socket_of_12_volts_is_drained_without_asking() {
        Trial t(
            true,
            [](bench::Plan& p) {
                p.label.ports.front().tiers.push_back({Volts(12.0), Volts(12.0), Amps(9.0)});
                p.recipe.highVolts = 1.15;
                p.recipe.lowVolts.reset();
            },
            [](FakeBench& b) { b.volts = 12.4; });
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
        QTest::qWait(4000);
        QVERIFY2(t.endedAt < 0 && t.bench.on, said(t));
        t.bench.volts = 14.2;
        QTRY_VERIFY_WITH_TIMEOUT(!t.bench.on, 3000);
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 15000);
        QVERIFY2(t.outcome.stop.kind == bench::StopKind::VoltageWindow, said(t));
    }
    void thirty_volts_from_the_beginning_are_not_begun_with() {
        Trial t(true, {}, [](FakeBench& b) { b.volts = 30.0; });
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 20000);
        QVERIFY2(!t.bench.on && t.outcome.stop.kind == bench::StopKind::VoltageWindow, said(t));
    }
    void a_thermometer_that_came_off_data() {
        QTest::addColumn<double>("from");
        QTest::addColumn<double>("to");
        QTest::newRow("falls from 41 to 25 °C at once") << 41.0 << 25.0;
        QTest::newRow("jumps from 25 to 36 °C") << 25.0 << 36.0;
    }
    void a_thermometer_that_came_off() {
        QFETCH(double, from);
        QFETCH(double, to);
        Trial t(true, {}, [&](FakeBench& b) {
            b.meterSaysHeat = false;
            b.celsius = from;
        });
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
        QTest::qWait(2500);
        t.bench.celsius = to;
        t.hurtAt = t.bench.clock.elapsed();
        QTRY_VERIFY_WITH_TIMEOUT(!t.bench.on, 6000);
        QVERIFY(*t.safeAfter() <= 4500);
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 15000);
        QVERIFY2(t.outcome.stop.kind == bench::StopKind::SensorLost && said(t).contains("came off"), said(t));
    }
    void an_address_is_checked_whole_data() {
        QTest::addColumn<QString>("address");
        QTest::addColumn<QString>("host"); // empty: none
        QTest::addColumn<int>("port");
        const auto row = [](const char* address, const char* host, int port) {
            QTest::newRow(address) << QString::fromUtf8(address) << QString::fromUtf8(host) << port;
        };
        row("127.0.0.1:5025", "127.0.0.1", 5025);
        row("bench", "bench", 5025);
        row("bench:1", "bench", 1);
        row("bench:65535", "bench", 65535);
        row("[fe80::1]:7", "fe80::1", 7);
        row("::1", "::1", 5025);
        for (const char* wrong : {"127.0.0.1:65536", "127.0.0.1:70561", "bench:0", "bench:-1", "bench:5e3", "bench:+7",
                                  "bench:7x", "bench:", ":5025", "", "a b:7", "a:b:7", "bench:99999999999999999999"})
            row(wrong, "", 0);
    }
    void an_address_is_checked_whole() {
        QFETCH(QString, address);
        QFETCH(QString, host);
        QFETCH(int, port);
        const auto to = bench::hostPort(address, 5025);
        QCOMPARE(to.has_value(), !host.isEmpty());
        const bench::Profile load = FakeBench::profile(bench::Kind::Load);
        QCOMPARE(bench::addressProblem(load, {address}, "--load").has_value(), host.isEmpty());
        if (to) {
            QCOMPARE(to->host, host);
            QCOMPARE(int(to->port), port);
        }
    }
};

QTEST_GUILESS_MAIN(MeddledTest)
#include "meddled_test.moc"
