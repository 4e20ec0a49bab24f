// The sheet: every writer says the same digits, hostile names come through unharmed, and what changed since the last
// one is told.
#include <QTest>

#include <QDir>
#include <QProcess>
#include <QRegularExpression>
#include <QStandardPaths>
#include <QTemporaryDir>

#include <nlohmann/json.hpp>

#include "book/demo/demo.h"
#include "book/store/material.h"
#include "logs/csv.h"
#include "logs/log.h"
#include "report/writers.h"
#include "where.h"

using namespace otterstone;
using namespace otterstone::report;

namespace {

QString run(const QString& program, const QStringList& arguments, int* code = nullptr) {
    QProcess p;
    p.start(program, arguments);
    p.waitForFinished(120'000);
    if (code)
        *code = p.exitCode();
    return QString::fromUtf8(p.readAllStandardOutput()) + QString::fromUtf8(p.readAllStandardError());
}

// Words without the white space that line breaks of a page put between them.
QString packed(QString text) { return text.remove(QRegularExpression(QStringLiteral("\\s"))); }

// The cells of a CSV line by the rule of RFC 4180.
std::vector<std::string> cellsOf(const std::string& line) { return logs::splitLine(line, ','); }

std::vector<std::string> linesOf(const std::string& csv) {
    std::vector<std::string> lines;
    std::string line;
    bool quoted = false;
    for (const char c : csv) {
        quoted = quoted != (c == '"');
        if (c == '\n' && !quoted) {
            lines.push_back(line.substr(0, line.size() - 1)); // CR before it
            line.clear();
        } else {
            line += c;
        }
    }
    return lines;
}

Content hostile(const std::string& name) {
    Content c;
    c.title = name;
    c.sentence = name;
    c.at = "2026-05-01T10:00:00";
    Table t{"verdicts", {{"claim", name}, {"value", "Found", true}}, {{Cell::words(name), Cell::words(name)}}, name};
    c.sections = {{"s", name, {Paragraph{name}, Points{{name}}, t, Picture{"p", name}}}};
    return c;
}

} // namespace

class ReportTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;
    QString demo_;  ///< open here
    QString other_; ///< the same, for other programs
    std::unique_ptr<book::Book> book_;

    [[nodiscard]] Material materialOf(const std::vector<records::Id>& banks) const {
        return book::gatherMaterial(demo_, banks, "2026-05-01T10:00:00").value();
    }
    [[nodiscard]] records::Id bankNamed(const std::string& name) const {
        for (const records::Bank& b : book_->banks()) {
            if (b.name == name)
                return b.id;
        }
        return records::kNew;
    }

private Q_SLOTS:
    void initTestCase() {
        demo_ = folder_.filePath(QStringLiteral("demo.otterstone"));
        auto made = book::makeDemo(demo_);
        QVERIFY(made);
        other_ = folder_.filePath(QStringLiteral("other.otterstone"));
        book_ = std::move(*made);
        QVERIFY(QFile::copy(demo_, other_));
    }

