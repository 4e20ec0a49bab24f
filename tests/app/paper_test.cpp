// The sheet on paper: nothing is torn between two pages, nothing is left out, and a table that goes on says again what
// its columns are.
#include <QTest>

#include <random>

#include <QAbstractTextDocumentLayout>
#include <QBuffer>
#include <QPdfWriter>
#include <QProcess>
#include <QRegularExpression>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QTextTable>

#include "app/report/pages.h"
#include "app/report/paper.h"
#include "app/theme.h"

using namespace otterstone;
using namespace otterstone::app;

using Pieces = std::vector<Piece>;
using Edges = QList<QPair<double, double>>;
Q_DECLARE_METATYPE(Pieces)

namespace {

constexpr Band kHead{0.0, 10.0};

// Each so tall and behind the one before; a minus sign: stays with the next.
Pieces stacked(const std::vector<double>& heights, std::size_t rowsFrom = 1000) {
    Pieces all;
    double at = 0.0;
    for (const double h : heights) {
        all.push_back({{at, at + std::abs(h)}, h < 0.0, all.size() >= rowsFrom ? std::optional(kHead) : std::nullopt});
        at += std::abs(h);
    }
    return all;
}

report::Content longSheet(int rows) {
    report::Content c;
    c.title = "Cairn 27 and its neighbours";
    c.sentence = "What was found.";
    c.at = "2026-05-01T10:00:00";
    report::Table t{"verdicts", {{"claim", "Claim"}, {"value", "Found there", true}}, {}, "A note beneath."};
    for (int k = 0; k < rows; ++k) {
        std::string words = "row" + std::to_string(k) + "begins";
        for (int w = 0; w < (k % 5) * 12; ++w)
            words += " and goes on";
        t.rows.push_back(
            {report::Cell::words(words + " row" + std::to_string(k) + "ends"), report::Cell::words(std::to_string(k))});
    }
    std::string much;
    for (int k = 0; k < 400; ++k)
        much += "word" + std::to_string(k) + " ";
    for (int k = 0; k < 6; ++k)
        c.sections.push_back({"s", "Heading " + std::to_string(k), {report::Paragraph{much}, t}});
    return c;
}

} // namespace

class PaperTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void initTestCase() { applyTheme(ThemeKind::Light); }

    void pages_are_cut_between_pieces_data() {
        QTest::addColumn<Pieces>("pieces");
        QTest::addColumn<Edges>("pages");
        QTest::addColumn<int>("heads"); // pages that repeat a table's head
        QTest::newRow("nothing") << Pieces{} << Edges{} << 0;
        QTest::newRow("all on one page") << stacked({30, 30, 40}) << Edges{{0, 100}} << 0;
        QTest::newRow("a row that does not fit goes whole to the next page")
            << stacked({30, 30, 50}) << Edges{{0, 60}, {60, 110}} << 0;
        QTest::newRow("a heading is never last") << stacked({30, 40, -20, 50}) << Edges{{0, 70}, {70, 140}} << 0;
        QTest::newRow("nor are a heading and a table's head")
            << stacked({60, -20, -10, 50}) << Edges{{0, 60}, {60, 140}} << 0;
        QTest::newRow("at the document's end it may be") << stacked({80, -20}) << Edges{{0, 100}} << 0;
        QTest::newRow("headings that fill a page go down as they come")
            << stacked({-60, -60, 30}) << Edges{{0, 60}, {60, 150}} << 0;
        Pieces parted = stacked({20, -10, 20, 30});
        parted[1].newPage = true;
        QTest::newRow("a part that begins a page") << parted << Edges{{0, 20}, {20, 80}} << 0;
        parted = stacked({20, -10, 20, 30});
        parted[2].newPage = true;
        QTest::newRow("a heading before it stays behind") << parted << Edges{{0, 30}, {30, 80}} << 0;
        QTest::newRow("taller than a page")
            << stacked({20, 250, 30}) << Edges{{0, 20}, {20, 120}, {120, 220}, {220, 270}, {270, 300}} << 0;
        // 10 of head and 90 of rows on each page that goes on.
        QTest::newRow("a table goes on under its head")
            << stacked({-10, 45, 45, 45, 45, 20}, 1) << Edges{{0, 100}, {100, 190}, {190, 210}} << 2;
        QTest::newRow("a tall row under its head")
            << stacked({-10, 45, 200}, 1) << Edges{{0, 55}, {55, 145}, {145, 235}, {235, 255}} << 3;
    }
    void pages_are_cut_between_pieces() {
        QFETCH(Pieces, pieces);
        QFETCH(Edges, pages);
        QFETCH(int, heads);
        Edges found;
        int repeated = 0;
        for (const Page& p : cutIntoPages(pieces, 100.0)) {
            found << qMakePair(p.band.from, p.band.to);
            repeated += p.head ? 1 : 0;
        }
        QCOMPARE(found, pages);
        QCOMPARE(repeated, heads);
    }

    void whatever_the_pieces_all_is_printed_once() {
        std::mt19937 random(7);
        for (int turn = 0; turn < 500; ++turn) {
            std::vector<double> heights;
            const std::size_t count = random() % 60;
            for (std::size_t k = 0; k < count; ++k)
                heights.push_back((random() % 4 == 0 ? -1.0 : 1.0) *
                                  static_cast<double>(1 + random() % (random() % 20 == 0 ? 300 : 60)));
            const Pieces pieces = stacked(heights, random() % 30);
            double at = 0.0;
            for (const Page& p : cutIntoPages(pieces, 100.0)) {
                QCOMPARE(p.band.from, at); // nothing left out, nothing twice
                at = p.band.to;
                const double room = 100.0 - (p.head ? p.head->tall() : 0.0);
                QVERIFY2(p.band.tall() > 0.0 && p.band.tall() <= room + 1e-9,
                         qPrintable(QString::number(p.band.tall())));
                for (const Piece& piece : pieces)
                    QVERIFY2(piece.band.to <= at || piece.band.from >= at || piece.band.tall() > room,
                             "a piece that fits on a page is torn");
            }
            QCOMPARE(at, pieces.empty() ? 0.0 : pieces.back().band.to);
        }
    }

    void the_pieces_of_a_sheet_follow_each_other() {
        const auto document = makeDocument(longSheet(20), {}, 600.0);
        document->setLayoutEnabled(true);
        document->setTextWidth(600.0);
        const Pieces pieces = piecesOf(*document);
        double at = 0.0;
        std::size_t rows = 0;
        for (const Piece& p : pieces) {
            QVERIFY2(p.band.from >= at - 0.01,
                     qPrintable(QStringLiteral("%1 begins before %2").arg(p.band.from).arg(at)));
            QVERIFY(p.band.to >= p.band.from);
            at = p.band.to;
            rows += p.head ? 1 : 0;
        }
        QCOMPARE(rows, 6U * 20U);
        QVERIFY(at <= document->size().height() + 0.01);
        // All ink is in some piece: every block of every cell lies within one.
        for (QTextBlock b = document->begin(); b.isValid(); b = b.next()) {
            const QRectF rect = document->documentLayout()->blockBoundingRect(b);
            const bool within = std::any_of(pieces.begin(), pieces.end(), [&](const Piece& p) {
                return p.band.from <= rect.bottom() + 0.01 && p.band.to >= rect.top() - 0.01;
            });
            QVERIFY2(within || b.text().isEmpty(), qPrintable(b.text().left(40)));
        }
    }

    void no_row_is_torn_and_each_page_names_its_columns() {
        const QString reader = QStandardPaths::findExecutable(QStringLiteral("pdftotext"));
        QVERIFY(!reader.isEmpty());
        QTemporaryDir folder;
        const QString file = folder.filePath(QStringLiteral("sheet.pdf"));
        {
            QPdfWriter pdf(file);
            pdf.setPageSize(QPageSize(QPageSize::A4));
            pdf.setResolution(QPicture().logicalDpiX());
            QVERIFY(printOn(pdf, longSheet(40), {}));
        }
        QProcess p;
        p.start(reader, {QStringLiteral("-layout"), file, QStringLiteral("-")});
        QVERIFY(p.waitForFinished(60'000));
        QStringList pages = QString::fromUtf8(p.readAllStandardOutput()).split(QLatin1Char('\f'));
        pages.removeLast(); // behind the last form feed
        QVERIFY(pages.size() > 6);
        int rows = 0;
        static const QRegularExpression begins(QStringLiteral("row(\\d+)begins")),
            ends(QStringLiteral("row(\\d+)ends")), heading(QStringLiteral("Heading \\d\\s*\\n\\s*(Cairn|$)"));
        for (const QString& page : pages) {
            const auto count = [&](const QRegularExpression& what) {
                int n = 0;
                for (auto all = what.globalMatch(page); all.hasNext(); all.next())
                    ++n;
                return n;
            };
            QCOMPARE(count(begins), count(ends));
            rows += count(begins);
            if (count(begins) > 0)
                QVERIFY2(page.contains(QStringLiteral("Found there")), qPrintable(page));
            QVERIFY2(!heading.match(page).hasMatch(), qPrintable(page)); // the foot straight below a heading
        }
        QCOMPARE(rows, 6 * 40);
    }
};

QTEST_MAIN(PaperTest)
#include "paper_test.moc"
