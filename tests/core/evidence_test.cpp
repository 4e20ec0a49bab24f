// One thing seen serves every question: the cases of tests/cases/evidence.txt, as a tester would tell them.
#include <QFile>
#include <QRegularExpression>
#include <QTest>

#include "case_table.h"
#include "core/evidence/devices.h"
#include "core/evidence/observe.h"
#include "core/judgement/hold.h"
#include "core/kinds/observation.h"
#include "where.h"

using namespace otterstone;
using records::Kind;
using tests::parts;

namespace {

std::string cell(const QString& word) { return word == QLatin1String("-") ? std::string() : word.toStdString(); }

std::vector<label::Tier> tiers(const QString& text) {
    auto read = label::parseTiers(text.toStdString(), "case");
    if (!read)
        qFatal("%s", read.error().sentence().c_str());
    return *read;
}

// "C1 both 9V2A 18W in 9V3A 27W / A out 5V2A total 28W together C1 18 W + A 10 W pass"
label::Label labelOf(QString text) {
    label::Label l;
    if (const qsizetype at = text.indexOf(" together "); at >= 0) {
        l.shared = *label::parseShared(text.mid(at + 10).toStdString(), "case");
        text.truncate(at);
    }
    for (const QString& one : parts(text, "/")) {
        const QStringList words = parts(one, " ");
        label::Port p;
        p.name = words[0].toStdString();
        p.direction = words[1] == "in"     ? label::Direction::In
                      : words[1] == "both" ? label::Direction::Both
                                           : label::Direction::Out;
        if (words[2] != QLatin1String("-"))
            p.tiers = tiers(words[2]);
        bool in = false;
        for (qsizetype k = 3; k < words.size(); ++k) {
            const QString& w = words[k];
            if (w == "in")
                in = true;
            else if (w == "pass")
                l.claimsPassThrough = true;
            else if (w == "full")
                l.rechargeTime = Hours(words[++k].chopped(1).toDouble());
            else if (w == "total")
                l.totalWatts = Watts(words[++k].chopped(1).toDouble());
            else if (w.endsWith('W'))
                (in ? p.inWatts : p.watts) = Watts(w.chopped(1).toDouble());
            else if (in)
                p.inTiers = tiers(w);
        }
        l.ports.push_back(std::move(p));
    }
    return l;
}

class Written {
public:
    explicit Written(const label::Label& label, double ohms = 0.0) {
        e_.name = "Test bank";
        e_.label = label;
        facts_.label = label;
        facts_.meter = *path::parseMeter("volts 0.1%+3mV, amps 0.2%+3mA", "meter");
        facts_.pathOhms = Measured(ohms);
        facts_.chargers = {{"Big", {{}, Watts(60.0)}, {}},
                           {"Small", {{}, Watts(10.0)}, {}},
                           {"Five", {tiers("5V3A"), Watts(60.0)}, {}}};
        facts_.cables = {{"cord", Amps(3.0), {}, {}}, {"thin", Amps(1.0), {}, {}}};
    }
    void add(const QString& text) {
        const QStringList w = parts(text, " ");
        if (w[0] == "survey") {
            const bool in = w[2] == "in";
            const qsizetype at = in ? 3 : 2;
            records::Sheet& s = sheet(Kind::Survey);
            if (w.size() == at + 2)
                kinds::addRow(s, {{"port", cell(w[1])},
                                  {"way", in ? "in" : "out"},
                                  {"asked_v", cell(w[at])},
                                  {"offered", cell(w[at + 1])}});
            else
                kinds::addRow(s, {{"port", cell(w[1])},
                                  {"way", in ? "in" : "out"},
                                  {"asked_v", cell(w[at])},
                                  {"amps", cell(w[at + 1])},
                                  {"volts", cell(w[at + 2])}});
        } else if (w[0] == "stairs") {
            const bool trips = w[4] == "trips";
            kinds::addRow(sheet(Kind::Staircase), {{"port", cell(w[1])},
                                                   {"asked_v", cell(w[2])},
                                                   {"amps", cell(w[3])},
                                                   {"volts", trips ? "" : cell(w[4])},
                                                   {"state", trips ? "tripped" : "holds"}});
        } else if (w[0] == "sharing") {
            for (const QString& port : parts(text.mid(8), ",")) {
                const QStringList p = parts(port, " ");
                kinds::addRow(sheet(Kind::Sharing), {{"round", "1"},
                                                     {"port", cell(p[0])},
                                                     {"alone_v", cell(p[1])},
                                                     {"alone_a", cell(p[2])},
                                                     {"together_v", cell(p[3])},
                                                     {"together_a", cell(p[4])}});
            }
        } else if (w[0] == "pass") {
            records::Sheet& s = fresh(Kind::PassThrough);
            for (const QString& corner : parts(text.mid(5), ",")) {
                const QStringList c = parts(corner, " ");
                kinds::addRow(s, {{"corner", c[0] == "both" ? "both" : cell(c[0]) + " alone"},
                                  {"in_v", cell(c[1])},
                                  {"in_a", cell(c[2])},
                                  {"out_v", cell(c[3])},
                                  {"out_a", cell(c[4])}});
            }
        } else if (w[0] == "matrix") {
            kinds::addRow(sheet(Kind::Matrix), {{"charger", cell(w[1])},
                                                {"cable", cell(w[2])},
                                                {"port", cell(w[3])},
                                                {"volts", cell(w[4])},
                                                {"amps", cell(w[5])}});
        } else if (w[0] == "torch") { // an hour on the pad
            records::Sheet& s = fresh(Kind::Notebook);
            kinds::addDevice(s, "Torch " + w[1].toStdString() + " Wh");
            kinds::addRow(s, {{"time", "0"}, {"way", "pad"}, {kinds::deviceKey(0), "10"}});
            kinds::addRow(s, {{"time", "1 h"}, {kinds::deviceKey(0), std::to_string(10 + w[2].toInt())}});
        } else if (w[0] == "clock") { // looked at the bank's display alone, until it was full
            records::Sheet& s = fresh(Kind::Notebook);
            kinds::addRow(s, {{"time", "0"}, {"bank", "empty"}});
            kinds::addRow(s, {{"time", cell(w[1])}, {"bank", w.size() > 4 ? cell(w[4]) + " %" : "99 %"}});
            kinds::addRow(s, {{"time", cell(w[2])}, {"bank", "full"}});
            if (w[3] != "-")
                e_.sheets.back().facts.chargerWatts = w[3].toDouble();
        } else if (w[0] == "drain" || w[0] == "recharge") {
            e_.runs.push_back(run(w));
        }
    }
    [[nodiscard]] evidence::Evidence evidence() { return e_; }

private:
    records::Sheet& fresh(Kind kind) {
        e_.sheets.push_back(
            {static_cast<long long>(e_.sheets.size()) + 100, records::kindKey(kind), {kind, {}}, facts_});
        return e_.sheets.back().sheet;
    }
    // All rows of a kind stand in one sheet.
    records::Sheet& sheet(Kind kind) {
        for (kinds::SheetRun& s : e_.sheets) {
            if (s.sheet.kind == kind)
                return s.sheet;
        }
        return fresh(kind);
    }
    // An hour at steady volts and amps.
    kinds::RunEntry run(const QStringList& w) {
        const double volts = w[2].toDouble(), amps = w[3].toDouble();
        trace::Trace t;
        for (int k = 0; k <= 3600; k += 5) {
            const bool second = w[0] == "drain" && w.size() > 4 && k >= 1800;
            t.time.push_back(k);
            t.volts.push_back(second ? w[4].toDouble() : volts);
            t.amps.push_back(second ? w[5].toDouble() : amps);
        }
        setup::Setup s;
        s.meter = facts_.meter;
        s.pathOhms = Measured(0.0);
        kinds::RunEntry r;
        r.run = static_cast<long long>(e_.runs.size()) + 1;
        r.title = w[0].toStdString();
        r.port = cell(w[1]);
        const bool drain = w[0] == "drain";
        if (!drain && w[4] != "-") {
            r.chargerWatts = w[4].toDouble();
            s.chargerWatts = Watts(*r.chargerWatts);
        }
        auto found = kinds::analyse(t, drain ? Kind::Drain : Kind::Recharge, s);
        if (!found)
            qFatal("%s", found.error().sentence().c_str());
        r.finding = std::move(*found);
        return r;
    }