    // A load that only drew read nothing, and is not told among what read.
    void what_read_is_told_apart_from_what_drew() {
        std::map<std::string, bool> reads;
        for (const GearSaid& g : materialOf({bankNamed("Cobble 10")}).gear)
            reads[g.name] = g.reads;
        QVERIFY(reads.at("Bench meter"));
        QVERIFY(!reads.at("Load box 150") && !reads.at("Grey 1 m"));
    }
    void hostile_names_come_through_unharmed_data() {
        QTest::addColumn<QString>("name");
        QTest::newRow("a script") << "<script>alert(1)</script>";
        QTest::newRow("an attribute's end") << "\" onload=\"x' & more";
        QTest::newRow("commas and quotes") << "Pebble, \"the small\", 5";
        QTest::newRow("a new line") << "two\nlines";
        QTest::newRow("a formula") << "=HYPERLINK(\"x\")";
        QTest::newRow("a plus") << "+1+1";
        QTest::newRow("an at sign") << "@SUM(A1)";
        QTest::newRow("right to left") << QString::fromUtf8("סלע 20 (אמיתי)");
        QTest::newRow("a table's bar") << "a | b | c";
        QTest::newRow("markdown") << "**bold** [x](y) # `code`";
        QTest::newRow("a picture of markdown") << "![x](file:///etc/hostname)";
        QTest::newRow("a bare address") << "https://example.org/x www.example.org a@example.org";
        QTest::newRow("a CDATA end") << "]]> <!-- -->";
        QTest::newRow("an override of direction") << QString::fromUtf8("abc\u202Edef");
    }
    void hostile_names_come_through_unharmed() {
        QFETCH(QString, name);
        const Content c = hostile(name.toStdString());
        const QString html = QString::fromStdString(toHtml(
            c,
            {{"p",
              "<svg viewBox=\"0 0 1 1\" xmlns=\"http://www.w3.org/2000/svg\"><rect width=\"1\" height=\"1\"/></svg>"}}));
        QVERIFY(!html.contains(QStringLiteral("<script")));
        QVERIFY(!html.contains(QStringLiteral(" onload=\"")));
        QVERIFY(html.contains(QStringLiteral("<bdi>") + QString::fromStdString(escaped(name.toStdString())) +
                              QStringLiteral("</bdi>")));
        // What a reader of the page gets is the name again.
        QString back = QString::fromStdString(escaped(name.toStdString()));
        for (const auto& [entity, plain] :
             {std::pair("&lt;", "<"), {"&gt;", ">"}, {"&quot;", "\""}, {"&#39;", "'"}, {"&amp;", "&"}})
            back.replace(QLatin1String(entity), QLatin1String(plain));
        QCOMPARE(back, name);

        const auto lines = linesOf(toCsv(c));
        QCOMPARE(lines.size(), std::size_t(2));
        const auto cells = cellsOf(lines[1]);
        QCOMPARE(cells.size(), std::size_t(9));
        const bool formula = QStringLiteral("=+-@").contains(name[0]);
        QCOMPARE(QString::fromStdString(cells[4]), (formula ? QStringLiteral("'") : QString()) + name);

        const auto json = nlohmann::json::parse(toJson(c));
        QCOMPARE(QString::fromStdString(json.at("title").get<std::string>()), name);
        QCOMPARE(QString::fromStdString(json.at("sections")
                                            .at(0)
                                            .at("tables")
                                            .at(0)
                                            .at("rows")
                                            .at(0)
                                            .at("claim")
                                            .at("shown")
                                            .get<std::string>()),
                 name);

        const QString markdown = QString::fromStdString(toMarkdown(c));
        QVERIFY(!markdown.contains(QStringLiteral("<script")));
        QVERIFY(!markdown.contains(QRegularExpression(QStringLiteral("[^\\\\]\\]\\("))));
        for (const char* link : {"https://", "www.", "a@"}) // unless something stands within
            QVERIFY2(!markdown.contains(QLatin1String(link)), link);
        for (const QString& line : markdown.split(QLatin1Char('\n'))) {
            if (line.startsWith(QStringLiteral("| ")))
                QCOMPARE(line.count(QRegularExpression(QStringLiteral("(?<!\\\\)\\|"))), 3); // two columns
        }
        const Table& table = std::get<Table>(c.sections[0].blocks[2]);
        const std::string tsv = toTsv(table);
        QCOMPARE(std::count(tsv.begin(), tsv.end(), '\n'), 2);
        QCOMPARE(std::count(tsv.begin(), tsv.end(), '\t'), 2);
    }
    void a_picture_that_cannot_be_drawn_is_left_out() {
        const std::string html = toHtml(hostile("x"), {});
        QVERIFY(html.find("<figure") == std::string::npos);
    }
    void ids_of_several_pictures_stay_apart() {
        Content c;
        c.sections = {{"s", "S", {Picture{"a", "a"}, Picture{"b", "b"}}}};
        const std::string svg =
            "<?xml version=\"1.0\"?>\n<svg width=\"10mm\" height=\"5mm\" viewBox=\"0 0 1 1\"><defs><pattern id=\"fill1\"/></defs><rect fill=\"url(#fill1)\" width=\"1\"/></svg>";
        const std::string html = toHtml(c, {{"a", svg}, {"b", svg}});
        for (const char* id : {"id=\"p1-fill1\"", "url(#p1-fill1)", "id=\"p2-fill1\"", "url(#p2-fill1)"})
            QVERIFY2(html.find(id) != std::string::npos, id);
        QVERIFY(html.find("<?xml") == std::string::npos);
        QVERIFY(html.find("10mm") == std::string::npos);
        QVERIFY(html.find("fill=\"url(#p1-fill1)\" width=\"1\"") !=
                std::string::npos); // only the picture's own size goes
    }

