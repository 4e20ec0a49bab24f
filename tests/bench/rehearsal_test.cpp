// The window's own stand-in: it starts, says where its instruments are, and leaves without keeping anybody waiting.
#include <QTest>

#include <csignal>

#include <QFile>
#include <QProcess>
#include <QSignalSpy>
#include <QTcpSocket>
#include <QTemporaryDir>

#include "bench/runner/rehearsal.h"
#include "book/demo/demo.h"
#include "where.h"

using namespace otterstone;
using bench::StandIn;

namespace {

StandIn::Scene sceneOf(const char* bank) {
    StandIn::Scene scene;
    scene.bank = book::demoTruth(bank).value();
    scene.speed = 100.0;
    return scene;
}

bool answers(const QString& address) {
    QTcpSocket socket;
    const auto parts = address.split(QLatin1Char(':'));
    socket.connectToHost(parts[0], static_cast<quint16>(parts[1].toInt()));
    return socket.waitForConnected(500);
}

bool isAlive(qint64 pid) { return ::kill(static_cast<pid_t>(pid), 0) == 0; }

} // namespace

class RehearsalTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void init() { qputenv("OTTERSTONE_STANDIN", where::standin().toLocal8Bit()); }

    void every_instrument_of_the_bench_is_there() {
        StandIn standIn;
        QSignalSpy ready(&standIn, &StandIn::ready);
        standIn.start(sceneOf("Pebble 5"));
        QVERIFY(ready.wait(20000));
        for (const char* role :
             {"meter", "input meter", "load", "second load", "trigger", "second trigger", "thermometer"}) {
            const auto at = standIn.instruments().find(role);
            QVERIFY2(at != standIn.instruments().end(), role);
            const QString address = at->second.address.text;
            QVERIFY2(address.startsWith(QLatin1Char('/')) ? QFile::exists(address) : answers(address),
                     qPrintable(address));
        }
        QVERIFY(answers(standIn.rehearsal().controlAddress));
        QCOMPARE(standIn.rehearsal().speed, 100.0);
    }

    void the_next_one_starts_while_the_last_is_leaving() {
        StandIn standIn;
        QSignalSpy ready(&standIn, &StandIn::ready);
        QSignalSpy failed(&standIn, &StandIn::failed);
        QStringList controls, meters;
        QList<qint64> pids;
        for (int k = 0; k < 3; ++k) {
            standIn.start(sceneOf(k == 1 ? "Cobble 10" : "Pebble 5"));
            QVERIFY(ready.wait(20000));
            controls << standIn.rehearsal().controlAddress;
            meters << standIn.instruments().at("meter").address.text;
            for (const QProcess* p : standIn.findChildren<QProcess*>()) {
                if (!pids.contains(p->processId()) && p->processId() > 0)
                    pids << p->processId();
            }
            if (k < 2)
                standIn.stop();
        }
        QCOMPARE(pids.size(), 3);
        QVERIFY(meters[0] != meters[1] &&
                meters[1] != meters[2]); // the one that leaves takes its own names along, no other's
        QTRY_VERIFY(!isAlive(pids[0]) && !isAlive(pids[1]));
        QTRY_COMPARE(standIn.findChildren<QProcess*>().size(), 1);
        QVERIFY(isAlive(pids[2]));
        QVERIFY(QFile::exists(meters[2]));
        QVERIFY(answers(controls[2]));
        QCOMPARE(failed.count(), 0); // who is told to leave has not failed
    }

    void one_that_does_not_listen_is_killed() {
        QTemporaryDir folder;
        QFile deaf(folder.filePath(QStringLiteral("deaf")));
        QVERIFY(deaf.open(QIODevice::WriteOnly));
        deaf.write("#!/bin/sh\ntrap '' TERM\ntouch \"$0.ready\"\nexec sleep 600\n");
        deaf.setPermissions(QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner);
        deaf.close();
        qputenv("OTTERSTONE_STANDIN", deaf.fileName().toUtf8());
        StandIn standIn;
        standIn.start(sceneOf("Pebble 5"));
        QProcess* process = standIn.findChildren<QProcess*>().front();
        QTRY_VERIFY(QFile::exists(deaf.fileName() + QStringLiteral(".ready"))); // it listens no more
        const qint64 pid = process->processId();
        standIn.stop();
        QVERIFY(isAlive(pid)); // nobody waited for it
        QTRY_VERIFY_WITH_TIMEOUT(!isAlive(pid), 20000);
    }

    void none_is_left_behind_when_the_window_goes() {
        qint64 pid = 0;
        {
            StandIn standIn;
            QSignalSpy ready(&standIn, &StandIn::ready);
            standIn.start(sceneOf("Pebble 5"));
            QVERIFY(ready.wait(20000));
            pid = standIn.findChildren<QProcess*>().front()->processId();
        }
        QVERIFY(!isAlive(pid));
    }

    void one_that_dies_or_is_not_there_is_told_data() {
        QTest::addColumn<QByteArray>("program");
        QTest::addColumn<QString>("words");
        QTest::newRow("not there") << QByteArray("/nowhere/otterstone-standin") << QStringLiteral("install it again");
        QTest::newRow("dies at once") << QByteArray("/bin/false") << QStringLiteral("The stand-in ended");
    }
    void one_that_dies_or_is_not_there_is_told() {
        QFETCH(QByteArray, program);
        QFETCH(QString, words);
        qputenv("OTTERSTONE_STANDIN", program);
        StandIn standIn;
        QSignalSpy failed(&standIn, &StandIn::failed);
        standIn.start(sceneOf("Pebble 5"));
        QTRY_COMPARE(failed.count(), 1);
        QVERIFY2(failed.front().front().toString().contains(words), qPrintable(failed.front().front().toString()));
        // It can be tried again.
        qputenv("OTTERSTONE_STANDIN", where::standin().toLocal8Bit());
        QSignalSpy ready(&standIn, &StandIn::ready);
        standIn.start(sceneOf("Pebble 5"));
        QVERIFY(ready.wait(20000));
    }
};

QTEST_GUILESS_MAIN(RehearsalTest)
#include "rehearsal_test.moc"
