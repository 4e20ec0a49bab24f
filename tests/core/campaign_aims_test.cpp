// From what a tester wants to know to jobs on gear that can do them, and what became of a plan that was agreed on: as
// a tester would tell it.
#include <QTest>

#include <QDateTime>

#include "core/judgement/compare.h"
#include "core/judgement/purpose.h"
#include "core/plan/campaign/day_sheet.h"
#include "core/plan/campaign/gear_fit.h"
#include "core/plan/campaign/lived.h"
#include "core/plan/campaign/search.h"
#include "core/plan/campaign/tide.h"
#include "core/plan/campaign/week.h"
#include "core/quantity/date.h"

using namespace otterstone;
using namespace otterstone::plan::campaign;
using records::GearKind;
using records::Kind;

namespace {

// A bank of 37 Wh: C both ways up to 9 V 2.22 A, A out 5 V 2.4 A.
evidence::Evidence untested() {
    evidence::Evidence e;
    e.bank = 3;
    e.name = "Cobble 10";
    e.label.capacity = AmpHours(10.0);
    e.label.cellVolts = Volts(3.7);
    e.label.energy = WattHours(37.0);
    label::Port c, a;
    c.name = "C";
    c.direction = label::Direction::Both;
    c.tiers = *label::parseTiers("5V 3A, 9V 2.22A", "C");
    a.name = "A";
    a.tiers = *label::parseTiers("5V 2.4A", "A");
    e.label.ports = {c, a};
    return e;
}

const Want* wantOf(const std::vector<Want>& wants, Kind kind, const std::string& recipe,
                   const std::string& variant = {}) {
    for (const Want& w : wants) {
        if (w.key.kind == kind && w.key.recipe == recipe && w.key.variant == variant)
            return &w;
    }
    return nullptr;
}

std::string iso(const QString& time) { return ("2026-09-07T" + time + ":00").toStdString(); }

} // namespace

class CampaignAimsTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void wishes_are_kept_whole() {
        Wishes w;
        w.from = iso("09:00");
        w.until = "2026-09-11T18:00:00";
        w.untilWhat = "the “boat”; \n";
        w.hours = "mon-fri 9-17; sat 10:30-14 2 people";
        w.unattended = Unattended::Stop;
        w.claims = false;
        w.purpose = "plane";
        w.loads = 5;
        w.repeats = 3;
        w.banks = {3, 8};
        w.pins = {{{3, Kind::Drain, "gentle-drain", ""}, iso("10:15")}};
        w.out = {{8, Kind::Survey, "port-survey", ""}};
        w.first = {{3, Kind::Recharge, "recharge-to-taper", ""}};
        w.ownDay = {{3, Kind::Staircase, "load-staircase", ""}};
        w.kept = {iso("08:00"),
                  {{{3, Kind::Drain, "", "12 W"}, "Cobble 10: drain", iso("09:00"), iso("12:00"), iso("08:30")}}};
        const auto again = wishesFromText(wishesToText(w), "here");
        QVERIFY2(again.has_value(), again ? "" : again.error().sentence().c_str());
        QVERIFY(*again == w);
        QVERIFY(*wishesFromText("", "here") == Wishes());
        // Into a book where bank 3 is bank 1, and bank 8 is not there.
        const Wishes moved = withBanks(w, {{3, 1}});
        QCOMPARE(moved.banks, std::vector<long long>{1});
        QCOMPARE(moved.pins.front().job.bank, 1);
        QVERIFY(moved.out.empty());
        QCOMPARE(moved.kept.jobs.front().job.bank, 1);
    }
    void damaged_wishes_are_told_data() {
        QTest::addColumn<QString>("instead");
        QTest::addColumn<QString>("of");
        QTest::addColumn<QString>("says");
        const auto row = [](const char* name, const char* of, const char* instead, const char* says) {
            QTest::newRow(name) << instead << of << says;
        };
        row("no JSON", "{", "[", "not JSON");
        row("a moment", "\"until\":\"\"", "\"until\":\"soon\"", "until");
        row("hours", "\"hours\":\"\"", "\"hours\":\"mon 25-26\"", "hours");
        row("alone", "\"never\"", "\"always\"", "unattended");
        row("a purpose", "\"purpose\":\"\"", "\"purpose\":\"fun\"", "purpose");
        row("too many loads", "\"loads\":0", "\"loads\":1e9", "loads");
        row("a bank", "\"banks\":[]", "\"banks\":[\"x\"]", "banks");
        row("a pin without a kind", "\"pins\":[]", "\"pins\":[{\"bank\":1,\"at\":\"2026-09-07\"}]", "pins[1].kind");
        row("a slip", "\"claims\"", "\"clams\"", "clams");
        row("a kept job", "\"jobs\":[]", "\"jobs\":[{\"bank\":1,\"kind\":\"drain\",\"from\":\"x\"}]",
            "kept.jobs[1].from");
        row("another format", "otterstone-campaign", "otterstone recipe", "otterstone-campaign");
        row("a newer one", "\"version\":1", "\"version\":2", "newer");
    }
    void damaged_wishes_are_told() {
        QFETCH(QString, instead);
        QFETCH(QString, of);
        QFETCH(QString, says);
        QString text = QString::fromStdString(wishesToText({}));
        QVERIFY(text.contains(of));
        text.replace(text.indexOf(of), of.size(), instead);
        const auto read = wishesFromText(text.toStdString(), "here");
        QVERIFY(!read);
        QVERIFY2(QString::fromStdString(read.error().sentence()).contains(says), read.error().sentence().c_str());
    }

    // The truth is Qt's calendar.
    void moments_as_people_write_them_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("is"); // empty: none
        const auto row = [](const char* text, const char* is) { QTest::newRow(text) << text << is; };
        // Now is Monday, 2026-09-07, 10:40.
        row("2026-09-11 18:00", "2026-09-11T18:00:00");
        row("2026-09-11T18:00:30", "2026-09-11T18:00:30");
        row("2026-09-11", "2026-09-11T00:00:00");
        row("18:00", "2026-09-07T18:00:00");
        row("9:30", "2026-09-08T09:30:00");
        row("tomorrow 9:00", "2026-09-08T09:00:00");
        row("today 23:59", "2026-09-07T23:59:00");
        row("Fri 18:00", "2026-09-11T18:00:00");
        row("monday 18:00", "2026-09-07T18:00:00");
        row("mon 9:00", "2026-09-14T09:00:00");
        row("sun", "2026-09-13T00:00:00");
        row("in 6 days 18:00", "2026-09-13T18:00:00");
        row("in 1 day", "2026-09-08T00:00:00");
        row("in 30 days 0:00", "2026-10-07T00:00:00");
        for (const char* none : {"", "soon", "fri 25:00", "in days", "in -1 days", "2026-02-30", "18", "fri sat 9:00",
                                 "in 99999 days", "tomorrow today"})
            row(none, "");
    }
    void moments_as_people_write_them() {
        QFETCH(QString, text);
        QFETCH(QString, is);
        const double now = *secondsOf("2026-09-07T10:40:00");
        const auto at = parseMoment(text.toStdString(), now, "until");
        QCOMPARE(at.has_value(), !is.isEmpty());
        if (!at)
            return;
        const QDateTime truth = QDateTime::fromString(is + "Z", Qt::ISODate);
        QVERIFY(truth.isValid());
        QCOMPARE(*at, static_cast<double>(truth.toSecsSinceEpoch()));
        static const QStringList kWeek{"mon", "tue", "wed", "thu", "fri", "sat", "sun"};
        if (const auto day = kWeek.indexOf(text.left(3).toLower()); day >= 0)
            QCOMPARE(truth.date().dayOfWeek(), static_cast<int>(day) + 1);
    }
    void days_are_told_by_their_names() {
        for (int day = -400; day < 40000; day += 37) {
            const QDateTime truth = QDateTime::fromSecsSinceEpoch(day * 86400LL + 9 * 3600LL, Qt::UTC);
            const auto at = static_cast<double>(truth.toSecsSinceEpoch());
            QCOMPARE(QString::fromStdString(dayWords(at)), QLocale::c().toString(truth.date(), "ddd d MMM yyyy"));
            QCOMPARE(clockWords(at), std::string("09:00"));
        }
        const double monday = *secondsOf(iso("09:00"));
        QCOMPARE(dayAndTime(monday + 86400.0, monday), std::string("Tue 09:00"));
        QCOMPARE(dayAndTime(monday + 7 * 86400.0, monday), std::string("Mon 14 Sep 09:00"));
    }

    void claims_figures_loads_and_entries_become_runs() {
        evidence::Evidence e = untested();
        e.label.rechargeTime = Hours(3.2);
        Wishes w;
        const auto claims = wantsOf(e, w, {});
        const Want* recharge = wantOf(claims, Kind::Recharge, "recharge-to-taper");
        QVERIFY(recharge && recharge->value >= 2.0 && !recharge->settles.empty());
        QVERIFY(wantOf(claims, Kind::Survey, "port-survey"));
        QVERIFY(!wantOf(claims, Kind::PassThrough, "pass-through")); // nothing of it is claimed
        // Of another bank than those that are named only what was put there by hand.
        w.banks = {9};
        QVERIFY(wantsOf(e, w, {}).empty());
        const OwnEntry own[] = {{5, 3, Kind::Staircase, "load-staircase", "Until it trips."},
                                {6, 9, Kind::Drain, "", "Of another bank."}};
        const auto byHand = wantsOf(e, w, own);
        QCOMPARE(byHand.size(), std::size_t(1));
        QCOMPARE(byHand.front().own, 5);
        QCOMPARE(byHand.front().value, 1.0);
        w.banks.clear();
        w.claims = false;
        w.purpose = judgement::purposes().front().key;
        const auto figures = wantsOf(e, w, {});
        QVERIFY(wantOf(figures, Kind::Drain, "gentle-drain"));
        // Loads of equal ratio from 5 W to 20 W: 5, 10, 20.
        w.purpose.clear();
        w.loads = 3;
        const auto loads = wantsOf(e, w, {});
        QCOMPARE(loads.size(), std::size_t(3));
        const Want* middle = wantOf(loads, Kind::Drain, "steady-power-drain", "10 W");
        QVERIFY(middle && std::abs(*middle->watts - 9.99) < 0.02);
        QVERIFY(wantOf(loads, Kind::Drain, "gentle-drain") && wantOf(loads, Kind::Drain, "top-tier-drain"));
        // Of a curve that has a point there, that one is not wanted again.
        e.together.otherDrains.push_back({1, "2.2 A at 9 V", 19.0, Measured(25.0), 9.0});
        QVERIFY(!wantOf(wantsOf(e, w, {}), Kind::Drain, "top-tier-drain"));
        w.repeats = 2;
        const auto twice = wantsOf(e, w, {});
        QCOMPARE(twice.size(), std::size_t(4));
        const Want* again = wantOf(twice, Kind::Drain, "gentle-drain", "time 2");
        QVERIFY(again && again->value == 0.5);
        w.out = {again->key};
        QCOMPARE(wantsOf(e, w, {}).size(), std::size_t(3));
    }
    void what_comes_first_and_what_has_its_own_day() {
        const evidence::Evidence e = untested();
        const OwnEntry own[] = {{1, 3, Kind::Drain, "gentle-drain", ""},
                                {2, 3, Kind::Survey, "port-survey", ""},
                                {3, 3, Kind::Staircase, "load-staircase", ""}};
        Circumstances given;
        given.wishes.claims = false;
        given.own.assign(std::begin(own), std::end(own));
        const auto at = [](const DrawnUp& d, Kind kind) {
            std::size_t k = 0;
            while (d.jobs[k].key.kind != kind || d.problem.jobs[k].asNeeded)
                ++k;
            return k;
        };
        const std::vector<evidence::Evidence> banks{e};
        const DrawnUp plain = drawUp(banks, given);
        // What may break the bank comes last, by itself.
        QCOMPARE(plain.problem.jobs[at(plain, Kind::Staircase)].after.size(), std::size_t(2));
        QVERIFY(plain.problem.jobs[at(plain, Kind::Drain)].after.empty() && plain.problem.apart.empty());
        given.wishes.first = {{3, Kind::Staircase, "load-staircase", ""}};
        given.wishes.ownDay = {{3, Kind::Drain, "gentle-drain", ""}};
        const DrawnUp d = drawUp(banks, given);
        const std::size_t stairs = at(d, Kind::Staircase);
        QVERIFY(d.problem.jobs[stairs].after.empty());
        for (const Kind kind : {Kind::Drain, Kind::Survey})
            QCOMPARE(d.problem.jobs[at(d, kind)].after, std::vector<std::size_t>{stairs});
        QCOMPARE(d.problem.apart.size(), std::size_t(2));
        for (const auto& [one, other] : d.problem.apart)
            QVERIFY(one == at(d, Kind::Drain) && other != one);
        // It can be solved, and is so.
        const Answer answer = solve(d.problem, [](const Answer&) { return false; });
        QVERIFY(answer.schedule.leftOut.empty());
        QCOMPARE(d.jobs[answer.schedule.placed.back().job].key.kind == Kind::Staircase, false);
    }
    // Truth: (T − 293.15 K) = 18 K · e^(−t/1200 s) is 2 K after 1200 s · ln 9 = 2636.7 s.
    void it_rests_until_it_is_cool() {
        evidence::Evidence e = untested();
        const OwnEntry own[] = {{1, 3, Kind::Drain, "gentle-drain", ""}};
        Circumstances given;
        given.wishes.claims = false;
        given.own.assign(std::begin(own), std::end(own));
        const auto rest = [&] {
            const std::vector<evidence::Evidence> banks{e};
            return drawUp(banks, given).problem.jobs.front().rest;
        };
        QCOMPARE(rest(), 1800.0);
        const auto warmed = [&](double rise) {
            kinds::Finding finding;
            finding.kind = Kind::Drain;
            finding.heat = kinds::HeatFinding{38.0, 20.0, true, Measured(rise), Measured(1200.0)};
            kinds::RunEntry run;
            run.finding = finding;
            e.runs = {run};
        };
        warmed(18.0);
        QVERIFY2(std::abs(rest() - 2636.67) < 0.1, qPrintable(QString::number(rest())));
        warmed(1.5); // never warm
        QCOMPARE(rest(), 0.0);
    }
    // Five minutes to lay out, twenty for the recipe, one for each time that it waits for hands, three to take off.
    void hands_replug_where_the_recipe_asks_for_it() {
        const std::vector<evidence::Evidence> banks{untested()};
        const OwnEntry own[] = {{1, 3, Kind::Sharing, "sharing-round", ""}};
        Circumstances given;
        given.wishes.claims = false;
        given.own.assign(std::begin(own), std::end(own));
        given.course = [](const std::string&, const label::Label&, std::optional<double>, std::optional<double>) {
            return std::optional(Course{1200.0, {{400.0, "Plug the load into C2."}, {800.0, "Plug it into C1."}}});
        };
        const auto told = [&] {
            const Job job = drawUp(banks, given).problem.jobs.front();
            QStringList all{QString::number(job.seconds)};
            for (const Hands& h : job.hands)
                all << QString("%1 %2 %3")
                           .arg(h.within(job.seconds).from)
                           .arg(h.seconds)
                           .arg(QString::fromStdString(h.what));
            return all;
        };
        QCOMPARE(told(), (QStringList{"1800", "0 300 lay out, plug in, start", "700 60 Plug the load into C2.",
                                      "1160 60 Plug it into C1.", "1620 180 take off"}));
        // All lies plugged in: what its recipe asks for on its way wants hands all the same.
        given.wishes.wired = {{3, Kind::Sharing, "sharing-round", ""}};
        QCOMPARE(told(), (QStringList{"1800", "700 60 Plug the load into C2.", "1160 60 Plug it into C1."}));
        QCOMPARE(wishesFromText(wishesToText(given.wishes), "wishes")->wired, given.wishes.wired);
        // A matrix by hand: the next pair every five minutes.
        given.own = {{1, 3, Kind::Matrix, "", ""}};
        given.course = nullptr;
        QCOMPARE(told().filter("plug the next pair in").size(),
                 10); // from minute 10 on, each 5 min, until it is taken off
    }
    void figures_name_runs_that_there_are() {
        std::size_t some = 0;
        for (const judgement::FigureKind& kind : judgement::figureKinds())
            some += runsFor(kind.key).empty() ? 0 : 1;
        QVERIFY(some >= 15); // what a scale, a rule or the label tells needs no run
        QVERIFY(runsFor("weight").empty() && runsFor("flight").empty());
    }

    void gear_can_do_it_or_not_data() {
        QTest::addColumn<QString>("gear");
        QTest::addColumn<QString>("wants");
        QTest::addColumn<bool>("can");
        const auto row = [](const char* name, const char* gear, const char* wants, bool can) {
            QTest::newRow(name) << gear << wants << can;
        };
        row("a load box takes 60 W", "load 150 W 60 V 15 A CC CP CR", "20 V 3 A CC", true);
        row("a lamp string of 15 W does not", "load 15 W CR", "20 V 3 A", false);
        row("nor does it keep a current", "load 15 W CR", "5 V 1 A CC", false);
        row("but it burns 10 W", "load 15 W CR", "5 V 2 A", true);
        row("a load of 12 V sees no 20 V", "load 100 W 12 V", "20 V 1 A", false);
        row("a load of which nothing is written", "load", "20 V 5 A CC", true);
        row("5 A want a marker", "cable C to C", "20 V 5 A", false);
        row("with one they go", "cable C to C marked", "20 V 5 A", true);
        row("3 A go without", "cable C to C", "20 V 3 A", true);
        row("9 V are not asked for over an A plug", "cable A to C", "9 V 2 A", false);
        row("5 V are", "cable A to C", "5 V 2.4 A", true);
        row("a trigger without 15 V", "trigger 5V 3A, 9V 3A, 20V 3A", "15 V 2 A", false);
        row("one with a range", "trigger 3.3-21V 3A", "15 V 2 A", true);
        row("any meter", "meter", "20 V 5 A", true);
    }
    void gear_can_do_it_or_not() {
        QFETCH(QString, gear);
        QFETCH(QString, wants);
        QFETCH(bool, can);
        records::Gear g;
        const QString kind = gear.section(' ', 0, 0), rest = gear.section(' ', 1);
        g.kind = *records::gearFromKey(kind.toStdString());
        if (g.kind == GearKind::Trigger)
            g.tiers = *label::parseTiers(rest.toStdString(), "trigger");
        else if (g.kind == GearKind::Cable) {
            g.marked = rest.contains("marked");
            g.ends = rest.left(6).toStdString();
        }
        const auto figure = [](const QString& text, const char* unit) -> std::optional<double> {
            const auto found = QRegularExpression(QStringLiteral("([0-9.]+) %1\\b").arg(unit)).match(text);
            return found.hasMatch() ? std::optional(found.captured(1).toDouble()) : std::nullopt;
        };
        if (g.kind == GearKind::Load) {
            g.watts = figure(rest, "W");
            g.maxVolts = figure(rest, "V");
            g.maxAmps = figure(rest, "A");
            for (const char* mode : {"CC", "CP", "CR"})
                g.modes += rest.contains(mode) ? std::string(mode) + " " : "";
        }
        Demand d{figure(wants, "V").value_or(0.0), figure(wants, "A").value_or(0.0), 0.0, {}};
        d.watts = d.volts * d.amps;
        d.mode = wants.contains("CC") ? "CC" : "";
        QCOMPARE(canDo(g, d), can);
    }
    void chargers_that_fill_about_as_fast() {
        std::vector<records::Gear> drawer(4);
        const double watts[] = {10.0, 20.0, 65.0, 100.0};
        for (std::size_t k = 0; k < drawer.size(); ++k) {
            drawer[k].kind = GearKind::Charger;
            drawer[k].watts = watts[k];
        }
        QCOMPARE(quickChargers(drawer, 18.0), (std::vector<std::size_t>{1, 2, 3}));
        QCOMPARE(quickChargers(drawer, 60.0), (std::vector<std::size_t>{2, 3}));
        QCOMPARE(quickChargers(drawer, 10.0).size(), std::size_t(4));
    }
    void what_a_run_asks_of_its_gear() {
        const evidence::Evidence e = untested();
        const auto demand = [&](Kind kind, const char* recipe, std::optional<double> watts = {}) {
            return demandOf({{3, kind, recipe, ""}, "", 1.0, {}, watts, 0}, e.label);
        };
        QCOMPARE(demand(Kind::Drain, "gentle-drain").watts, 5.0);
        QCOMPARE(demand(Kind::Drain, "top-tier-drain").volts, 9.0);
        QCOMPARE(demand(Kind::Drain, "steady-power-drain", 9.0).amps, 1.0);
        QCOMPARE(demand(Kind::Recharge, "recharge-to-taper").amps, 2.22);
        QCOMPARE(demand(Kind::Drain, "").watts, 10.0);
        QCOMPARE(secondDemandOf(e.label).amps, 2.4);
    }

    // One bank, 3, unless it is said: "drain 09:00-12:00"; what was run: "drain 09:38-12:30".
    void what_became_of_a_plan_data() {
        QTest::addColumn<QString>("agreed"); // from 08:00
        QTest::addColumn<QString>("runs");
        QTest::addColumn<QString>("now");
        QTest::addColumn<QStringList>("says");
        QTest::addColumn<QStringList>("not_");
        const auto row = [](const char* name, const char* agreed, const char* runs, const char* now,
                            const QStringList& says, const QStringList& never = {}) {
            QTest::newRow(name) << agreed << runs << now << says << never;
        };
        const char* two = "drain 09:00-12:00; recharge 12:30-15:00";
        row("nothing was begun, and nothing is late yet", two, "", "09:05", {"0 of the 2 jobs agreed on are done."},
            {"late"});
        row("it should have begun", two, "", "09:38", {"“drain” is 38 min late."}, {"recharge"});
        row("begun in time", two, "drain 09:04-12:00", "12:10", {"1 of the 2 jobs agreed on is done."},
            {"late", "early"});
        row("begun late", two, "drain 09:38-12:40", "12:35", {"1 of the 2", "“drain” began 38 min late."},
            {"recharge"});
        row("begun early", two, "drain 08:30-11:30", "12:00", {"“drain” began 30 min early."}, {"late"});
        row("a run of before the plan takes no place", two, "drain 07:00-08:00", "09:30",
            {"0 of the 2", "“drain” is 30 min late."});
        row("a run of another bank takes no place", two, "bank 4 drain 09:00-12:00", "09:30", {"0 of the 2"});
        row("one run takes one place", "drain 09:00-10:00; drain 11:00-12:00", "drain 09:00-10:00", "10:30",
            {"1 of the 2"}, {"late"});
        row("the recipe tells which of two", "drain gentle-drain 09:00-10:00; drain top-tier-drain 11:00-12:00",
            "drain top-tier-drain 09:01-10:00", "11:30",
            {"1 of the 2", "“drain top-tier-drain” began 1 h 59 min early",
             "“drain gentle-drain” is 2 h 30 min late."});
        row("its watts tell which of two", "drain steady@9W 09:00-10:00; drain steady@18W 11:00-12:00",
            "drain steady@18.5W 11:02-12:00", "12:30", {"1 of the 2", "“drain steady@9W” is 3 h 30 min late."},
            {"early", "“drain steady@18W” is"});
        row("where nobody knows its watts it may be either",
            "drain steady@9W 09:00-10:00; drain steady@18W 11:00-12:00", "drain steady 09:02-10:00", "10:30",
            {"1 of the 2"}, {"late"});
        row("what only brings a bank there is no job of its own", "recharge as-needed 09:00-10:00; survey 10:00-10:30",
            "", "09:50", {"The one job agreed on is not done yet."}, {"late"});
        row("several are late", two, "", "13:00", {"“drain” is 4 h late, and 1 more."});
        row("no plan", "", "drain 09:00-10:00", "09:30", {}, {"job"});
    }
    void what_became_of_a_plan() {
        QFETCH(QString, agreed);
        QFETCH(QString, runs);
        QFETCH(QString, now);
        QFETCH(QStringList, says);
        QFETCH(QStringList, not_);
        Kept kept;
        std::vector<RunSeen> seen;
        const auto read = [](QString text, JobKey& key, QString& from, QString& to) {
            key.bank = 3;
            if (text.startsWith("bank ")) {
                key.bank = text.section(' ', 1, 1).toInt();
                text = text.section(' ', 2);
            }
            key.kind = *records::kindFromKey(text.section(' ', 0, 0).toStdString());
            if (text.contains("as-needed"))
                key.variant = kAsNeeded;
            else if (text.count(' ') > 1)
                key.recipe = text.section(' ', 1, 1).section('@', 0, 0).toStdString();
            from = text.section(' ', -1).section('-', 0, 0);
            to = text.section(' ', -1).section('-', 1, 1);
        };
        const auto watts = [](const QString& text) { // "steady@9W"
            return text.contains('@') ? std::optional(text.section('@', 1).section('W', 0, 0).toDouble())
                                      : std::nullopt;
        };
        QString from, to;
        for (const QString& job : agreed.split("; ", Qt::SkipEmptyParts)) {
            kept.at = iso("08:00");
            KeptJob j;
            read(job, j.job, from, to);
            j.words = job.section(' ', 0, -2).toStdString();
            j.from = iso(from);
            j.to = iso(to);
            j.watts = watts(job);
            kept.jobs.push_back(j);
        }
        for (const QString& run : runs.split("; ", Qt::SkipEmptyParts)) {
            JobKey key;
            read(run, key, from, to);
            seen.push_back({static_cast<long long>(seen.size()) + 1,
                            key.bank,
                            key.kind,
                            key.recipe,
                            "",
                            *secondsOf(iso(from)),
                            *secondsOf(iso(to)),
                            {},
                            {},
                            watts(run)});
        }
        const auto lived = livedThrough(kept, seen, *secondsOf(iso(now)));
        const QString words = QString::fromStdString(livedSentence(kept, lived));
        for (const QString& said : says)
            QVERIFY2(words.contains(said), qPrintable(words));
        for (const QString& never : not_)
            QVERIFY2(!words.contains(never), qPrintable(words));
    }

    // A plan is agreed on again at noon: what was done by then stays done, and an unplanned run of the morning does not
    // do what is planned for the afternoon.
    void a_run_from_before_a_job_was_planned_takes_no_place() {
        const JobKey drain{3, Kind::Drain, "", ""}, survey{3, Kind::Survey, "", ""};
        const Kept kept{iso("12:00"),
                        {{survey, "survey", iso("08:30"), iso("09:00"), iso("08:00")},
                         {drain, "drain", iso("14:00"), iso("16:00"), ""}}};
        const double nine = *secondsOf(iso("09:00"));
        const std::vector<RunSeen> seen{{1, 3, Kind::Survey, "", "", nine, nine, {}, {}},
                                        {2, 3, Kind::Drain, "", "", nine, nine, {}, {}}};
        const auto lived = livedThrough(kept, seen, *secondsOf(iso("13:00")));
        QVERIFY(lived[0].run && lived[0].run->run == 1);
        QVERIFY(!lived[1].run && !lived[1].due);
    }
    // Truth by hand: full at 0, drained 1 h to 3 h, rested half an hour, filled 5 h to 7 h.
    void the_tide_has_no_hole() {
        using What = Stretch::What;
        plan::campaign::Problem p;
        p.banks = {{"Pebble 5", State::full()}, {"Cobble 10", State()}};
        p.jobs.resize(2);
        p.jobs[0].bank = p.jobs[1].bank = 0;
        p.jobs[0].rest = 1800.0;
        Schedule s;
        s.placed = {{1, 18000.0, 25200.0, {}, {}, {}, State::empty(), State::full()},
                    {0, 3600.0, 10800.0, {}, {}, {}, State::full(), State::empty()}};
        const auto tides = tideOf(p, s, 30000.0);
        const std::pair<What, double> wants[] = {{What::Waits, 3600.0},  {What::Drains, 10800.0},
                                                 {What::Rests, 12600.0}, {What::Waits, 18000.0},
                                                 {What::Fills, 25200.0}, {What::Waits, 30000.0}};
        QCOMPARE(tides[0].size(), std::size(wants));
        double at = 0.0;
        for (std::size_t k = 0; k < tides[0].size(); ++k) {
            QCOMPARE(tides[0][k].what, wants[k].first);
            QCOMPARE(tides[0][k].from, at);
            QCOMPARE(tides[0][k].to, wants[k].second);
            at = tides[0][k].to;
        }
        QVERIFY(tides[0][4].end.isFull() && tides[0][3].begin.isEmpty());
        QCOMPARE(tides[1].size(), std::size_t(1));
        p.hours = {{{3600.0, 7200.0}, 1}, {{7200.0, 9000.0}, 2}, {{20000.0, 40000.0}, 1}};
        QCOMPARE(absences(p, 30000.0), (std::vector<Span>{{0.0, 3600.0}, {9000.0, 20000.0}}));
        QCOMPARE(absences(p, 5000.0), (std::vector<Span>{{0.0, 3600.0}}));
    }
    void the_day_sheet_says_what_to_lay_out() {
        DrawnUp d;
        d.problem.banks = {{"Pebble <5>", State::full()}};
        d.problem.pieces = {{"Load & lamp", "load", 1}};
        Job j;
        j.id = "Pebble <5>: drain";
        j.bank = 0;
        j.seconds = 7200.0;
        j.needs = {{"load", {0}}};
        j.hands = {{0.0, 300.0, "plug in"}, {-180.0, 180.0, "take off"}};
        d.problem.jobs = {j, j};
        d.jobs = {{}, {{}, "drain", {"37 Wh"}, 0, {}}};
        Told told;
        told.answer.schedule.placed = {{0, 0.0, 7200.0, {0}, {0}, {0, 0}, State::full(), State::empty()}};
        told.answer.schedule.leftOut = {{1, "it does not fit into the window"}};
        const QString html = QString::fromStdString(daySheetOf(d, told, *secondsOf(iso("23:00"))));
        for (const char* said :
             {"Day sheet from Mon 7 Sep 2026, 23:00", "Now: Pebble &lt;5&gt;: drain, on Load &amp; lamp",
              "<h2>Mon 7 Sep 2026</h2>", "<h2>Tue 8 Sep 2026</h2>", "<td>23:00</td><td>plug in</td>", "full → empty",
              "<td>00:57</td><td>take off</td>", "It leaves open: 37 Wh"})
            QVERIFY2(html.contains(QString::fromUtf8(said)), qPrintable(QString::fromUtf8(said) + "\n" + html));
        QVERIFY(!html.contains("<5>"));
    }
};

QTEST_GUILESS_MAIN(CampaignAimsTest)
#include "campaign_aims_test.moc"