    // Screen, HTML, PDF, CSV, JSON, Markdown and the command line: the same digits for the same figure, over the whole
    // demo book.
    void every_figure_of_the_demo_reads_the_same_everywhere() {
        int figures = 0;
        const QString findings = run(where::cli(), {QStringLiteral("findings"), other_});
        for (const records::Bank& bank : book_->banks()) {
            const Material m = materialOf({bank.id});
            const Content c = makeContent(m);
            const QString name = QString::fromStdString(bank.name);
            for (const QString ending : {"html", "pdf", "md", "csv", "json"}) {
                int code = -1;
                const QString said = run(where::cli(),
                                         {QStringLiteral("report"), other_, QStringLiteral("--bank"), name,
                                          QStringLiteral("--out"), folder_.filePath(QStringLiteral("sheet.") + ending)},
                                         &code);
                QVERIFY2(code == 0, qPrintable(said));
            }
            const auto text = [&](const char* ending) {
                QFile f(folder_.filePath(QStringLiteral("sheet.") + QLatin1String(ending)));
                (void)f.open(QIODevice::ReadOnly);
                return QString::fromUtf8(f.readAll());
            };
            const QString html = text("html"), markdown = text("md"), csv = text("csv"), json = text("json");
            const QString pdf = packed(
                run(QStringLiteral("pdftotext"),
                    {QStringLiteral("-layout"), folder_.filePath(QStringLiteral("sheet.pdf")), QStringLiteral("-")}));
            const QString pdfRaw = packed(
                run(QStringLiteral("pdftotext"),
                    {QStringLiteral("-raw"), folder_.filePath(QStringLiteral("sheet.pdf")), QStringLiteral("-")}));
            QVERIFY(findings.contains(name));
            for (const RunSaid& r : m.banks.front().runs) {
                // The run's own finding, as the window's figures show it.
                const auto finding = book_->finding(r.run);
                QVERIFY(finding);
                QVERIFY2(findings.contains(QString::fromStdString(finding->sentence)), r.title.c_str());
                const Table* table = nullptr;
                for (const Section& s : c.sections) {
                    for (const Block& b : s.blocks) {
                        if (const auto* t = std::get_if<Table>(&b); t && s.key == "run:" + std::to_string(r.run))
                            table = t;
                    }
                }
                QVERIFY(table || finding->figures.empty());
                for (const Working& w : finding->figures) {
                    const QString shown = QString::fromStdString(w.isText ? w.note : w.shown());
                    const auto says = [&](bool byName) {
                        return std::any_of(table->rows.begin(), table->rows.end(), [&](const auto& row) {
                            return row[1].text == shown.toStdString() && (!byName || row[0].text == w.label);
                        });
                    };
                    if (!says(true)) { // stands there already by another name, or means nothing of a taper
                        QVERIFY2(says(false) || (w.key.starts_with("heat_") && finding->recharge), w.label.c_str());
                        continue;
                    }
                    if (shown.isEmpty())
                        continue;
                    ++figures;
                    const auto where = qPrintable(QString::fromStdString(r.title + ": " + w.label + ": ") + shown);
                    QVERIFY2(html.contains(QString::fromStdString(escaped(shown.toStdString()))), where);
                    QVERIFY2(csv.contains(QString::fromStdString(logs::textCell(shown.toStdString()))), where);
                    if (!w.isText) {
                        QVERIFY2(markdown.contains(shown), where);
                        QVERIFY2(json.contains(shown), where);
                        QVERIFY2(pdf.contains(packed(shown)) || pdfRaw.contains(packed(shown)), where);
                    }
                }
            }
            // Claims: the sheet's verdicts are the command line's.
            const QString claims = run(where::cli(), {QStringLiteral("claims"), other_, QStringLiteral("--bank"), name,
                                                      QStringLiteral("--all")});
            for (const auto& row : tablesOf(c, "verdicts").front()->rows) {
                const QString line = QStringLiteral("%1: %2 (%3)")
                                         .arg(QString::fromStdString(row[0].text), QString::fromStdString(row[3].text),
                                              QString::fromStdString(row[5].text));
                QVERIFY2(claims.contains(line), qPrintable(line));
                QVERIFY2(html.contains(QString::fromStdString(escaped(row[5].text))), qPrintable(line));
            }
        }
        QVERIFY2(figures > 300, qPrintable(QString::number(figures)));
    }
    void the_comparison_reads_the_same_everywhere() {
        const Content c = makeContent(materialOf({}));
        const auto json = nlohmann::json::parse(toJson(c));
        const QString html = QString::fromStdString(toHtml(c, {})), csv = QString::fromStdString(toCsv(c)),
                      markdown = QString::fromStdString(toMarkdown(c));
        for (const Table* t : tablesOf(c, "figures")) {
            QCOMPARE(t->columns.size(), book_->banks().size() + 1);
            for (const auto& row : t->rows) {
                for (const Cell& cell : row) {
                    const QString shown = QString::fromStdString(cell.text);
                    QVERIFY2(html.contains(QString::fromStdString(escaped(cell.text))), qPrintable(shown));
                    QVERIFY2(markdown.contains(QString(shown).replace(QLatin1Char('*'), QStringLiteral("\\*"))),
                             qPrintable(shown));
                    QVERIFY2(&cell == &row.front() || csv.contains(QString::fromStdString(logs::textCell(cell.text))),
                             qPrintable(shown));
                }
            }
        }
        QCOMPARE(QString::fromStdString(json.at("sentence").get<std::string>()), QString::fromStdString(c.sentence));
        const QString chosen = run(where::cli(), {QStringLiteral("choose"), other_});
        QVERIFY2(chosen.contains(QString::fromStdString(c.sentence)), qPrintable(chosen));
    }
    void the_demo_sheets_are_valid_and_ask_the_network_for_nothing_data() {
        QTest::addColumn<QStringList>("which");
        QTest::newRow("a bank") << QStringList{QStringLiteral("--bank"), QStringLiteral("Boulder 20")};
        QTest::newRow("all banks compared") << QStringList{};
    }
    void the_demo_sheets_are_valid_and_ask_the_network_for_nothing() {
        QFETCH(QStringList, which);
        const QString file = folder_.filePath(QStringLiteral("valid.html"));
        int code = -1;
        (void)run(where::cli(), QStringList{QStringLiteral("report"), other_, QStringLiteral("--out"), file} + which,
                  &code);
        QCOMPARE(code, 0);
        const QString said = run(QStringLiteral("tidy"),
                                 {QStringLiteral("-q"), QStringLiteral("-e"), QStringLiteral("-utf8"), file}, &code);
        QVERIFY2(code == 0, qPrintable(said)); // 1 warnings, 2 errors
        QFile f(file);
        QVERIFY(f.open(QIODevice::ReadOnly));
        QString html = QString::fromUtf8(f.readAll());
        QVERIFY(html.count(QStringLiteral("<svg")) >= 3);
        html.remove(QStringLiteral("http://www.w3.org/2000/svg"))
            .remove(QStringLiteral("http://www.w3.org/1999/xlink"));
        for (const char* asks : {"http:", "https:", "<script", "<link", "<img", "@import", "<iframe", "src="})
            QVERIFY2(!html.contains(QLatin1String(asks)), asks);
    }
    // Where a browser is at hand it must open the sheet and ask for nothing.
    void a_browser_opens_it() {
        const QString browser = QStandardPaths::findExecutable(QStringLiteral("chromium"));
        if (browser.isEmpty())
            QSKIP("no browser here");
        const QString file = folder_.filePath(QStringLiteral("valid.html"));
        QVERIFY(QFile::exists(file));
        const QString dom = run(
            browser, {QStringLiteral("--headless"), QStringLiteral("--no-sandbox"), QStringLiteral("--disable-gpu"),
                      QStringLiteral("--disable-background-networking"), QStringLiteral("--disable-component-update"),
                      QStringLiteral("--disable-sync"), QStringLiteral("--no-first-run"),
                      QStringLiteral("--user-data-dir=") + folder_.filePath(QStringLiteral("profile")),
                      QStringLiteral("--dump-dom"), QStringLiteral("file://") + file});
        QVERIFY(dom.contains(QStringLiteral("<h1><bdi>8 banks side by side")));
        QVERIFY(!dom.contains(QStringLiteral("Refused to")));
    }

