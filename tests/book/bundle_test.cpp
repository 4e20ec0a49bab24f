// Book → bundle → book gives the same findings; a bundle that is not right leaves nothing behind. The demo against its
// truth.
#include <QTest>

#include <QFile>
#include <QProcess>
#include <QTemporaryDir>

#include <set>

#include <nlohmann/json.hpp>

#include "book/demo/demo.h"
#include "book/exchange/bundle.h"
#include "core/kinds/catalogue.h"
#include "core/kinds/traced/json.h"

using namespace otterstone;
using book::Book;

namespace {

QStringList sayings(Book& book) {
    QStringList all;
    for (const records::Bank& bank : book.banks()) {
        for (const records::Run& run : book.runs(bank.id)) {
            const auto finding = book.finding(run.id);
            all << QString::fromStdString(bank.name + kinds::toContract(*finding).dump());
            for (const Working& w : finding->figures)
                all << QString::fromStdString(kinds::asText(w));
        }
    }
    return all;
}

void replaceIn(const QString& path, const QByteArray& what, const QByteArray& with) {
    QFile file(path);
    QVERIFY(file.open(QIODevice::ReadOnly));
    QByteArray text = file.readAll();
    file.close();
    QVERIFY(text.contains(what));
    QVERIFY(file.open(QIODevice::WriteOnly | QIODevice::Truncate));
    file.write(text.replace(text.indexOf(what), what.size(), with));
}

} // namespace

class BundleTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void initTestCase() {
        auto made = book::makeDemo(in("demo.otterstone"));
        QVERIFY(made.has_value());
        before_ = sayings(**made);
        QVERIFY(book::exportBundle(**made, in("bundle")).has_value());
    }

    void the_way_there_and_back_changes_no_digit_data() {
        QTest::addColumn<QString>("source");
        QTest::newRow("folder") << "bundle";
        QTest::newRow("zip of the folder") << "outer.zip";
        QTest::newRow("zip of its content") << "inner.zip";
    }
    void the_way_there_and_back_changes_no_digit() {
        QFETCH(QString, source);
        const auto zip = [&](const QString& folder, const QStringList& arguments) {
            QProcess p;
            p.setWorkingDirectory(folder);
            p.start("zip", arguments);
            QVERIFY(p.waitForFinished(60'000) && p.exitCode() == 0);
        };
        if (source == "outer.zip")
            zip(folder_.path(), {"-qr", in(source), "bundle"});
        else if (source == "inner.zip")
            zip(in("bundle"), {"-qr", in(source), "."});
        auto again = book::importBundle(in(source), in("back-" + source + ".otterstone"));
        QVERIFY2(again.has_value(), again ? "" : again.error().sentence().c_str());
        QCOMPARE(sayings(**again), before_);
    }
    void a_wrong_bundle_is_refused_and_leaves_nothing_data() {
        QTest::addColumn<QString>("file");
        QTest::addColumn<QByteArray>("what");
        QTest::addColumn<QByteArray>("with");
        QTest::addColumn<QString>("says");
        const QString book = QStringLiteral("book.json");
        QTest::newRow("newer") << book << QByteArray("\"version\": 1") << QByteArray("\"version\": 9")
                               << "newer Otterstone";
        QTest::newRow("broken JSON") << book << QByteArray("{") << QByteArray("[") << "book.json";
        QTest::newRow("foreign JSON") << book << QByteArray("otterstone-bundle") << QByteArray("other")
                                      << "not that of a bundle";
        QTest::newRow("bank missing") << book << QByteArray("\"bank\": 1") << QByteArray("\"bank\": 99")
                                      << "its bank is not in the bundle";
        QTest::newRow("unknown kind") << book << QByteArray("\"kind\": \"recharge\",\n   \"log_name\"")
                                      << QByteArray("\"kind\": \"guess\",\n   \"log_name\"") << "book.json";
        QTest::newRow("trace outside") << book << QByteArray("traces/1-meter.csv") << QByteArray("traces/../../x.csv")
                                       << "not inside traces/";
        QTest::newRow("trace missing") << book << QByteArray("traces/1-meter.csv") << QByteArray("traces/77-meter.csv")
                                       << "the trace is missing";
        QTest::newRow("gear missing") << book << QByteArray("\"meter\": 7") << QByteArray("\"meter\": 99")
                                      << "a piece of its gear is not in the bundle";
        QTest::newRow("poured into nobody")
            << book << QByteArray("\"target\": {\n    \"bank\": 2") << QByteArray("\"target\": {\n    \"bank\": 98")
            << "the bank it was poured into is not in the bundle";
        QTest::newRow("a further trace is not listed")
            << book << QByteArray("\"also\": []") << QByteArray("\"also\": [{\"point\": \"wall\"}]")
            << "its traces are not all listed";
        QTest::newRow("line of a trace") << QStringLiteral("traces/2-meter.csv") << QByteArray("\r\n2,")
                                         << QByteArray("\r\ntwo,") << "traces/2-meter.csv, line";
    }
    void a_wrong_bundle_is_refused_and_leaves_nothing() {
        QFETCH(QString, file);
        QFETCH(QByteArray, what);
        QFETCH(QByteArray, with);
        QFETCH(QString, says);
        QTemporaryDir wrong;
        QProcess copy;
        copy.start("cp", {"-r", in("bundle"), wrong.path()});
        QVERIFY(copy.waitForFinished());
        const QString bundle = wrong.filePath("bundle");
        replaceIn(bundle + "/" + file, what, with);
        const QString target = wrong.filePath("new.otterstone");
        const auto book = book::importBundle(bundle, target);
        QVERIFY(!book.has_value());
        QVERIFY2(QString::fromStdString(book.error().sentence()).contains(says), book.error().sentence().c_str());
        QCOMPARE(QDir(wrong.path()).entryList(QDir::Files | QDir::NoDotAndDotDot), QStringList());
    }
    void a_zip_that_points_outside_is_refused() {
        QFile evil(folder_.filePath("evil.zip"));
        QProcess p;
        p.setWorkingDirectory(in("bundle"));
        p.start("/usr/bin/python3", {"-c", "import zipfile; zipfile.ZipFile('" + evil.fileName() +
                                               "', 'w').writestr('../../evil.txt', 'x')"});
        QVERIFY(p.waitForFinished() && p.exitCode() == 0);
        const auto book = book::importBundle(evil.fileName(), in("evil.otterstone"));
        QVERIFY(!book.has_value());
        QVERIFY(book.error().text.find("points outside") != std::string::npos);
    }
    void nothing_is_written_over() {
        QVERIFY(!book::importBundle(in("bundle"), in("demo.otterstone")).has_value());
        auto made = Book::open(in("demo.otterstone"));
        QCOMPARE(book::exportBundle(**made, in("bundle")).error().code, std::string("folder_not_empty"));
    }

    void the_demos_findings_hold_its_truth() {
        const std::vector<records::Gear> gear = book::demoGear();
        std::set<std::string> banks;
        int held = 0;
        int all = 0;
        for (const book::DemoRun& d : book::simulateDemo()) {
            banks.insert(d.bank.name);
            setup::Setup s;
            s.meter = d.reading.meter;
            s.pathOhms = Measured(d.reading.pathOhms);
            s.marks = d.run.marks;
            const auto f = d.run.sheet ? Result<kinds::Finding>(kinds::findingOf(*d.run.sheet, {}, {}, s))
                                       : kinds::analyse(d.simulated.trace, d.run.kind, s);
            QVERIFY(f.has_value());
            // Truth counts until the end of charge, the finding to the end of the log.
            double truth = d.simulated.truth.portWattHours;
            double found = f->portWattHours.value();
            if (d.run.kind == records::Kind::Recharge) {
                QCOMPARE(f->recharge->endOfCharge.has_value(), d.simulated.truth.full);
                for (const auto& phase : f->phases)
                    found -= phase.kind == trace::PhaseKind::Idle ? phase.wattHours : 0.0;
            } else {
                QCOMPARE(f->drain->endedBy, d.simulated.truth.stoppedByHeat ? trace::EndedBy::Heat
                                            : d.run.device                  ? trace::EndedBy::User
                                                                            : trace::EndedBy::CutOff);
            }
            // What it was is the simulated bank's to say.
            const auto within = [](const std::optional<kinds::KnownState>& said, double truly) {
                return !said || said->from == kinds::StateFrom::Taken ||
                       (100.0 * truly >= said->state.low - 6.0 && 100.0 * truly <= said->state.high + 6.0);
            };
            QVERIFY2(within(f->ends.began, d.simulated.truth.beganAt), f->sentence.c_str());
            QVERIFY2(within(f->ends.ended, d.simulated.truth.endedAt) || f->ends.ending == records::Ending::CutOff,
                     f->sentence.c_str());
            ++all;
            held += std::abs(found - truth) <= f->portWattHours.expanded() * 1.02 + 0.02;
        }
        QCOMPARE(all, 39);
        QVERIFY(banks.size() >= 5);
        QVERIFY2(held >= 36, qPrintable(QString::number(held)));
    }

private:
    [[nodiscard]] QString in(const QString& name) const { return folder_.filePath(name); }
    QTemporaryDir folder_;
    QStringList before_;
};

QTEST_GUILESS_MAIN(BundleTest)
#include "bundle_test.moc"
