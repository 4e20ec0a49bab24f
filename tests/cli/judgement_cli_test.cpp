// Judging by the command line: the keys scripts rely on, purposes as files, the sums behind "in use", and what is told
// when something is wrong.
#include <QTest>

#include <QFile>
#include <QJsonArray>
#include <QTemporaryDir>

#include <cmath>

#include "book/store/book.h"
#include "run_cli.h"

using namespace otterstone::testing;

namespace {

const QStringList kBanks{"Pebble 5",   "Cobble 10", "Shingle 10 pad", "Scree 15",
                         "Boulder 20", "Menhir 27", "Dolmen 50",      "Cobble 10, last year's"};
const QStringList kPurposes{"plane", "computer", "small", "overnight", "fast"};

QJsonObject named(const QJsonArray& all, const char* key, const QString& value) {
    for (const auto& one : all) {
        if (one.toObject()[QLatin1String(key)].toString() == value)
            return one.toObject();
    }
    return {};
}

void compareKeys(const QJsonObject& j, const QStringList& keys) {
    for (const QString& key : keys)
        QVERIFY2(j.contains(key), qPrintable(key + " is missing in " + j.keys().join(' ')));
}

} // namespace

class JudgementCliTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;
    QString book_ = folder_.filePath(QStringLiteral("demo.otterstone"));
    QString empty_ = folder_.filePath(QStringLiteral("empty.otterstone"));

    QString write(const QString& name, const QByteArray& text) {
        QFile file(folder_.filePath(name));
        return file.open(QIODevice::WriteOnly) && file.write(text) == text.size() ? file.fileName() : QString();
    }
    /// A bank's figure in the comparison: its value, in the unit of the contract.
    [[nodiscard]] double figure(const QJsonObject& chosen, const QString& key, const QString& bank) const {
        return named(named(chosen["figures"].toArray(), "key", key)["cells"].toArray(), "bank", bank)["figure"]
            .toObject()["value"]
            .toDouble();
    }

