// Prices in the house's currency, as testers tell them: tests/cases/prices.txt. The figures there are products and
// quotients by hand; no published source.
#include <cmath>

#include <QTest>

#include "case_table.h"
#include "core/judgement/compare.h"
#include "core/setup/prices.h"
#include "sources.h"
#include "where.h"

using namespace otterstone;
using otterstone::tests::parts;

namespace {

evidence::Evidence bankOf(const QString& price, double wattHours) {
    evidence::Evidence e;
    e.name = "Cobble 10";
    kinds::RunEntry drain;
    drain.run = 1;
    kinds::Finding f;
    f.kind = records::Kind::Drain;
    f.plateauPower = f.plateauVolts = 5.0;
    f.ends.began = kinds::KnownState{*records::parseState("full", "began"), kinds::StateFrom::Stated, {}};
    f.ends.ended = kinds::KnownState{*records::parseState("empty", "ended"), kinds::StateFrom::Trace, {}};
    f.ends.ending = records::Ending::CutOff;
    f.drain.emplace();
    Working energy;
    energy.key = "energy_at_port_wh";
    energy.unit = Unit::WattHour;
    energy.value = Measured(wattHours, 0.1, testing::source("drain"));
    f.figures = {energy};
    drain.finding = f;
    e.runs = {drain};
    const qsizetype paid = price.indexOf(QLatin1String("paid "));
    records::Bought asked;
    if (!parsePaid(price.left(paid).toStdString(), "price", asked) ||
        (paid >= 0 && !parsePaid(price.mid(paid + 5).toStdString(), "paid", e.bought)))
        qFatal("no price: %s", qPrintable(price));
    e.label.price = asked.paid;
    e.label.currency = asked.currency;
    return e;
}

} // namespace

class PricesTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void the_table_data() {
        QTest::addColumn<QStringList>("row");
        const auto rows = tests::rowsOf(where::cases("prices.txt"), 6);
        QVERIFY(rows.size() >= 20);
        for (const QStringList& row : rows)
            QTest::newRow(qPrintable(row[0])) << row;
    }
    void the_table() {
        QFETCH(QStringList, row);
        const auto prices = setup::parsePrices(row[1].toStdString(), row[2].toStdString(), "the house");
        if (row[5].startsWith(QLatin1String("refused: "))) {
            QVERIFY(!prices);
            QVERIFY2(prices.error().sentence().find(row[5].mid(9).toStdString()) != std::string::npos,
                     prices.error().sentence().c_str());
            return;
        }
        QVERIFY2(prices, prices ? "" : prices.error().sentence().c_str());
        // What a book keeps says the same again.
        const auto again = setup::pricesFromText(pricesToText(*prices), "again");
        QVERIFY(again && *again == *prices);

        evidence::Evidence bank = bankOf(row[3], row[4].toDouble());
        bank.prices = *prices;
        evidence::Evidence other = bankOf(row[1].isEmpty() ? row[3] : "1 " + row[1], 10.0);
        other.prices = *prices;
        const auto compared = judgement::compare({other, bank, other});
        const judgement::Cell& cell = compared.row("price_per_wh")->cells[1];
        const QString said =
            cell.known() ? QString::fromStdString(cell.condition + "\n" + cell.value->note + "\n" + cell.value->formula)
                         : QString();
        for (const QString& one : parts(row[5], ";")) {
            if (one == QLatin1String("no per_wh"))
                QVERIFY(!cell.known());
            else if (one == QLatin1String("unlike"))
                QVERIFY(cell.unlike);
            else if (one.startsWith(QLatin1String("per_wh = ")))
                QVERIFY2(cell.known() && std::fabs(cell.value->value.value() - one.mid(9).toDouble()) < 1e-9,
                         qPrintable(said));
            else if (one.startsWith(QLatin1String("in ")))
                QVERIFY2(cell.measure == one.mid(3).toStdString() && said.contains(one.mid(3) + " per usable Wh") &&
                             cell.shown().ends_with(" " + one.mid(3).toStdString()),
                         qPrintable(said));
            else if (one.startsWith(QLatin1String("!~ ")))
                QVERIFY2(!said.contains(one.mid(3)), qPrintable(said));
            else
                QVERIFY2(one.startsWith(QLatin1String("~ ")) && said.contains(one.mid(2).trimmed()), qPrintable(said));
        }
        if (!row[5].contains(QLatin1String("unlike")))
            QVERIFY(!cell.unlike);
    }
    void what_a_stranger_wrote_is_refused_data() {
        QTest::addColumn<QByteArray>("text");
        QTest::newRow("no JSON") << QByteArray("{");
        QTest::newRow("another format") << QByteArray(R"({"format": "otterstone-recipe", "version": 1})");
        QTest::newRow("a number for a currency")
            << QByteArray(R"({"format": "otterstone-prices", "version": 1, "currency": 7})");
        QTest::newRow("a rate of 1e999") << QByteArray(
            R"({"format": "otterstone-prices", "version": 1, "currency": "EUR", "rates": "USD 1e999"})");
        QTest::newRow("a key that is none")
            << QByteArray(R"({"format": "otterstone-prices", "version": 1, "currency": "EUR", "rate": "USD 0.92"})");
    }
    void what_a_stranger_wrote_is_refused() {
        QFETCH(QByteArray, text);
        const auto prices = setup::pricesFromText(text.toStdString(), "the book");
        QVERIFY(!prices);
        QVERIFY(prices.error().sentence().starts_with("the book"));
    }
};

QTEST_APPLESS_MAIN(PricesTest)
#include "prices_test.moc"
