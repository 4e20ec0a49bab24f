// The first page of a bank's sheet stands alone; behind it each figure of a run stands once, and what was noted is
// told.
#include <set>

#include <QtTest>

#include "core/kinds/catalogue.h"
#include "report/material.h"

using namespace otterstone;
using namespace otterstone::report;
using records::Kind;

namespace {

// Hours of steady volts and amps, a taper where it is a recharge, and half an hour of nothing.
kinds::Finding found(Kind kind, double volts, double amps, double hours) {
    trace::Trace t;
    const auto add = [&t](double v, double a, double celsius) {
        t.time.push_back(static_cast<double>(t.time.size()) * 10.0);
        t.volts.push_back(v);
        t.amps.push_back(a);
        t.temperature.push_back(celsius);
    };
    const auto warm = [&t] { return 20.0 + 8.0 * (1.0 - std::exp(-static_cast<double>(t.time.size()) / 120.0)); };
    const int n = static_cast<int>(hours * 360.0);
    for (int k = 0; k < n; ++k)
        add(volts, amps, warm());
    for (int k = 0; kind == Kind::Recharge && k < 120; ++k)
        add(volts, amps * (1.0 - k / 122.0), warm());
    for (int k = 0; k < 180; ++k)
        add(kind == Kind::Drain ? 0.0 : volts, 0.0, warm());
    setup::Setup s;
    s.meter = *path::parseMeter("volts 0.1%+3mV, amps 0.2%+3mA, clock 50ppm", "meter");
    s.pathOhms = Measured(0.0);
    s.ambient = 20.0;
    label::Label l;
    l.energy = WattHours(37.0);
    setup::setRating(s, l);
    return kinds::analyse(t, kind, s).value();
}

Material material() {
    Material m;
    m.at = "2026-05-01T10:00:00";
    m.gear = {{"Bench meter", "meter", "volts 0.1%+3mV", true}, {"Grey 1 m", "cable", "loop 115 mΩ", false}};
    BankMaterial& b = m.banks.emplace_back();
    evidence::Evidence& e = b.evidence;
    e.name = "Shingle 10";
    e.label.energy = WattHours(37.0);
    e.label.rechargeTime = Hours(3.0);
    e.label.ports = {{"C", label::Direction::Both, *label::parseTiers("5 V 3 A; 9 V 2 A", "t"), Watts(18), {}}};
    b.notes = "Lent by the hut.";
    const auto add = [&](long long id, const char* title, kinds::Finding f) -> RunSaid& {
        RunSaid& r = b.runs.emplace_back();
        r.run = id;
        r.title = title;
        r.startedAt = "2026-04-0" + std::to_string(id) + "T08:00:00";
        r.kind = f.kind;
        r.finding = f;
        if (!records::hasSheet(f.kind))
            e.runs.push_back({id, title, r.startedAt, false, "", "", false, false, std::move(f)});
        return r;
    };
    add(1, "From empty", found(Kind::Recharge, 9.0, 2.0, 2.2));
    RunSaid& drain = add(2, "Gentle", found(Kind::Drain, 5.0, 1.0, 6.6));
    drain.where = "at C, in 20 °C";
    drain.notes = {"the cable was the long one"};
    // Two figures of one value and no sum are two figures.
    kinds::Finding two = found(Kind::Drain, 5.0, 2.0, 3.0);
    Working one;
    one.label = "bulk";
    one.value = Measured(100.0);
    one.unit = Unit::Second;
    Working other = one;
    other.label = "wait";
    two.figures = {one, other};
    RunSaid& fourth = b.runs.emplace_back();
    fourth.run = 4;
    fourth.title = "Two";
    fourth.startedAt = "2026-04-04T08:00:00";
    fourth.finding = two;
    kinds::Finding none;
    none.kind = Kind::Survey;
    none.sentence = "Nothing can be said of this run yet: no row says enough.";
    add(3, "Survey", none).notes = {"row 1: sparks"};
    e.together = together::judgeTogether(e.runs, 37.0, m.schools);
    return m;
}

std::string all(const Section& s) {
    std::string text;
    for (const Block& b : s.blocks) {
        if (const auto* p = std::get_if<Paragraph>(&b))
            text += p->text + "\n";
        if (const auto* p = std::get_if<Points>(&b)) {
            for (const std::string& item : p->items)
                text += item + "\n";
        }
    }
    return text;
}

const Section* section(const Content& c, const char* key) {
    for (const Section& s : c.sections) {
        if (s.key == key)
            return &s;
    }
    return nullptr;
}

} // namespace

class FirstPageTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    // What was written into a notebook with a meter is as good as a log.
    void a_drain_by_hand_may_be_the_one_a_reader_looks_at_first() {
        setup::Setup s;
        label::Label l;
        l.energy = WattHours(18.5);
        setup::setRating(s, l);
        const records::Sheet sheet = kinds::sheetFromText(
            Kind::Notebook, "time,v,a,bank,way\n0,5.1,1,full,out\n1 h,5.1,1,,\n3 h 10 min,5.0,1,,\n3 h 15 min,0,0,,\n");
        BankMaterial b;
        RunSaid& r = b.runs.emplace_back();
        r.run = 7;
        r.kind = Kind::Notebook;
        r.finding = kinds::findingOf(sheet, {}, {}, s);
        QCOMPARE(gentlestDrain(b), std::optional(7LL));
        QVERIFY(!firstRecharge(b));
    }
    void the_first_page_stands_alone() {
        const Content c = makeContent(material());
        const Section& first = c.sections.front();
        QCOMPARE(first.key, std::string("summary"));
        const std::string text = all(first);
        for (const char* words :
             {"Lent by the hut.", "Meets: C takes 18 W.", "Too close to call: 37 Wh in the cells.",
              "How it was measured: 4 runs from 2026-04-01 to 2026-04-04, read with Bench meter (volts 0.1%+3mV).",
              " not tested: "})
            QVERIFY2(text.find(words) != std::string::npos, (words + ("\nis not in\n" + text)).c_str());
        QVERIFY2(text.find("Grey") == std::string::npos, text.c_str()); // a cable reads nothing
        const auto tables = tablesOf(c, "short");
        QCOMPARE(tables.size(), std::size_t(1));
        QVERIFY(!tables[0]->rows.empty() && tables[0]->rows.size() <= 6);
        for (const auto& row : tables[0]->rows)
            QVERIFY2(row[1].text.find(" s") == std::string::npos, row[1].text.c_str()); // minutes are enough there
        QVERIFY(!first.newPage);
        int pages = 0;
        for (const Section& s : c.sections)
            pages += s.newPage ? 1 : 0;
        QCOMPARE(pages, 1);
        QVERIFY(section(c, "verdicts")->newPage);
    }

    void a_figure_stands_once_in_its_run() {
        const Content c = makeContent(material());
        for (const Table* table : tablesOf(c, "run")) {
            std::set<std::string> said;
            for (const auto& row : table->rows) {
                QVERIFY2(said.insert(row[1].text + row[2].text + row[3].text).second || row[3].text.empty(),
                         row[0].text.c_str());
            }
        }
        const auto labels = [&](const char* key) {
            std::string text;
            for (const Block& b : section(c, key)->blocks) {
                if (const auto* table = std::get_if<Table>(&b)) {
                    for (const auto& row : table->rows)
                        text += row[0].text + "\n";
                }
            }
            return text;
        };
        QCOMPARE(labels("run:4"), std::string("bulk\nwait\n"));
        QVERIFY(labels("run:1").find("settled") == std::string::npos); // it was tapering
        QVERIFY2(labels("run:2").find("settled") != std::string::npos, labels("run:2").c_str());
    }

    void what_was_noted_is_told() {
        const Content c = makeContent(material());
        const std::string drain = all(*section(c, "run:2")), survey = all(*section(c, "run:3"));
        QVERIFY2(drain.find("at C, in 20 °C") != std::string::npos, drain.c_str());
        QVERIFY2(drain.find("Note: the cable was the long one") != std::string::npos, drain.c_str());
        QVERIFY2(survey.find("Nothing can be said of this run yet") != std::string::npos, survey.c_str());
        QVERIFY2(survey.find("Note: row 1: sparks") != std::string::npos, survey.c_str());
        for (const Block& b : section(c, "run:3")->blocks)
            QVERIFY(!std::holds_alternative<Table>(b) && !std::holds_alternative<Picture>(b));
    }
};

QTEST_APPLESS_MAIN(FirstPageTest)
#include "first_page_test.moc"