    evidence::Evidence e_;
    setup::Facts facts_;
};

} // namespace

class EvidenceTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void cases_data() {
        QTest::addColumn<QString>("label");
        QTest::addColumn<QString>("written");
        QTest::addColumn<QString>("said");
        QFile file(where::cases("evidence.txt"));
        QVERIFY(file.open(QIODevice::ReadOnly));
        int line = 0;
        for (const QString& text : QString::fromUtf8(file.readAll()).split('\n')) {
            ++line;
            if (text.startsWith('#') || text.trimmed().isEmpty())
                continue;
            const QStringList columns = parts(text, "|");
            QCOMPARE(columns.size(), 3);
            QTest::addRow("line %d: %s", line, qPrintable(columns[1])) << columns[0] << columns[1] << columns[2];
        }
    }
    void cases() {
        QFETCH(QString, label);
        QFETCH(QString, written);
        QFETCH(QString, said);
        Written all(labelOf(label));
        for (const QString& one : parts(written, " + "))
            all.add(one);
        const judgement::Judged judged = judgement::holdClaims(all.evidence());
        for (const QString& expected : parts(said, ";")) {
            const qsizetype sign = expected.indexOf(QRegularExpression(" (=|~|!~) "));
            QVERIFY2(sign > 0, qPrintable(expected));
            QString key = expected.left(sign);
            const bool ofNext = key.endsWith(" next"); // what would settle it
            key.chop(ofNext ? 5 : 0);
            const bool equals = expected[sign + 1] == '=', without = expected[sign + 1] == '!';
            const QString words = expected.mid(expected.indexOf(' ', sign + 1) + 1).trimmed();
            const judgement::Held* row = judged.row(key.toStdString());
            if (words == "absent") {
                QVERIFY2(!row, qPrintable(key));
                continue;
            }
            QVERIFY2(row, qPrintable("no claim " + key));
            const QString verdict = QString::fromStdString(judgement::verdictWords(row->verdict)),
                          why = QString::fromStdString(ofNext ? row->next.words : row->why);
            if (equals)
                QVERIFY2(verdict == words, qPrintable(key + ": " + verdict + ", " + why));
            else
                QVERIFY2(why.contains(words) != without, qPrintable(key + ": " + why));
            // A reason that is there is whole: it neither begins nor ends as half a sentence.
            QVERIFY2(!why.isEmpty() && !why.endsWith(' ') && !why.endsWith(':') && !why.contains("  ") &&
                         !why.contains(" ,"),
                     qPrintable(why));
        }
    }
    // Volts are the port's, whatever sheet they were read for: a cord of 0.1 Ω takes 0.3 V at 3 A.
    void what_is_read_behind_a_cord_is_referred_to_the_port() {
        for (const char* one : {"sharing C1 4.7 3 4.7 3, A 5.0 1 5.0 1", "pass out - - 4.7 3", "survey C1 5 3 4.7",
                                "stairs C1 5 3 4.7"}) {
            Written all(labelOf("C1 out 5V3A / A out 9V1A"), 0.1);
            all.add(one);
            const auto judged = judgement::holdClaims(all.evidence());
            QVERIFY2(judged.row("gives:C1:5")->verdict == judgement::Verdict::Meets,
                     (std::string(one) + ": " + judged.row("gives:C1:5")->why).c_str());
        }
    }
    // One device on several banks: times by hand (60 points an hour from 20 % is 80 % after an hour, 80 after 45 min).
    void devices_stand_across_the_banks() {
        const auto bank = [](const char* name, std::initializer_list<const char*> texts) {
            evidence::Evidence e;
            e.name = name;
            long long run = 1;
            for (const char* text : texts) {
                setup::Facts facts;
                facts.run = name + std::to_string(run); // each has errors of its own
                e.sheets.push_back({run++, "an evening", kinds::sheetFromText(Kind::Notebook, text), facts});
            }
            return e;
        };
        evidence::Evidence matrix = bank("Gravel", {"time,phone\n0,20\n40 min,60\n1 h,80\n1 h 10 min,85\n"});
        matrix.label = labelOf("C1 out 9V2A");
        setup::Facts facts;
        facts.label = matrix.label;
        matrix.sheets.push_back(
            {9, "cables",
             kinds::sheetFromText(Kind::Matrix, "charger,cable,port,volts,amps\nC1,Blue,Phone,9,1.8\n"
                                                "C1,Grey,Phone,9,1.2\n"),
             facts});
        const std::vector<evidence::Evidence> banks = {
            matrix,
            bank("Scree", {"time,Phone 12.9 Wh,Torch\n0,20,\n30 min,60,\n45 min,80,\n50 min,83,\n1 h,,10\n2 h,,30\n",
                           "time,Phone 12.9 Wh\n0,20\n1 h 30 min,70\n2 h,80\n2 h 5 min,82\n"}),
            bank("Pebble", {})};
        const auto all = evidence::devicesAcross(banks);
        QCOMPARE(all.devices.size(), std::size_t(2));
        QCOMPARE(all.devices[0].name, std::string("phone")); // as it was first written
        QVERIFY(all.devices[0].wattHours && std::fabs(*all.devices[0].wattHours - 12.9) < 1e-9);
        QCOMPARE(all.banks.size(), std::size_t(3));
        using kinds::What;
        const auto minutes = [&](std::size_t b) {
            return all.best(What::DeviceTo80, 0, b)->value->value.value() / 60.0;
        };
        QVERIFY(std::fabs(minutes(0) - 60.0) < 1.0 && std::fabs(minutes(1) - 45.0) < 1.0); // the better of its two
        QCOMPARE(all.count(What::DeviceTo80, 0, 1), std::size_t(2));
        QVERIFY(!all.best(What::DeviceTo80, 0, 2) && !all.best(What::DeviceTo80, 1, 1));
        QCOMPARE(all.leaders(What::DeviceTo80, 0), (std::vector<std::size_t>{1}));         // all from 20 %
        QVERIFY(std::fabs(all.best(What::Out, 0, 0)->value->value.value() - 16.2) < 0.01); // 9 V × 1.8 A
        QVERIFY(all.leaders(What::Out, 0).empty());                                        // on one bank alone
        QVERIFY(all.leaders(What::DevicePace, 1).empty());
        QCOMPARE(all.curves.size(), std::size_t(4));
        QCOMPARE(all.curves.front().curve.points.back(), (std::pair<double, double>{4200.0, 85.0}));
        // A bound from below may be as much; times from other percents are not compared; two phones of one name with
        // other batteries are two.
        evidence::Evidence pad = bank("Pad", {"time,Torch 12 Wh,way\n0,20,pad\n1 h,50,\n"}), wire = bank("Wire", {});
        pad.label = labelOf("pad out - 10W");
        pad.sheets.front().facts.label = pad.label;
        wire.label = facts.label;
        wire.sheets.push_back({8, "cables",
                               kinds::sheetFromText(Kind::Matrix, "charger,cable,port,volts,amps\nC1,Blue,Torch,9,1\n"),
                               facts});
        const auto bounded = evidence::devicesAcross(std::vector<evidence::Evidence>{pad, wire});
        QVERIFY(bounded.best(What::Out, 0, 0)->atLeast);
        QCOMPARE(bounded.leaders(What::Out, 0).size(), std::size_t(2));
        const auto unlike = evidence::devicesAcross(
            std::vector<evidence::Evidence>{bank("A", {"time,Phone 12 Wh\n0,20\n30 min,50\n1 h,80\n70 min,84\n"}),
                                            bank("B", {"time,Phone 12 Wh\n0,50\n20 min,70\n30 min,80\n40 min,84\n"}),
                                            bank("C", {"time,Phone 20 Wh\n0,50\n20 min,70\n30 min,80\n40 min,84\n"})});
        QCOMPARE(unlike.devices.size(), std::size_t(2));
        QVERIFY(unlike.leaders(What::DeviceTo80, 0).empty());
        // Two that cannot be told apart lead both.
        const auto alike = evidence::devicesAcross(std::vector<evidence::Evidence>{
            bank("A", {"time,Phone\n0,20\n30 min,50\n"}), bank("B", {"time,Phone\n0,20\n30 min,51\n"})});
        QCOMPARE(alike.leaders(What::DevicePace, 0).size(), std::size_t(2));
    }
    // What is listed of a bank says where it was seen.
    void every_observation_has_its_place() {
        Written all(labelOf("C1 both 9V2A pass / A out 5V2A"));
        for (const char* one : {"survey C1 9 2 9.0", "stairs A 5 1 5.05", "sharing C1 9 2 9 2, A 5 2 5 2",
                                "pass in 9 2 - -, out - - 5 2, both 9 2 5 2", "matrix Big cord C1 9 2", "drain C1 9 2",
                                "recharge C1 9 2 20"})
            all.add(one);
        const auto seen = evidence::observe(all.evidence());
        QVERIFY2(seen.size() >= 13, qPrintable(QString::number(seen.size())));
        for (const kinds::Observation& o : seen) {
            QVERIFY(!o.title.empty() && o.run != 0 && !kinds::whatKey(o.what).empty());
            QVERIFY2(o.said().size() > 8 && o.said().find("  ") == std::string::npos, o.said().c_str());
        }
    }
};

QTEST_GUILESS_MAIN(EvidenceTest)
#include "evidence_test.moc"