    void what_changed_is_told_by_name() {
        Published before, now;
        before.method = 1;
        now.method = 2;
        before.figures = {{"Gentle: energy, Value", "32.7 Wh"}, {"Gentle: gone", "1 W"}, {"Gentle: same", "5 V"}};
        now.figures = {{"Gentle: energy, Value", "30.7 Wh"}, {"Gentle: same", "5 V"}, {"Gentle: new", "2 W"}};
        before.means = {{"meter Pocket meter", "clock × 1"}, {"school: capacity in", "Wh"}};
        now.means = {{"meter Pocket meter", "clock × 1.06"}, {"school: capacity in", "Wh"}};
        const Changes c = changesBetween(before, now);
        QCOMPARE(c.means.size(), std::size_t(2));
        QVERIFY((c.means[0] == Change{"method", "version 1", "version 2"}));
        QVERIFY((c.means[1] == Change{"meter Pocket meter", "clock × 1", "clock × 1.06"}));
        QCOMPARE(c.figures.size(), std::size_t(3));
        QVERIFY((c.figures[0] == Change{"Gentle: energy, Value", "32.7 Wh", "30.7 Wh"}));
        QVERIFY((c.figures[1] == Change{"Gentle: new", "unknown", "2 W"}));
        QVERIFY((c.figures[2] == Change{"Gentle: gone", "1 W", "unknown"}));
        QCOMPARE(fromJson(toJson(before), before.at, 1)->figures, before.figures);
        QCOMPARE(fromJson(toJson(before), before.at, 1)->means, before.means);
        QVERIFY(!fromJson("{}", "", 1) && !fromJson("[", "", 1) &&
                !fromJson(R"({"figures": [1], "means": {}})", "", 1));
    }
    // Published, a meter's clock corrected, published again: the second sheet says what was corrected and which figures
    // moved.
    void a_correction_shows_in_the_next_sheet() {
        const records::Id pebble = bankNamed("Pebble 5");
        const Material first = materialOf({pebble});
        QVERIFY(!first.before);
        QVERIFY(book::rememberPublished(*book_, first, makeContent(first)));
        const Content same = makeContent(materialOf({pebble}));
        QVERIFY(tablesOf(same, "changed_means").empty() && tablesOf(same, "changed_figures").empty());
        for (records::Gear g : book_->gear()) {
            if (g.name == "Bench meter") {
                g.clock = Stated(1.02, 0.001);
                QVERIFY(book_->save(g));
            }
        }
        const Content next = makeContent(materialOf({pebble}));
        const auto means = tablesOf(next, "changed_means");
        QCOMPARE(means.size(), std::size_t(1));
        QCOMPARE(means.front()->rows.front()[0].text, std::string("meter Bench meter"));
        QVERIFY(means.front()->rows.front()[2].text.find("1.02") != std::string::npos);
        QVERIFY(tablesOf(next, "changed_figures").front()->rows.size() > 10);
        QVERIFY(QString::fromStdString(toHtml(next, {}))
                    .contains(QStringLiteral("What changed since it was last published")));
    }

