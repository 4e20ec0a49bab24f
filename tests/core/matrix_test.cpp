// The matrix: the cases of tests/cases/matrices.txt, as a tester would tell them, and cells as they are typed.
#include <QRegularExpression>
#include <QTest>

#include "case_table.h"
#include "core/kinds/catalogue.h"
#include "core/kinds/matrix/matrix.h"
#include "told.h"
#include "where.h"

using namespace otterstone;
using namespace otterstone::kinds;
using tests::parts;

namespace {

std::vector<label::Tier> tiers(const QString& text) { return label::parseTiers(text.toStdString(), "case").value(); }

// "€ 20" at the end of a piece, or another sign; "? 20" where no currency is named.
std::optional<setup::Price> priceIn(QStringList& words) {
    const qsizetype at = words.indexOf(QRegularExpression(QStringLiteral("^[€£?]$")));
    if (at < 0)
        return std::nullopt;
    const QString sign = words.at(at) == QLatin1String("?") ? QString() : words.at(at);
    const setup::Price price{words.at(at + 1).toDouble(), sign.toStdString(), {}, {}};
    words.resize(at);
    return price;
}

Facts factsFrom(const QString& known) {
    Facts f;
    f.run = "1";
    for (const QString& part : parts(known, ";")) {
        QStringList w = parts(part, " ");
        const auto price = priceIn(w);
        const std::string name = w[1].toStdString();
        if (w[0] == "port") {
            label::Port p;
            p.name = name;
            p.direction = w[2] == "in"     ? label::Direction::In
                          : w[2] == "both" ? label::Direction::Both
                                           : label::Direction::Out;
            p.tiers = tiers(w[3]);
            f.label.ports.push_back(std::move(p));
        } else if (w[0] == "charger") {
            const Watts watts(w[2].toDouble());
            f.chargers.push_back({name, {w.size() > 3 ? tiers(w[3]) : path::powerRuleTiers(watts), watts}, price});
        } else if (w[0] == "cable") {
            f.cables.push_back({name, Amps(w[2].toDouble()), {}, price});
        } else if (w[0] == "meter") {
            f.meter = path::parseMeter(("volts " + w[1] + "%, amps " + w[1] + "%").toStdString(), "case").value();
        }
    }
    return f;
}

} // namespace

class MatrixTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void what_is_told_data() {
        QTest::addColumn<QStringList>("cells");
        int rows = 0;
        for (const QStringList& cells : tests::rowsOf(where::cases("matrices.txt"), 4))
            QTest::addRow("%d %s", ++rows, qPrintable(cells[0])) << cells;
        QVERIFY(rows >= 30);
    }
    void what_is_told() {
        QFETCH(QStringList, cells);
        const Sheet sheet = sheetFromText(Kind::Matrix, parts(cells[2], ";").join('\n').toStdString());
        const Facts facts = factsFrom(cells[1]);
        std::vector<Observation> seen;
        observe(*of(Kind::Matrix).sheet, {1, "matrix", sheet, facts}, seen);
        tests::holdAgainst(parts(cells[3], ";"), matrix(sheet, facts).said, seen);
    }

    void a_cell_as_it_is_typed_data() {
        QTest::addColumn<QString>("typed");
        QTest::addColumn<QString>("read"); ///< volts amps watts happened seconds, or the code of what is wrong
        const auto row = [](const char* typed, const char* read) { QTest::newRow(typed) << typed << read; };
        row("18 W", "- - 18 - -");
        row("18", "- - 18 - -");
        row("9 V 18 W", "9 - 18 - -");
        row("9x2", "9 2 - - -");
        row("9 V 1980 mA", "9 1.98 - - -");
        row("nothing", "- - - nothing flows -");
        row("Nothing flows", "- - - nothing flows -");
        row("0 W", "- - - nothing flows -");
        row("18 W stopped after 5 h", "- - 18 stopped 18000");
        row("20 V 2 A, stopped 90 min", "20 2 - stopped 5400");
        row("stopped", "- - - stopped -");
        row("9 V 18 W settled 20 s", "9 - 18 settled 20");
        row("settled 20 s", "bad_cell");
        row("2 A", "bad_cell");
        row("later", "bad_cell");
        row("18 W stopped soon", "not_a_duration");
    }
    // The last digit that was typed is the reading's doubt.
    void a_cell_keeps_its_digits() {
        const auto digits = [](const char* typed) {
            const auto cell = parseCell(typed, "here");
            return cell ? cell->typedVolts + " " + cell->typedAmps + " " + cell->typedWatts : cell.error().code;
        };
        QCOMPARE(digits("20.0 V 3.00 A"), std::string("20.0 3.00 "));
        QCOMPARE(digits("9,02 V 1980 mA"), std::string("9.02 1.980 "));
        QCOMPARE(digits("18.0 W stopped after 1.5 h"), std::string("  18.0"));
        QCOMPARE(digits("9x2"), std::string("9 2 "));
    }
    void a_cell_as_it_is_typed() {
        QFETCH(QString, typed);
        QFETCH(QString, read);
        const auto cell = parseCell(typed.toStdString(), "here");
        if (!cell) {
            QCOMPARE(QString::fromStdString(cell.error().code), read);
            return;
        }
        const auto words = [](const std::optional<double>& v) {
            return v ? QString::number(*v, 'g', 8) : QStringLiteral("-");
        };
        QCOMPARE(
            QStringList({words(cell->volts), words(cell->amps), words(cell->watts),
                         cell->happened.empty() ? "-" : QString::fromStdString(cell->happened), words(cell->after)})
                .join(' '),
            read);
    }
};

QTEST_APPLESS_MAIN(MatrixTest)
#include "matrix_test.moc"
