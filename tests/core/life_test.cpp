// The life of a bank: the cases of tests/cases/life.txt, as a tester would tell them; specimens side by side; and how
// often the ± of rests and of fading hold a truth drawn by closed form.
#include <QRegularExpression>
#include <QTest>

#include <cmath>
#include <random>

#include "case_table.h"
#include "core/life/specimens.h"
#include "core/quantity/parse.h"
#include "core/records/kind.h"
#include "core/together/parts.h"
#include "where.h"

using namespace otterstone;
using kinds::KnownState;
using kinds::RunEntry;
using kinds::StateFrom;
using records::Kind;
using records::State;
using tests::parts;

namespace {

std::optional<KnownState> known(QString text, bool begin) {
    if (text == "?")
        return std::nullopt;
    const bool taken = text.endsWith('*');
    if (taken)
        text.chop(1);
    const State state = records::parseState(text.toStdString(), "case").value();
    const bool told = text == "full" || text == "empty";
    return KnownState{state,
                      taken   ? StateFrom::Taken
                      : !told ? StateFrom::Stamped
                      : begin ? StateFrom::Stated
                              : StateFrom::Trace,
                      {}};
}

// "drain 2026-04-02 6h 32.7Wh 5W full>empty settling"; ± of one Wh figure is its own.
RunEntry runOf(const QString& text, long long id) {
    const QStringList w = parts(text, " ");
    RunEntry r;
    r.run = id;
    r.title = "Run " + std::to_string(id);
    if (w[1] != "-")
        r.startedAt = w[1].toStdString() + "T00:00:00+00:00";
    kinds::Finding f;
    f.kind = *records::kindFromKey(w[0].toStdString());
    if (w.size() < 3) {
        r.finding = f;
        return r;
    }
    r.settling = w.contains("settling");
    f.durationSeconds = QString(w[2]).chopped(1).toDouble() * 3600.0;
    const QStringList energy = QString(w[3]).chopped(2).split(QStringLiteral("±"));
    f.portWattHours = energy.size() > 1 ? Measured(energy[0].toDouble(), energy[1].toDouble() / 2.0,
                                                   ErrorSource::ofRun(std::to_string(id), "all"))
                                        : Measured(energy[0].toDouble());
    f.plateauPower = QString(w[4]).chopped(1).toDouble();
    f.plateauVolts = 5.0;
    const QStringList ends = w[5].split('>');
    f.ends.began = known(ends[0], true);
    f.ends.ended = known(ends[1], false);
    for (const QString& word : w) {
        if (word.startsWith("gauge")) { // said so many points more than was left, half way
            const double error = word.mid(5).toDouble();
            const kinds::GaugePoint worst{0.0, 50.0 + error, 50.0 + error, 50.0};
            f.gauge = kinds::GaugeFinding{{worst}, worst, {}, {}};
        }
    }
    if (f.kind == Kind::Drain) {
        f.drain.emplace();
        f.drain->activeSeconds = f.durationSeconds;
        f.ends.ending = f.ends.endedEmpty() ? records::Ending::CutOff : records::Ending::Unplugged;
    } else {
        f.recharge.emplace();
        f.recharge->untilEndWattHours = f.portWattHours;
        f.ends.ending = f.ends.endedFull() ? records::Ending::Full : records::Ending::Unplugged;
    }
    r.finding = f;
    return r;
}

std::vector<RunEntry> runsOf(const QString& text, long long first = 1) {
    std::vector<RunEntry> all;
    for (const QString& run : parts(text, ";"))
        all.push_back(runOf(run, static_cast<long long>(all.size()) + first));
    return all;
}

QString allOf(const std::vector<std::string>& sentences) {
    QString all;
    for (const std::string& s : sentences)
        all += QString::fromStdString(s) + '\n';
    return all;
}

const Working* figureOf(const life::Life& life, const QString& key) {
    for (const Working& w : life.figures) {
        if (QString::fromStdString(w.key).startsWith(key))
            return &w;
    }
    return nullptr;
}

bool near(double a, double b) { return std::fabs(a - b) <= 0.01 * std::fabs(b); }

} // namespace

class LifeTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void what_is_told_data() {
        QTest::addColumn<QStringList>("cells");
        int rows = 0;
        for (const QStringList& cells : tests::rowsOf(where::cases("life.txt"), 4))
            QTest::addRow("%d %s", ++rows, qPrintable(cells[0])) << cells;
        QVERIFY(rows >= 30);
    }
    void what_is_told() {
        QFETCH(QStringList, cells);
        records::Past past;
        std::optional<double> rated;
        // Days of counts are parted by semicolons, as everything else of a past is.
        QString counts;
        for (const QString& part : parts(cells[1], ";")) {
            if (part.startsWith("came "))
                QVERIFY(records::parseCame(part.mid(5).toStdString(), "came", past));
            else if (part.startsWith("rated "))
                rated = part.mid(6).toDouble();
            else
                counts += (part.startsWith("counts ") ? part.mid(7) : part) + ';';
        }
        past.counts = records::parseCounts(counts.toStdString(), "counts").value();
        const auto runs = runsOf(cells[2]);
        life::Life life = life::lifeOf(runs, past, rated);
        std::vector<together::Contradiction> contradictions;
        for (const together::Pair& p : together::partTripsOf(runs, life, contradictions)) {
            life.sentences.push_back(p.sentence);
            life.figures.push_back(p.figures.front());
        }
        for (const together::Contradiction& c : contradictions)
            life.sentences.push_back(c.sentence);
        const QString told = allOf(life.sentences);
        static const QRegularExpression figure("^(\\w+) = ([0-9.]+)(?: ± ([0-9.]+))?$");
        for (const QString& say : parts(cells[3], ";")) {
            const QByteArray why = (say + " in:\n" + told).toUtf8();
            const QString rest = say.section(' ', 1);
            if (say.startsWith("~ ")) {
                QVERIFY2(told.contains(rest), why.constData());
            } else if (say.startsWith("!~ ")) {
                QVERIFY2(!told.contains(rest), why.constData());
            } else if (say.startsWith("no ")) {
                QVERIFY2(!figureOf(life, rest), why.constData());
            } else if (say.startsWith("joined ") || say.startsWith("broken ")) {
                QVERIFY2(life.passages.at(rest.toUInt() - 1).joined == say.startsWith("joined"), why.constData());
            } else if (say.startsWith("rests ")) {
                const QStringList days = rest.split(',');
                for (qsizetype k = 0; k < days.size(); ++k)
                    QVERIFY2(
                        near(life.passages.at(static_cast<std::size_t>(k) + 1).restDays.value(), days[k].toDouble()),
                        why.constData());
            } else if (say.startsWith("note ")) {
                const Working* w = figureOf(life, say.section(' ', 1, 1));
                QVERIFY2(w && QString::fromStdString(w->note).contains(say.section("~ ", 1)), why.constData());
            } else {
                const auto match = figure.match(say);
                QVERIFY2(match.hasMatch(), why.constData());
                const Working* w = figureOf(life, match.captured(1));
                QVERIFY2(w, why.constData());
                QVERIFY2(near(w->value.value(), match.captured(2).toDouble()), w->shown().c_str());
                if (!match.captured(3).isEmpty())
                    QVERIFY2(near(w->value.expanded(), match.captured(3).toDouble()), w->shown().c_str());
            }
        }
    }

    void notations_data() {
        QTest::addColumn<QString>("came");
        QTest::addColumn<QString>("counts");
        QTest::addColumn<QString>("wrong");
        QTest::addRow("all") << "2026-04-02 at 58 %"
                             << "2026-04-02: 312 Wh out, 330 Wh in, 41 cycles, health 98 %; 2026-10-01: 402 Wh out"
                             << "";
        QTest::addRow("only the charge") << "at 25 to 50 %"
                                         << ""
                                         << "";
        QTest::addRow("one cycle") << "2026-04-02"
                                   << "2026-04-02: 1 cycle"
                                   << "";
        QTest::addRow("no such day") << "2026-02-30 at 58 %"
                                     << ""
                                     << "is no day";
        QTest::addRow("more than full") << "2026-02-03 at 158 %"
                                        << ""
                                        << "158";
        QTest::addRow("a count without a day") << ""
                                               << "312 Wh out"
                                               << "is no day";
        QTest::addRow("a day without a count") << ""
                                               << "2026-04-02:"
                                               << "Nothing was counted";
        QTest::addRow("a count of nothing known") << ""
                                                  << "2026-04-02: 312 miles"
                                                  << "is not understood";
        QTest::addRow("health above 100") << ""
                                          << "2026-04-02: health 120 %"
                                          << "cannot be";
        QTest::addRow("fewer than none") << ""
                                         << "2026-04-02: -3 cycles"
                                         << "cannot be";
        QTest::addRow("a day twice") << ""
                                     << "2026-04-02: 1 cycle; 2026-04-02: 2 cycles"
                                     << "is there twice";
    }
    void notations() {
        QFETCH(QString, came);
        QFETCH(QString, counts);
        QFETCH(QString, wrong);
        records::Past past;
        const auto first = records::parseCame(came.toStdString(), "it came", past);
        const auto second = records::parseCounts(counts.toStdString(), "it counts itself");
        if (!wrong.isEmpty()) {
            const std::string sentence = !first ? first.error().sentence() : second.error().sentence();
            QVERIFY2(QString::fromStdString(sentence).contains(wrong), sentence.c_str());
            return;
        }
        QVERIFY(first && second);
        QCOMPARE(QString::fromStdString(records::showCame(past)), came);
        QCOMPARE(QString::fromStdString(records::showCounts(*second)), counts);
    }

    void specimens_data() {
        QTest::addColumn<QString>("mine");
        QTest::addColumn<QString>("other");
        QTest::addColumn<QString>("mineCame");
        QTest::addColumn<QString>("otherCame");
        QTest::addColumn<QString>("says");
        QTest::addColumn<double>("ratio");
        const char* six = "drain 2026-04-02 6h 32.7±0.1Wh 5W full>empty";
        QTest::addRow("a year older, and weaker")
            << "drain 2026-04-02 6h 31.2±0.1Wh 5W full>empty; drain 2026-04-04 6h 31.3±0.1Wh 5W full>empty" << six
            << "2025-04-02"
            << "2026-04-02"
            << "12 months older, this one gives" << 31.25 / 32.7;
        QTest::addRow("younger, and as good")
            << six << "drain 2026-04-02 6h 32.72±0.1Wh 5W full>empty"
            << "2026-04-02"
            << "2025-04-02"
            << "12 months younger, this one gives as much, as far as can be told" << 32.7 / 32.72;
        QTest::addRow("nobody knows how old") << six << "drain 2026-04-02 5.7h 31±0.1Wh 5W full>empty"
                                              << ""
                                              << "2025-04-02"
                                              << "“Other”, this one gives 105" << 32.7 / 31.0;
        QTest::addRow("nobody said how the other began") << six << "drain 2026-04-02 6h 32.6±0.1Wh 5W full*>empty"
                                                         << ""
                                                         << ""
                                                         << "1 there, if they began full)" << 32.7 / 32.6;
        QTest::addRow("another load compares with nothing") << six << "drain 2026-04-02 2h 30±0.1Wh 15W full>empty"
                                                            << ""
                                                            << ""
                                                            << "nothing compares yet" << 0.0;
        QTest::addRow("a drain that began at 92 %% compares with nothing")
            << six << "drain 2026-04-02 6h 30±0.1Wh 5W 92%>empty"
            << ""
            << ""
            << "nothing compares yet" << 0.0;
        QTest::addRow("of two loads the one with more runs")
            << "drain 2026-04-02 2h 30±0.1Wh 15W full>empty; drain 2026-04-03 6h 32.7±0.1Wh 5W full>empty; drain 2026-04-04 6h 32.7±0.1Wh 5W full>empty"
            << "drain 2026-04-02 2h 15±0.1Wh 15W full>empty; drain 2026-04-03 6h 32.7±0.1Wh 5W full>empty; drain 2026-04-04 6h 32.7±0.1Wh 5W full>empty"
            << ""
            << ""
            << "(2 drains here, 2 there)" << 1.0;
    }
    void specimens() {
        QFETCH(QString, mine);
        QFETCH(QString, other);
        QFETCH(QString, mineCame);
        QFETCH(QString, otherCame);
        QFETCH(QString, says);
        QFETCH(double, ratio);
        life::Specimen here{1, "Mine", {}, runsOf(mine)}, there{2, "Other", {}, runsOf(other, 100)};
        here.past.cameOn = mineCame.toStdString();
        there.past.cameOn = otherCame.toStdString();
        const auto all = life::compareSpecimens(here, std::span(&there, 1));
        QCOMPARE(all.size(), std::size_t(1));
        QVERIFY2(QString::fromStdString(all[0].sentence).contains(says), all[0].sentence.c_str());
        if (ratio == 0.0)
            QVERIFY(all[0].figures.empty());
        else
            QVERIFY(std::fabs(all[0].figures.back().value.value() - ratio) < 1e-6);
    }

    // What one meter gets wrong in both falls out of the ratio of two specimens.
    void one_meter_reads_both() {
        const ErrorSource gain = ErrorSource::ofInstrument("meter", "volts gain");
        const auto with = [&](double wh, long long id) {
            RunEntry r = runOf(QStringLiteral("drain 2026-04-02 6h %1Wh 5W full>empty").arg(wh), id);
            kinds::Finding finding = r.finding;
            finding.portWattHours = Measured(wh, 0.02 * wh, gain);
            r.finding = finding;
            return r;
        };
        const life::Specimen here{1, "a", {}, {with(31.0, 1)}}, there{2, "b", {}, {with(32.0, 2)}};
        const auto all = life::compareSpecimens(here, std::span(&there, 1));
        QVERIFY2(all[0].figures.back().value.expanded() < 1e-9, all[0].sentence.c_str());
        QVERIFY2(!QString::fromStdString(all[0].sentence).contains("as much"), all[0].sentence.c_str());
    }

    // Straight fading with scatter: the interval holds the truth as often as it says.
    void fading_holds() {
        std::mt19937 random(20261128);
        std::uniform_real_distribution<double> slope(-1.0, 8.0), cycles(0.0, 300.0);
        std::normal_distribution<double> scatter(0.0, 0.2);
        int held = 0, all = 0;
        for (int k = 0; k < 2000; ++k) {
            const double fade = slope(random) / 100.0, whole = 35.0;
            std::vector<life::Wear> drains;
            std::vector<double> when;
            when.reserve(10);
            drains.reserve(10);
            for (int n = 0; n < 3 + k % 8; ++n)
                when.push_back(cycles(random));
            const double first = *std::min_element(when.begin(), when.end());
            for (const double x : when)
                drains.push_back({x, Measured(whole * (1.0 - fade * (x - first) / 100.0) + scatter(random))});
            const auto found = life::fadePerHundred(drains, "bank");
            if (!found)
                continue;
            ++all;
            held += std::fabs(found->value() - fade) <= found->expanded() ? 1 : 0;
        }
        const double share = static_cast<double>(held) / all;
        QVERIFY2(all > 1900 && share > 0.92 && share < 0.985, qPrintable(QString::number(share)));
    }

    // Displays that err by up to five points, either way: so does the interval.
    void rests_hold() {
        std::mt19937 random(7);
        std::uniform_real_distribution<double> error(-5.0, 5.0), from(40.0, 96.0), lost(6.0, 30.0);
        int held = 0, all = 0;
        for (int k = 0; k < 4000; ++k) {
            const double before = from(random), fell = lost(random);
            const auto read = [&](double truth) {
                return KnownState{
                    State::at(std::clamp(std::round(truth + error(random)), 4.0, 96.0)), StateFrom::Stamped, {}};
            };
            const auto found = life::lostInRest(read(before), read(before - fell), 90.0);
            if (!found)
                continue;
            ++all;
            held += std::fabs(found->value() - fell / 100.0) <= found->expanded() ? 1 : 0;
        }
        QVERIFY2(held > 0.94 * all && all > 3500, qPrintable(QString::number(held) + "/" + QString::number(all)));
    }
};

QTEST_MAIN(LifeTest)
#include "life_test.moc"
