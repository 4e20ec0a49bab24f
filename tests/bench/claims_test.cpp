// What a run has to itself, and the files in which a bench is set up.
#include <QDir>
#include <QFile>
#include <QTemporaryDir>
#include <QTest>

#include "bench/profiles/setup_file.h"
#include "bench/runner/claims.h"

using namespace otterstone;

namespace {

bench::Instrument at(const char* address, bool serial = false) {
    bench::Profile p;
    p.by = serial ? bench::Profile::By::Serial : bench::Profile::By::Tcp;
    p.tcpPort = 5025;
    return {p, {QString::fromLatin1(address)}};
}

bench::Plan plan(records::Id bank, const std::map<bench::Role, bench::Instrument>& instruments,
                 std::optional<records::Id> meter = {}) {
    bench::Plan p;
    p.run.bank = bank;
    p.run.meter = meter;
    p.instruments = instruments;
    return p;
}

const char* words(const std::optional<bench::Clash>& clash) {
    return !clash                                    ? "may be made"
           : clash->what == bench::Clash::What::Bank ? "the bank"
           : clash->what == bench::Clash::What::Gear ? "the piece"
                                                     : "the place";
}

} // namespace

class ClaimsTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void a_second_run_may_be_made_beside_the_first_data() {
        QTest::addColumn<QString>("first"); // where its load is
        QTest::addColumn<QString>("second");
        QTest::addColumn<int>("banks");      // 1: both the same
        QTest::addColumn<int>("meters");     // pieces of the drawer; 0: none named
        QTest::addColumn<bool>("rehearsed"); // the first
        QTest::addColumn<QString>("stands");
        QTest::newRow("other loads, other banks") << "10.0.0.5:5025"
                                                  << "10.0.0.6:5025" << 2 << 0 << false << "may be made";
        QTest::newRow("two channels of one load") << "10.0.0.5:5025"
                                                  << "10.0.0.5:5026" << 2 << 0 << false << "may be made";
        QTest::newRow("one load") << "10.0.0.5:5025"
                                  << "10.0.0.5:5025" << 2 << 0 << false << "the place";
        QTest::newRow("one load, its port not said") << "10.0.0.5"
                                                     << "10.0.0.5:5025" << 2 << 0 << false << "the place";
        QTest::newRow("one load, with blanks") << "10.0.0.5:5025"
                                               << " 10.0.0.5:5025 " << 2 << 0 << false << "the place";
        QTest::newRow("this computer by name") << "localhost:7000"
                                               << "127.0.0.1:7000" << 2 << 0 << false << "the place";
        QTest::newRow("one bank") << "10.0.0.5:5025"
                                  << "10.0.0.6:5025" << 1 << 0 << false << "the bank";
        QTest::newRow("one meter of the drawer") << "10.0.0.5:5025"
                                                 << "10.0.0.6:5025" << 2 << 1 << false << "the piece";
        QTest::newRow("two meters of the drawer") << "10.0.0.5:5025"
                                                  << "10.0.0.6:5025" << 2 << 2 << false << "may be made";
        QTest::newRow("beside a rehearsal") << "10.0.0.5:5025"
                                            << "10.0.0.5:5025" << 1 << 1 << true << "may be made";
    }
    void a_second_run_may_be_made_beside_the_first() {
        QFETCH(QString, first);
        QFETCH(QString, second);
        QFETCH(int, banks);
        QFETCH(int, meters);
        QFETCH(bool, rehearsed);
        QFETCH(QString, stands);
        const auto meter = [&](records::Id id) { return meters == 0 ? std::nullopt : std::optional<records::Id>(id); };
        bench::Plan one = plan(1, {{"load", at(first.toLatin1())}}, meter(11));
        if (rehearsed)
            one.rehearsal = bench::Rehearsal{};
        const bench::Plan two = plan(banks, {{"load", at(second.toLatin1())}}, meter(10 + meters));
        QCOMPARE(QString(words(bench::clashOf(bench::claimOf(two), bench::claimOf(one)))), stands);
        QCOMPARE(QString(words(bench::clashOf(bench::claimOf(one), bench::claimOf(two)))), stands);
    }
    void a_serial_port_is_one_by_whatever_name() {
        QTemporaryDir folder;
        QFile port(folder.filePath("ttyX"));
        QVERIFY(port.open(QIODevice::WriteOnly));
        QVERIFY(QFile::link(port.fileName(), folder.filePath("by-name")));
        QCOMPARE(bench::placeOf(at(folder.filePath("by-name").toLatin1(), true)),
                 bench::placeOf(at(port.fileName().toLatin1(), true)));
        const QString here = QDir::currentPath();
        QVERIFY(QDir::setCurrent(folder.path()));
        QCOMPARE(bench::placeOf(at("./by-name", true)), bench::placeOf(at(port.fileName().toLatin1(), true)));
        QVERIFY(QDir(folder.path()).mkdir("bench"));
        QCOMPARE(bench::placeOf(at("bench/meter", true)), (folder.path() + "/bench/meter").toStdString());
        QVERIFY(QDir::setCurrent(here));
        QCOMPARE(bench::placeOf(at("ttyNone7", true)), bench::placeOf(at("/dev/ttyNone7", true)));
    }

    void a_set_up_is_read_or_refused_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("told"); // part of the message; empty: it is read
        const QString head = R"({"format": "otterstone-setup", "version": 1, "key": "left", "name": "Left bench")";
        QTest::newRow("empty bench") << head + "}"
                                     << "";
        QTest::newRow("a meter and a cable")
            << head +
                   R"(, "instruments": {"meter": {"profile": "printing-meter", "address": "/dev/ttyUSB0", "piece": "Grey meter"}}, "also": ["Blue 1 m"]})"
            << "";
        QTest::newRow("a role that is none")
            << head + R"(, "instruments": {"metre": {"profile": "p", "address": "a"}}})"
            << "Roles are meter";
        QTest::newRow("no address") << head + R"(, "instruments": {"meter": {"profile": "p"}}})"
                                    << "address";
        QTest::newRow("a slip of the pen") << head + R"(, "instrument": {}})"
                                           << "instrument";
        QTest::newRow("pieces that are no list") << head + R"(, "also": "Blue 1 m"})"
                                                 << "also";
        QTest::newRow("another file") << R"({"format": "otterstone-recipe", "version": 1})"
                                      << "otterstone-setup";
        QTest::newRow("no JSON") << "left bench"
                                 << "setup.json";
    }
    void a_set_up_is_read_or_refused() {
        QFETCH(QString, text);
        QFETCH(QString, told);
        const auto setup = bench::setupFromJson(text.toStdString(), "setup.json");
        QCOMPARE(setup.has_value(), told.isEmpty());
        if (!setup) {
            QVERIFY2(QString::fromStdString(setup.error().sentence()).contains(told), setup.error().sentence().c_str());
            return;
        }
        QVERIFY(bench::setupFromJson(bench::toJson(*setup), "again") == *setup);
    }
    void its_pieces_are_named_with_the_meter_first() {
        bench::SetupFile setup{
            "left",
            "Left",
            {{"load", {"l", "a", "Load 2"}}, {"meter", {"m", "b", "Grey meter"}}, {"trigger", {"t", "c", ""}}},
            {"Blue 1 m"}};
        QVERIFY(setup.pieces() == std::vector<std::string>({"Grey meter", "Load 2", "Blue 1 m"}));
        QCOMPARE(bench::keyOf("  Left bench, 2nd! "), std::string("left-bench-2nd"));
        QCOMPARE(bench::keyOf("–"), std::string());
    }
};

QTEST_GUILESS_MAIN(ClaimsTest)
#include "claims_test.moc"