private Q_SLOTS:
    void initTestCase() { QVERIFY(cli({"demo", book_}).code == 0); }

    void claims_have_the_keys_of_the_contract_data() {
        QTest::addColumn<QString>("bank");
        for (const QString& bank : kBanks)
            QTest::newRow(qPrintable(bank)) << bank;
    }
    void claims_have_the_keys_of_the_contract() {
        QFETCH(QString, bank);
        const Run r = cli({"claims", book_, "--bank", bank, "--json"});
        QVERIFY2(r.code == 0, qPrintable(r.errors));
        QCOMPARE(r.json()["bank"].toString(), bank);
        const QJsonArray claims = r.json()["claims"].toArray();
        QVERIFY(claims.size() >= 5);
        const QStringList verdicts{"meets", "falls short", "too close to call", "not tested"};
        const QByteArray text = cli({"claims", book_, "--bank", bank, "--all"}).out;
        for (const auto& row : claims) {
            const QJsonObject claim = row.toObject();
            compareKeys(claim,
                        {"key", "claim", "condition", "verdict", "why", "finding", "chance", "runs", "next", "recipe"});
            const QString verdict = claim["verdict"].toString();
            QVERIFY2(verdicts.contains(verdict), qPrintable(verdict));
            QVERIFY(text.contains((claim["claim"].toString() + ": " + verdict).toUtf8()));
            // Decided means found and sure; not tested means neither.
            QCOMPARE(claim["finding"].isNull(), verdict == "not tested");
            if (claim["chance"].isDouble()) {
                const double chance = claim["chance"].toDouble();
                QVERIFY(chance >= 0.0 && chance <= 1.0);
                QVERIFY2(verdict != "meets" || chance > 0.9, qPrintable(claim["why"].toString()));
                QVERIFY2(verdict != "falls short" || chance < 0.1, qPrintable(claim["why"].toString()));
            }
            QVERIFY(verdict == "meets" || verdict == "falls short" ||
                    !claim["next"].toString().isEmpty()); // what would settle it
        }
        QVERIFY(cli({"claims", book_, "--bank", bank, "--working"}).out.size() > text.size());
    }

    // Settled first; what is not tested is one line, until all is wanted.
    void the_label_is_held_by_the_school_that_is_asked_for_data() {
        QTest::addColumn<QString>("school");
        QTest::addColumn<QString>("verdict");
        QTest::addColumn<QString>("condition");
        QTest::newRow("the house's") << ""
                                     << "too close to call"
                                     << "between what goes in and what comes out";
        QTest::newRow("cells") << "cells"
                               << "too close to call"
                               << "between what goes in and what comes out";
        QTest::newRow("what came out") << "came_out"
                                       << "falls short"
                                       << "by what came out of the port";
        QTest::newRow("rated output") << "rated_output"
                                      << "meets"
                                      << "by the rated output";
    }
    void the_label_is_held_by_the_school_that_is_asked_for() {
        QFETCH(QString, school);
        QFETCH(QString, verdict);
        QFETCH(QString, condition);
        QStringList asked{"claims", book_, "--bank", "Cobble 10", "--json"};
        if (!school.isEmpty())
            asked << "--label-by" << school;
        const QJsonObject row = cli(asked).json()["claims"].toArray().first().toObject();
        QCOMPARE(row["key"].toString(), QStringLiteral("energy"));
        QCOMPARE(row["verdict"].toString(), verdict);
        QCOMPARE(row["condition"].toString(), condition);
        QCOMPARE(row["seen"].toArray().size(), 3); // the other schools
    }
    void an_unknown_school_of_the_label_is_refused() {
        const Run r = cli({"claims", book_, "--bank", "Cobble 10", "--label-by", "weight"});
        QCOMPARE(r.code, 2);
        QVERIFY(r.errors.contains("none of its schools"));
    }
    void claims_tell_what_is_open_in_one_line() {
        const QByteArray text = cli({"claims", book_, "--bank", "Menhir 27"}).out;
        QVERIFY2(text.contains(" not tested: ") && text.contains(" would settle ") && text.contains("--all"), text);
        QVERIFY(!text.contains(": not tested ("));
    }
    // What was seen, with its place; the same in both forms.
    void observations_have_their_places() {
        const QJsonArray banks = cli({"observations", book_, "--json"}).json()["banks"].toArray();
        QVERIFY(banks.size() >= 5);
        int rows = 0, bounds = 0;
        const QByteArray text = cli({"observations", book_}).out;
        for (const auto& bank : banks) {
            for (const auto& value : bank.toObject()["observations"].toArray()) {
                const QJsonObject seen = value.toObject();
                QVERIFY(!seen["said"].toString().isEmpty() && !seen["title"].toString().isEmpty());
                QVERIFY2(text.contains(seen["said"].toString().toUtf8()), qPrintable(seen["said"].toString()));
                rows += seen["row"].isNull() ? 0 : 1;
                bounds += seen["limited_by"] == QStringLiteral("nobody asked for more") ? 1 : 0;
            }
        }
        QVERIFY(rows > 20 && bounds > 10);
        const Run one = cli({"observations", book_, "--bank", "Boulder 20"});
        QVERIFY(one.code == 0 && one.out.startsWith("Boulder 20\n"));
        QCOMPARE(cli({"observations", book_, "--bank", "Granite"}).code, 3);
    }
    void devices_stand_side_by_side() {
        const QJsonArray all = cli({"devices", book_, "--json"}).json()["devices"].toArray();
        QVERIFY(all.size() >= 2);
        const Run torch = cli({"devices", book_, "Head torch"});
        QVERIFY2(torch.code == 0 && torch.out.startsWith("Head torch\n"), torch.out);
        QVERIFY(torch.out.contains("points an hour\tPebble 5\t") && torch.out.contains(", the best"));
        for (const auto& value : all) {
            const QJsonObject device = value.toObject();
            if (device["device"] != QStringLiteral("Head torch"))
                continue;
            QVERIFY(device["curves"].toArray().size() >= 3);
            for (const auto& figure : device["figures"].toArray())
                QVERIFY(torch.out.contains(figure.toObject()["bank"].toString().toUtf8()));
        }
        const Run none = cli({"devices", book_, "Kettle"});
        QVERIFY(none.code == 3 && none.errors.contains("no run says what “Kettle” took"));
    }
    void a_purpose_as_a_file_chooses_like_its_name_data() {
        QTest::addColumn<QString>("purpose");
        for (const QString& p : kPurposes)
            QTest::newRow(qPrintable(p)) << p;
    }
    void a_purpose_as_a_file_chooses_like_its_name() {
        QFETCH(QString, purpose);
        const Run shown = cli({"choose", "--show", purpose});
        QCOMPARE(shown.code, 0);
        const Run byName = cli({"choose", book_, "--purpose", purpose, "--json"});
        QVERIFY2(byName.code == 0, qPrintable(byName.errors));
        QCOMPARE(cli({"choose", book_, "--purpose", write("purpose.json", shown.out), "--json"}).out, byName.out);
        const QJsonObject j = byName.json();
        compareKeys(j, {"purpose", "sentence", "banks", "figures"});
        QCOMPARE(j["banks"].toArray().size(), kBanks.size());
        double best = 0.0, last = 101.0;
        bool passes = true;
        for (const auto& one : j["banks"].toArray()) {
            const QJsonObject bank = one.toObject();
            compareKeys(
                bank, {"bank", "score", "chance_best", "leads_under_weights", "passes", "stopped_by", "contributions"});
            // Those that pass come first, by score; a score is the sum of its parts.
            const double score = bank["score"].toObject()["value"].toDouble();
            if (bank["passes"].toBool() != passes) {
                QVERIFY(passes);
                passes = false;
                last = 101.0;
            }
            QVERIFY(score <= last + 1e-9);
            last = score;
            double sum = 0.0;
            for (const auto& part : bank["contributions"].toArray())
                sum += part.toObject()["points"].toDouble();
            QVERIFY(std::fabs(sum - score) < 1e-6);
            QCOMPARE(bank["passes"].toBool(), bank["stopped_by"].toArray().isEmpty());
            QVERIFY(passes || bank["chance_best"].toDouble() == 0.0);
            best += bank["chance_best"].toDouble();
        }
        QVERIFY2(std::fabs(best - 1.0) < 1e-6 || !j["banks"].toArray()[0].toObject()["passes"].toBool(),
                 qPrintable(QString::number(best))); // exactly one is the best
    }
    void gates_and_weights_of_ones_own() {
        const QByteArray own =
            R"({"key": "mine", "name": "Mine", "gates": [{"figure": "weight", "at_most": 400, "words": "must weigh 400 g at most"}],
            "scales": [{"figure": "usable_gentle", "worst": 0, "best": 100, "weight": 1}]})";
        const QJsonObject j = cli({"choose", book_, "--purpose", write("mine.json", own), "--json"}).json();
        QCOMPARE(j["purpose"].toString(), QStringLiteral("mine"));
        for (const QString& bank : kBanks) {
            const QJsonObject one = named(j["banks"].toArray(), "bank", bank);
            const double grams = figure(j, "weight", bank), usable = figure(j, "usable_gentle", bank);
            QVERIFY(grams > 0.0);
            QCOMPARE(one["passes"].toBool(), grams <= 400.0);
            if (usable > 0.0)
                QVERIFY2(std::fabs(one["score"].toObject()["value"].toDouble() - std::min(100.0, usable)) < 1e-6,
                         qPrintable(bank));
        }
        // Only some of them.
        QCOMPARE(cli({"choose", book_, "--bank", "Pebble 5", "--bank", "Scree 15", "--json"})
                     .json()["banks"]
                     .toArray()
                     .size(),
                 2);
    }
    void the_house_is_shown_and_changed() {
        const QString mine = folder_.filePath("house.otterstone"), copy = folder_.filePath("copy.otterstone");
        QVERIFY(QFile::copy(book_, mine));
        const QJsonObject before = cli({"house", mine, "--json"}).json(),
                          plain = cli({"choose", mine, "--json"}).json();
        compareKeys(before, {"schools", "figures", "currency", "rates"});
        QCOMPARE(before["currency"].toString(), QString());
        const Run changed = cli({"house", mine, "--school", "full_when=gauge_says", "--school", "full_share=0.08",
                                 "--currency", "EUR", "--rates", "1 crowns = 0,04 EUR on 2026-11-20"});
        QVERIFY2(changed.code == 0, qPrintable(changed.errors));
        for (const char* said :
             {"full_when=gauge_says", "full_share=0.08", "Prices: in EUR", "1 crowns = 0.04 EUR, as of 2026-11-20"})
            QVERIFY2(changed.out.contains(said), changed.out.constData());
        const QJsonObject inEuros = cli({"choose", mine, "--json"}).json();
        int priced = 0;
        for (const QString& bank : kBanks) {
            const double crowns = figure(plain, "price_per_wh", bank), euros = figure(inEuros, "price_per_wh", bank);
            if (crowns > 0.0 && ++priced)
                QVERIFY2(std::fabs(euros - crowns * 0.04) < 1e-9 * crowns, qPrintable(bank));
        }
        QVERIFY(priced >= 5);
        const QString sheet = folder_.filePath("priced.html");
        QCOMPARE(cli({"report", mine, "--bank", "Pebble 5", "--out", sheet}).code, 0);
        QFile html(sheet);
        QVERIFY(html.open(QIODevice::ReadOnly));
        QVERIFY(html.readAll().contains("19 crowns (0.76 EUR at 0.04 EUR for 1 crowns, as of 2026-11-20)"));
        // The rates are worth nothing in another currency.
        const Run other = cli({"house", mine, "--currency", "GBP"});
        QVERIFY2(other.code == 2 && other.errors.contains("the rates are in EUR"), qPrintable(other.errors));
        QCOMPARE(cli({"house", mine, "--currency", "eur"}).code, 0);
        // It goes with the book.
        QCOMPARE(cli({"export", mine, folder_.filePath("house-bundle")}).code, 0);
        QCOMPARE(cli({"import", folder_.filePath("house-bundle"), copy}).code, 0);
        QCOMPARE(cli({"house", copy, "--json"}).out, cli({"house", mine, "--json"}).out);
        // Back in each price's own.
        QCOMPARE(cli({"house", mine, "--currency", "", "--rates", ""}).code, 0);
        QCOMPARE(figure(cli({"choose", mine, "--json"}).json(), "price_per_wh", "Pebble 5"),
                 figure(plain, "price_per_wh", "Pebble 5"));
    }
    // What cannot be read of a house hides nothing else, is named, and is mended by saying it anew.
    void prices_that_cannot_be_read_hide_nothing_else() {
        const QString mine = folder_.filePath("unreadable.otterstone");
        QVERIFY(QFile::copy(book_, mine));
        QVERIFY(otterstone::book::Book::open(mine).value()->setChoice("prices", "EUR, please"));
        const Run shown = cli({"house", mine});
        QVERIFY(shown.code != 0);
        QVERIFY2(shown.out.contains("full_when=") && !shown.out.contains("Prices:"), shown.out.constData());
        QVERIFY2(shown.errors.contains("this is not JSON"), qPrintable(shown.errors));
        QVERIFY(!cli({"house", mine, "--json"}).json().contains("currency"));
        const Run checked = cli({"check", mine});
        QVERIFY(checked.code != 0);
        QVERIFY2((checked.out + checked.errors.toUtf8()).contains("the house's prices"), checked.out.constData());
        QCOMPARE(cli({"house", mine, "--currency", "EUR", "--rates", ""}).code, 0);
        QCOMPARE(cli({"check", mine}).code, 0);
    }
    void what_no_house_follows_is_refused_data() {
        QTest::addColumn<QStringList>("options");
        QTest::addColumn<QString>("says");
        const auto row = [](const char* name, const QStringList& o, const char* says) {
            QTest::newRow(name) << o << says;
        };
        row("no question", {"--school", "when_full=often"}, "questions are capacity_in");
        row("no answer", {"--school", "full_when=often"}, "Answers are power_low, gauge_says");
        row("a share above a half", {"--school", "full_share=80"}, "full_share is a number from");
        row("rates of nothing", {"--rates", "USD 0.92"}, "no currency that they are in");
        row("the house's own", {"--currency", "EUR", "--rates", "EUR 1.09"}, "the house's own currency");
        row("no number", {"--currency", "EUR", "--rates", "USD a lot"}, "does not say what one is worth");
    }
    void what_no_house_follows_is_refused() {
        QFETCH(QStringList, options);
        QFETCH(QString, says);
        const QByteArray before = cli({"house", book_, "--json"}).out;
        const Run r = cli(QStringList{"house", book_} + options);
        QCOMPARE(r.code, 2);
        QVERIFY2(r.errors.contains(says), qPrintable(r.errors));
        QCOMPARE(cli({"house", book_, "--json"}).out, before);
    }
    void figures_per_kilogram_follow_from_their_parts() {
        const QJsonObject j = cli({"choose", book_, "--json"}).json();
        int compared = 0;
        for (const QString& bank : kBanks) {
            const double usable = figure(j, "usable_gentle", bank), grams = figure(j, "weight", bank),
                         perKilo = figure(j, "wh_per_kg", bank);
            if (usable > 0.0 && grams > 0.0 && ++compared)
                QVERIFY2(std::fabs(perKilo - usable / grams * 1000.0) < 1e-6 * perKilo, qPrintable(bank));
        }
        QVERIFY(compared >= 5);
        const QByteArray listed = cli({"choose", "--figures"}).out;
        for (const auto& row : j["figures"].toArray())
            QVERIFY(listed.contains((row.toObject()["key"].toString() + ": ").toUtf8()));
        QCOMPARE(listed.count('\n'), j["figures"].toArray().size());
    }

    void what_lasts_how_long_is_energy_over_need_data() {
        QTest::addColumn<QStringList>("needs");
        QTest::addColumn<double>("whPerDay");  ///< as the devices use it
        QTest::addColumn<double>("outOfBank"); ///< a day, an efficiency of 85 % into a battery
        QTest::newRow("runs from the bank") << QStringList{"Lamp 5 W 4 h"} << 20.0 << 20.0;
        QTest::newRow("is charged from it") << QStringList{"Tablet 20 Wh 1x empty"} << 20.0 << 20.0 / 0.85;
        QTest::newRow("half a charge a day") << QStringList{"Tablet 20 Wh 0.5x empty"} << 10.0 << 10.0 / 0.85;
        QTest::newRow("both") << QStringList{"Lamp 5 W 4 h", "Tablet 20 Wh 1x empty"} << 40.0 << 20.0 + 20.0 / 0.85;
    }
    void what_lasts_how_long_is_energy_over_need() {
        QFETCH(QStringList, needs);
        QFETCH(double, whPerDay);
        QFETCH(double, outOfBank);
        QStringList arguments{"use", book_, "--json"};
        for (const QString& n : needs)
            arguments << "--need" << n;
        const Run r = cli(arguments);
        QVERIFY2(r.code == 0, qPrintable(r.errors));
        const QJsonObject j = r.json();
        compareKeys(j, {"sentence", "wh_per_day", "take", "take_is_sure", "banks", "warnings"});
        QVERIFY(std::fabs(j["wh_per_day"].toDouble() - whPerDay) < 1e-9);
        const QJsonObject chosen = cli({"choose", book_, "--json"}).json();
        int compared = 0;
        for (const auto& one : j["banks"].toArray()) {
            const QJsonObject bank = one.toObject();
            compareKeys(bank, {"bank", "sentence", "lasts_s", "lasts_devices_empty_s", "verdict", "recharge_on_day",
                               "charges", "in_use"});
            const double usable = figure(chosen, "usable_gentle", bank["bank"].toString());
            if (usable <= 0.0)
                continue;
            ++compared;
            // At these loads a bank gives about what it gives at 1 A, 5 V; a large one somewhat more when it charges
            // something at 10 W.
            const double days = bank["lasts_devices_empty_s"].toObject()["value"].toDouble() / 86400.0;
            QVERIFY2(
                std::fabs(days - usable / outOfBank) < 0.1 * days,
                qPrintable(QStringLiteral("%1: %2 days, %3 Wh").arg(bank["bank"].toString()).arg(days).arg(usable)));
        }
        QVERIFY(compared >= 5);
    }
    void more_days_ask_for_more_banks() {
        qsizetype before = 0;
        for (const char* days : {"1", "4", "8"}) {
            const QJsonObject j = cli({"use", book_, "--need", "Lamp 5 W 4 h", "--days", days, "--json"}).json();
            const QJsonArray take = j["take"].toArray();
            QVERIFY(!take.isEmpty());
            QVERIFY(take.size() >= before);
            before = take.size();
            for (const auto& one : j["banks"].toArray()) {
                const QJsonObject bank = one.toObject();
                const QString verdict = bank["verdict"].toString();
                const double lasts = bank["lasts_s"].toObject()["value"].toDouble(),
                             asked = 86400.0 * QByteArray(days).toDouble();
                QVERIFY2(verdict != "meets" || lasts > asked, qPrintable(bank["sentence"].toString()));
                QVERIFY2(verdict != "falls short" || lasts < asked, qPrintable(bank["sentence"].toString()));
                for (const auto& day : bank["recharge_on_day"].toArray())
                    QVERIFY(day.toDouble() > 0.0 && day.toDouble() < QByteArray(days).toDouble());
            }
        }
        // Nobody lists a thousand days; how often it is, is said all the same.
        const QJsonObject years = cli({"use", book_, "--need", "Lamp 5 W 4 h", "--days", "1000", "--json"}).json();
        const QJsonObject pebble = named(years["banks"].toArray(), "bank", "Pebble 5");
        const double lasts = pebble["lasts_s"].toObject()["value"].toDouble() / 86400.0;
        QCOMPARE(pebble["recharges"].toDouble(), std::ceil(1000.0 / lasts - 1.0));
        QCOMPARE(pebble["recharge_on_day"].toArray().size(), 100);
        QVERIFY2(
            pebble["sentence"].toString().contains(QString::number(pebble["recharges"].toDouble()) + " times in all"),
            qPrintable(pebble["sentence"].toString()));
    }

    void what_is_wrong_is_told_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<QByteArray>("file");
        QTest::addColumn<int>("code");
        QTest::addColumn<QString>("says");
        const QByteArray none;
        QTest::newRow("no book") << QStringList{"claims", "/nowhere/x.otterstone", "--bank", "Pebble 5"} << none << 3
                                 << "/nowhere/x.otterstone";
        QTest::newRow("a book of words") << QStringList{"choose", "FILE"} << QByteArray("words") << 3 << "wrong.file";
        QTest::newRow("no such bank") << QStringList{"claims", "BOOK", "--bank", "Granite"} << none << 3 << "Granite";
        QTest::newRow("no such bank to choose")
            << QStringList{"choose", "BOOK", "--bank", "Granite"} << none << 3 << "Granite";
        QTest::newRow("no such purpose") << QStringList{"choose", "BOOK", "--purpose", "beauty"} << none << 2
                                         << "plane, computer, small, overnight, fast";
        QTest::newRow("nothing to show") << QStringList{"choose", "--show", "beauty"} << none << 2 << "beauty";
        QTest::newRow("choose of what") << QStringList{"choose"} << none << 2 << "name a book";
        QTest::newRow("a purpose of words")
            << QStringList{"choose", "BOOK", "--purpose", "FILE"} << QByteArray("words") << 2 << "wrong.file";
        QTest::newRow("a figure nobody knows")
            << QStringList{"choose", "BOOK", "--purpose", "FILE"}
            << QByteArray(
                   R"({"key": "x", "name": "X", "scales": [{"figure": "smell", "worst": 0, "best": 1, "weight": 1}]})")
            << 2 << "smell";
        QTest::newRow("best is worst")
            << QStringList{"choose", "BOOK", "--purpose", "FILE"}
            << QByteArray(
                   R"({"key": "x", "name": "X", "scales": [{"figure": "weight", "worst": 5, "best": 5, "weight": 1}]})")
            << 2 << "weight";
        QTest::newRow("a weight below none")
            << QStringList{"choose", "BOOK", "--purpose", "FILE"}
            << QByteArray(
                   R"({"key": "x", "name": "X", "scales": [{"figure": "weight", "worst": 5, "best": 1, "weight": -1}]})")
            << 2 << "weight";
        QTest::newRow("nothing is weighed") << QStringList{"choose", "BOOK", "--purpose", "FILE"}
                                            << QByteArray(R"({"key": "x", "name": "X", "scales": []})") << 2 << "scale";
        QTest::newRow("a need without hours")
            << QStringList{"use", "BOOK", "--need", "Lamp forever"} << none << 2 << "watts and hours";
        QTest::newRow("no need") << QStringList{"use", "BOOK"} << none << 2 << "--need";
        QTest::newRow("days of words") << QStringList{"use", "BOOK", "--need", "Lamp 5 W 4 h", "--days", "many"} << none
                                       << 2 << "--days";
    }
    void what_is_wrong_is_told() {
        QFETCH(QStringList, arguments);
        QFETCH(QByteArray, file);
        QFETCH(int, code);
        QFETCH(QString, says);
        arguments.replaceInStrings("BOOK", book_).replaceInStrings("FILE", write("wrong.file", file));
        const Run r = cli(arguments);
        QVERIFY2(r.code == code, qPrintable(QString::number(r.code) + r.errors));
        QVERIFY2(r.errors.contains(says), qPrintable(r.errors));
        QVERIFY(r.out.isEmpty());
    }
    void a_book_without_runs_decides_nothing() {
        QFile bundle(folder_.filePath("bundle/book.json"));
        QVERIFY(cli({"export", book_, folder_.filePath("bundle")}).code == 0);
        QVERIFY(bundle.open(QIODevice::ReadOnly));
        QJsonObject all = QJsonDocument::fromJson(bundle.readAll()).object();
        bundle.close();
        all["runs"] = QJsonArray();
        QVERIFY(bundle.open(QIODevice::WriteOnly | QIODevice::Truncate));
        bundle.write(QJsonDocument(all).toJson());
        bundle.close();
        const Run imported = cli({"import", folder_.filePath("bundle"), empty_});
        QVERIFY2(imported.code == 0, qPrintable(imported.errors));
        for (const auto& row : cli({"claims", empty_, "--bank", "Boulder 20", "--json"}).json()["claims"].toArray()) {
            // Only what a scale and a rule say needs no run.
            const QJsonObject claim = row.toObject();
            QVERIFY2(claim["runs"].toArray().isEmpty(), qPrintable(claim["claim"].toString()));
        }
        const Run chosen = cli({"choose", empty_, "--json"});
        QCOMPARE(chosen.code, 0);
        QCOMPARE(chosen.json()["banks"].toArray().size(), kBanks.size());
        const Run used = cli({"use", empty_, "--need", "Lamp 5 W 4 h"});
        QCOMPARE(used.code, 0);
        QVERIFY(!used.out.isEmpty());
    }
};

QTEST_GUILESS_MAIN(JudgementCliTest)
#include "judgement_cli_test.moc"
