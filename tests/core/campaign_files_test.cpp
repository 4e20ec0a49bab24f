// Hours as people write them, and a plan as other programs read it.
#include <QTest>

#include "core/plan/campaign/files.h"
#include "core/plan/campaign/week.h"
#include "core/plan/campaign/work.h"
#include "core/quantity/date.h"

using namespace otterstone;
using namespace otterstone::plan::campaign;

class CampaignFilesTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void hours_as_people_write_them_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("from");
        QTest::addColumn<double>("days");
        QTest::addColumn<QString>("there"); // "from-to people" in hours from the beginning
        const auto row = [](const char* name, const char* text, const char* from, double days, const char* there) {
            QTest::newRow(name) << text << from << days << there;
        };
        // 2026-11-28 is a Saturday.
        row("a working week", "mon-fri 9-17; sat 10:30-14 2 people", "2026-11-28T12:00:00", 4.0,
            "0-2 2; 45-53 1; 69-77 1; 93-96 1");
        row("each day", "daily 8-22", "2026-11-28T07:00:00", 2.0, "1-15 1; 25-39 1");
        row("over the week's end", "Sat-Mon 0-24", "2026-11-27T00:00:00", 5.0, "24-48 1; 48-72 1; 72-96 1");
        row("two shifts", "wednesday 6-10 3; wed 14-18", "2026-12-02T00:00:00", 1.0, "6-10 3; 14-18 1");
        row("a leap year's day", "thu 9-10", "2024-02-29T00:00:00", 1.0, "9-10 1");
        row("before 1970", "wed 9-10", "1969-12-31T00:00:00", 1.0, "9-10 1");
    }
    void hours_as_people_write_them() {
        QFETCH(QString, text);
        QFETCH(QString, from);
        QFETCH(double, days);
        QFETCH(QString, there);
        const auto week = parseWeek(text.toStdString(), "hours");
        QVERIFY2(week.has_value(), week ? "" : week.error().sentence().c_str());
        QStringList got;
        for (const Presence& p : presenceOf(*week, *secondsOf(from.toStdString()), days * kDay))
            got << QString("%1-%2 %3").arg(p.span.from / 3600.0).arg(p.span.to / 3600.0).arg(p.people);
        QCOMPARE(got.join("; "), there);
    }
    void no_hours_data() {
        QTest::addColumn<QString>("text");
        for (const char* text :
             {"", "mon", "9-17", "mon 17-9", "mon 9-25", "moon-fry 9-17", "mon 9:75-10", "mon 9-17 many", "mon 9-17 0",
              "mon-fri 9-17; fri 16-18", "mon 9 17", "mon 9-17 2 cats"})
            QTest::newRow(text) << text;
    }
    void no_hours() {
        QFETCH(QString, text);
        const auto week = parseWeek(text.toStdString(), "--hours");
        QVERIFY(!week);
        QVERIFY(week.error().sentence().find("--hours") != std::string::npos);
        QVERIFY(week.error().sentence().find("mon-fri 9-17") != std::string::npos);
    }

    void a_table_and_a_calendar() {
        plan::campaign::Problem p;
        p.pieces = {{"Load; the \"big\" one, grey", "load", 1}};
        p.banks = {{"Pebble 5", State::full()}};
        Job j;
        j.id = "Pebble 5: Drain, gentle-drain, with a name so long that no line of a calendar could hold it — ÄÖÜ";
        j.seconds = 7200.0;
        j.needs = {{"load", {0}}};
        j.bank = 0;
        j.begin = State::full();
        j.end = State::empty();
        j.hands = {{0.0, 300.0, "plug in, start"}, {-180.0, 180.0, "take off"}};
        p.jobs = {j};
        Schedule s;
        s.placed = {{0, 3600.0, 10800.0, {0}, {0}, {0, 0}, State::full(), State::empty()}};
        const double begins = *secondsOf("2026-12-31T22:30:00");
        QCOMPARE(QString::fromStdString(csvOf(p, s, begins)),
                 QString("job,bank,kind,starts,ends,begin_state,end_state,gear,value,why\n"
                         "\"%1\",Pebble 5,,2026-12-31T23:30:00,2027-01-01T01:30:00,full,empty,"
                         "\"Load; the \"\"big\"\" one, grey\",1,when somebody has a hand free\n")
                     .arg(QString::fromStdString(j.id)));
        const QByteArray ics = QByteArray::fromStdString(calendarOf(p, s, {"bank1-drain"}, begins, 0.0));
        for (const QByteArray& line : ics.split('\n')) {
            QVERIFY(line.isEmpty() || line.endsWith('\r'));
            QVERIFY2(line.size() <= 76, line.constData()); // 75 and the return
        }
        QByteArray whole = ics;
        whole.replace("\r\n ", "");
        QVERIFY(QString::fromUtf8(whole).isValidUtf16() && whole.contains("— ÄÖÜ: plug in\\, start\r\n"));
        for (const char* line :
             {"UID:bank1-drain-1-0@otterstone", "UID:bank1-drain-1-1@otterstone", "DTSTART:20261231T233000",
              "DTEND:20261231T233500", "DTSTART:20270101T012700", "DTEND:20270101T013000", "DTSTAMP:19700101T000000Z",
              "DESCRIPTION:Load\\; the \"big\" one\\, grey", "TRIGGER:-PT10M"})
            QVERIFY2(whole.contains(QByteArray(line) + "\r\n"), line);
    }

    void each_kind_has_its_work() {
        for (const records::KindName& k : records::kKinds) {
            QCOMPARE(workOf(k.kind).kind, k.kind);
            QVERIFY(workOf(k.kind).minutes > 0.0);
        }
    }
};

QTEST_APPLESS_MAIN(CampaignFilesTest)
#include "campaign_files_test.moc"