    void wrong_calls_are_told_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<int>("code");
        QTest::addColumn<QString>("says");
        QTest::newRow("another ending") << QStringList{"--out", "sheet.doc"} << 2 << ".html, .pdf, .md, .csv or .json";
        QTest::newRow("no such bank, text") << QStringList{"--bank", "Granite", "--out", "x.md"} << 3 << "Granite";
        QTest::newRow("no such bank, drawn") << QStringList{"--bank", "Granite", "--out", "x.html"} << 3 << "Granite";
        QTest::newRow("no folder, text") << QStringList{"--out", "/nowhere/at/all/x.md"} << 4 << "could not be written";
        QTest::newRow("no folder, drawn")
            << QStringList{"--out", "/nowhere/at/all/x.html"} << 4 << "could not be written";
        QTest::newRow("no such purpose") << QStringList{"--purpose", "beauty", "--out", "x.json"} << 2 << "beauty";
        QTest::newRow("no out") << QStringList{} << 2 << "--out";
    }
    void wrong_calls_are_told() {
        QFETCH(QStringList, arguments);
        QFETCH(int, code);
        QFETCH(QString, says);
        int got = -1;
        const QString said = run(where::cli(), QStringList{QStringLiteral("report"), other_} + arguments, &got);
        QVERIFY2(said.contains(says), qPrintable(said));
        QCOMPARE(got, code);
    }
    // The window may be open all day: reading beside it is no second writer. Only what is to be remembered is refused,
    // with who holds it.
    void a_sheet_is_written_beside_an_open_window() {
        int code = -1;
        for (const char* ending : {"md", "html"}) {
            const QString said =
                run(where::cli(),
                    {QStringLiteral("report"), demo_, QStringLiteral("--bank"), QStringLiteral("Pebble 5"),
                     QStringLiteral("--out"), folder_.filePath(QStringLiteral("beside.") + QLatin1String(ending))},
                    &code);
            QVERIFY2(code == 0, qPrintable(said));
        }
        for (const QStringList& other :
             {QStringList{"claims", demo_, "--bank", "Pebble 5"}, QStringList{"choose", demo_},
              QStringList{"use", demo_, "--need", "Camera 2 W 8 h"}}) {
            const QString said = run(where::cli(), other, &code);
            QVERIFY2(code == 0, qPrintable(said));
        }
        const QString refused = run(where::cli(),
                                    {QStringLiteral("report"), demo_, QStringLiteral("--publish"),
                                     QStringLiteral("--out"), folder_.filePath(QStringLiteral("beside.md"))},
                                    &code);
        QCOMPARE(code, 3);
        QVERIFY2(refused.contains(QStringLiteral("open elsewhere")), qPrintable(refused));
    }
    void the_raw_bundle_goes_with_it() {
        const QString file = folder_.filePath(QStringLiteral("with.csv"));
        int code = -1;
        (void)run(where::cli(),
                  {QStringLiteral("report"), other_, QStringLiteral("--bank"), QStringLiteral("Pebble 5"),
                   QStringLiteral("--out"), file, QStringLiteral("--bundle")},
                  &code);
        QCOMPARE(code, 0);
        QVERIFY(QFile::exists(file + QStringLiteral(".bundle/book.json")));
    }
};

QTEST_GUILESS_MAIN(ReportTest)
#include "report_test.moc"
