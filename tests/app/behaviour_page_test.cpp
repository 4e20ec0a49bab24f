// Sheets in the real window: written down by keyboard, saved, undone, reopened, printed; and a recipe that fills one
// in.
#include <QTest>

#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QGuiApplication>
#include <QHeaderView>
#include <QLineEdit>
#include <QListWidget>
#include <QPainter>
#include <QPdfWriter>
#include <QPushButton>
#include <QSettings>
#include <QSignalSpy>
#include <QSplitter>

#include "app/behaviour/behaviour_view.h"
#include "app/behaviour/matrix_bar.h"
#include "app/behaviour/pictures.h"
#include "app/behaviour/sheet_model.h"
#include "app/gear/gear_panel.h"
#include "app/live/live_page.h"
#include "app/live/setup_view.h"
#include "app/runs/about_panel.h"
#include "app/runs/run_page.h"
#include "app/shelf/shelf.h"
#include "app/widgets/figure_button.h"
#include "app/widgets/typing_grid.h"
#include "book/exchange/bundle.h"
#include "core/kinds/matrix/matrix.h"
#include "demo_window.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::app;
using namespace otterstone::testing;

class BehaviourPageTest : public QObject {
    Q_OBJECT

    DemoWindow window_;

    [[nodiscard]] book::Book& book() const { return window_.book(); }
    [[nodiscard]] records::Id bankNamed(const std::string& name) const { return window_.bankNamed(name); }
    [[nodiscard]] BehaviourView* view() const { return window_->runPage()->behaviour(); }
    // To whoever has the keyboard: the first key opens the cell's editor, and an editor commits from the event loop.
    static void type(const QString& text, int key) {
        for (const QChar c : text)
            QTest::keyClicks(QApplication::focusWidget(), QString(c));
        QTest::keyClick(QApplication::focusWidget(), static_cast<Qt::Key>(key));
        QCoreApplication::processEvents();
    }

    // As a hand does it: pressed, moved while held, let go.
    static void drag(QWidget* on, QPoint from, int by) {
        const QPoint to = from + QPoint(by, 0);
        const auto send = [&](QEvent::Type type, QPoint at, Qt::MouseButton button, Qt::MouseButtons held) {
            QMouseEvent event(type, at, on->mapToGlobal(at), button, held, Qt::NoModifier);
            QCoreApplication::sendEvent(on, &event);
        };
        send(QEvent::MouseButtonPress, from, Qt::LeftButton, Qt::LeftButton);
        send(QEvent::MouseMove, to, Qt::NoButton, Qt::LeftButton);
        send(QEvent::MouseButtonRelease, to, Qt::LeftButton, Qt::NoButton);
    }
    // The first sheet of a kind in the demo.
    void showSheet(records::Kind kind) {
        for (const records::Bank& bank : book().banks()) {
            for (const records::Run& run : book().runs(bank.id)) {
                if (run.kind == kind)
                    return window_->showRuns(bank.id, run.id);
            }
        }
        QFAIL("no such sheet");
    }

private Q_SLOTS:
    void initTestCase() { QVERIFY(window_.prepare(false)); }
    void init() { QVERIFY(window_.openCopy()); }
    void cleanup() { window_.close(); }

    void a_column_that_was_pulled_wide_stays_so_data() {
        QTest::addColumn<int>("kind");
        QTest::newRow("a survey") << static_cast<int>(records::Kind::Survey);
        QTest::newRow("a matrix") << static_cast<int>(records::Kind::Matrix);
    }
    void a_column_that_was_pulled_wide_stays_so() {
        QFETCH(int, kind);
        const auto shown = [&] {
            showSheet(static_cast<records::Kind>(kind));
            return (kind == static_cast<int>(records::Kind::Matrix) ? view()->matrixGrid() : view()->grid())
                ->horizontalHeader();
        };
        QHeaderView* header = shown();
        QTRY_VERIFY(header->isVisible());
        const int wide = header->sectionSize(0) + 37;
        drag(header->viewport(),
             {header->sectionViewportPosition(0) + header->sectionSize(0) - 1, header->height() / 2}, 37);
        QCOMPARE(header->sectionSize(0), wide);
        window_.close();
        QVERIFY(window_.openCopy());
        QTRY_COMPARE(shown()->sectionSize(0), wide);
        QSettings().remove(QStringLiteral("widths"));
    }
    void the_panel_at_the_side_stays_as_wide_as_it_was_left() {
        const auto parts = [&] {
            showSheet(records::Kind::Survey);
            window_->showAbout(window_->runPage()->run());
            return window_->findChild<QSplitter*>();
        };
        QSplitter* split = parts();
        QTRY_VERIFY(split->handle(1)->isVisible());
        const int before = split->sizes()[1];
        drag(split->handle(1), split->handle(1)->rect().center(), -60);
        QCOMPARE(split->sizes()[1], before + 60);
        window_.close();
        QVERIFY(window_.openCopy());
        QTRY_COMPARE(parts()->sizes()[1], before + 60);
        QSettings().remove(QStringLiteral("widths"));
    }

    void six_chargers_by_five_cables_are_filled_by_keyboard_saved_reopened_and_printed() {
        for (const char* name : {"Dock lamp 30", "Old block 5"}) {
            records::Gear g;
            g.kind = records::GearKind::Charger;
            g.name = name;
            g.watts = 30.0;
            QVERIFY(window_->session().addGear(g));
        }
        for (const char* name : {"Flat green", "Coiled"}) {
            records::Gear g;
            g.kind = records::GearKind::Cable;
            g.name = name;
            QVERIFY(window_->session().addGear(g));
        }
        window_->shelf()->select(bankNamed("Boulder 20"));
        QTest::keyClick(window_.get(), Qt::Key_6, Qt::ControlModifier | Qt::AltModifier);
        QVERIFY(view()->isVisible());
        TypingGrid* grid = view()->matrixGrid();
        QTRY_VERIFY(grid->hasFocus());
        QCOMPARE(grid->model()->rowCount(), 6);
        QCOMPARE(grid->model()->columnCount(), 5);
        for (int row = 0; row < 6; ++row) {
            for (int column = 0; column < 5; ++column) {
                grid->setCurrentIndex(grid->model()->index(row, column));
                type(QStringLiteral("9 V %1 W").arg(10 + row + column), column < 4 ? Qt::Key_Tab : Qt::Key_Return);
            }
        }
        const records::Id id = window_->runPage()->run();
        QCOMPARE(book().run(id)->sheet->rows.size(), std::size_t(30));
        QVERIFY(view()->sentence().contains("Most comes in with"));
        QVERIFY(view()->sentence().contains("9 V 19 W"));
        // What cannot be is told, and changes nothing.
        grid->setCurrentIndex(grid->model()->index(0, 0));
        type(QStringLiteral("2 A"), Qt::Key_Return);
        QTRY_VERIFY(says(window_.get(), QStringLiteral("amps alone give no watts")));
        QCOMPARE(book().run(id)->sheet->rows.size(), std::size_t(30));
        // Taken back step by step, and done again.
        QVERIFY(window_->session().history().undo());
        QCOMPARE(book().run(id)->sheet->rows.size(), std::size_t(29));
        QVERIFY(window_->session().history().redo());
        QCOMPARE(book().run(id)->sheet->rows.size(), std::size_t(30));
        // Reopened it is the same.
        const records::Run before = *book().run(id);
        const QString sentence = view()->sentence(), path = book().path();
        window_.close();
        QVERIFY(window_.open(path));
        window_->showRuns(before.bank, id);
        QCOMPARE(book().run(id)->sheet, before.sheet);
        QCOMPARE(view()->sentence(), sentence);
        // On paper.
        const QString paper = window_.file(QStringLiteral("matrix.pdf"));
        {
            QPdfWriter pdf(paper);
            pdf.setPageSize(QPageSize(QPageSize::A4));
            view()->print(pdf);
        }
        QFile file(paper);
        QVERIFY(file.open(QIODevice::ReadOnly) && file.readAll().startsWith("%PDF") && file.size() > 8000);
        // And through the bundle.
        QVERIFY(book::exportBundle(book(), window_.file(QStringLiteral("bundle"))));
        const auto back =
            book::importBundle(window_.file(QStringLiteral("bundle")), window_.file(QStringLiteral("back.otterstone")));
        QVERIFY2(back.has_value(), back ? "" : back.error().sentence().c_str());
        bool found = false;
        for (const records::Bank& b : (*back)->banks()) {
            for (const records::Run& r : (*back)->runs(b.id))
                found = found || r.sheet == before.sheet;
        }
        QVERIFY(found);
    }
    // Six sources, five cables, three places, two states: the sources and cables that the drawer does not have are
    // added by their names, as are the devices and the states.
    void six_by_five_by_three_by_two_by_keyboard() {
        window_->shelf()->select(bankNamed("Boulder 20"));
        QTest::keyClick(window_.get(), Qt::Key_6, Qt::ControlModifier | Qt::AltModifier);
        TypingGrid* grid = view()->matrixGrid();
        MatrixBar* bar = view()->matrixBar();
        QTRY_VERIFY(grid->hasFocus());
        const auto press = [](Qt::Key key) {
            QTest::keyClick(QApplication::focusWidget(), key, Qt::ControlModifier);
            QCoreApplication::processEvents();
        };
        const auto layer = [&](std::size_t which, const char* name) {
            bar->layer(which)->setFocus();
            bar->layer(which)->lineEdit()->selectAll();
            type(QString::fromLatin1(name), Qt::Key_Return);
            QVERIFY(grid->hasFocus());
        };
        QCOMPARE(bar->layer(0)->accessibleName(), QStringLiteral("Into"));
        while (grid->model()->rowCount() < 6) {
            press(Qt::Key_E);
            type(QStringLiteral("Block %1").arg(grid->model()->rowCount()), Qt::Key_Return);
        }
        while (grid->model()->columnCount() < 5) {
            press(Qt::Key_E);
            press(Qt::Key_E); // twice: across
            type(QStringLiteral("Cord %1").arg(grid->model()->columnCount()), Qt::Key_Return);
        }
        layer(1, "lid open");
        layer(1, "lid shut");
        layer(0, "Slate pad");
        layer(0, "Quarry laptop");
        const QString input = bar->layer(0)->itemText(0);
        int typed = 0;
        for (const QString& into : {input, QStringLiteral("Slate pad"), QStringLiteral("Quarry laptop")}) {
            layer(0, qPrintable(into));
            layer(1, "lid open");
            for (int state = 0; state < 2; ++state) {
                // Devices are charged from this bank's outputs as well: as many sources as there are.
                const int rows = std::min(6, grid->model()->rowCount());
                QCOMPARE(rows, 6);
                for (int row = 0; row < rows; ++row) {
                    for (int column = 0; column < 5; ++column, ++typed) {
                        grid->setCurrentIndex(grid->model()->index(row, column));
                        // Nothing gets into the laptop while its lid is open.
                        const bool nothing = into.startsWith("Quarry") && state == 0;
                        type(nothing ? QStringLiteral("nothing") : QStringLiteral("9 V %1 W").arg(6 + row + column),
                             Qt::Key_Return);
                    }
                }
                press(Qt::Key_PageDown); // the next layer
            }
        }
        QCOMPARE(typed, 6 * 5 * 3 * 2);
        const records::Id id = window_->runPage()->run();
        QCOMPARE(book().run(id)->sheet->rows.size(), std::size_t(180));
        const QString said = view()->sentence();
        QVERIFY2(said.contains("Quarry laptop is charged by none of 30 combinations when “lid open”, by 30 of 30 when "
                               "“lid shut”."),
                 qPrintable(said));
        QVERIFY2(said.contains("Slate pad (lid open, 9 V 15 W)"), qPrintable(said));
        // In a layer of which no state is stated: it stays there, though the rows above it have one.
        layer(1, "-");
        grid->setCurrentIndex(grid->model()->index(0, 0));
        type(QStringLiteral("5.00 V 1.0 A"), Qt::Key_Return);
        QCOMPARE(grid->model()->index(0, 0).data().toString(), QStringLiteral("5.00 V 1.0 A"));
        QCOMPARE(book().run(id)->sheet->rows.back()[kinds::columnAt(*book().run(id)->sheet, "state")],
                 std::string(kinds::kNotStated));
        QVERIFY(window_->session().history().undo());
        QCOMPARE(view()->sentence(), said);
        // The same data turned: devices down, sources across; what was written stands there as it was typed.
        bar->turned()->setFocus();
        bar->turned()->setCurrentText(QStringLiteral("Into × source"));
        QTest::keyClick(bar->turned(), Qt::Key_Down);
        QTest::keyClick(bar->turned(), Qt::Key_Up);
        QCOMPARE(grid->model()->headerData(0, Qt::Vertical).toString(), input);
        QCOMPARE(bar->layer(0)->accessibleName(), QStringLiteral("Cable"));
        QCOMPARE(grid->model()->index(0, 0).data().toString().isEmpty(),
                 grid->model()->headerData(0, Qt::Horizontal).toString().startsWith('C')); // its own outputs
        QCOMPARE(view()->sentence(), said);
        // Cells of a spreadsheet, all of them or none.
        bar->turned()->setCurrentIndex(0);
        Q_EMIT bar->turned()->activated(0);
        layer(0, "Lamp");
        QGuiApplication::clipboard()->setText(QStringLiteral("5 W\t4 W\n3 W\tsoon\n"));
        grid->setCurrentIndex(grid->model()->index(0, 0));
        press(Qt::Key_V);
        QTRY_VERIFY(says(window_.get(), QStringLiteral("“soon” says no watts")));
        QCOMPARE(book().run(id)->sheet->rows.size(), std::size_t(180));
        QGuiApplication::clipboard()->setText(QStringLiteral("5 W\t4 W\n3 W\tnothing\n"));
        press(Qt::Key_V);
        QCOMPARE(book().run(id)->sheet->rows.size(), std::size_t(184));
        QVERIFY(window_->session().history().undo());
        QCOMPARE(book().run(id)->sheet->rows.size(), std::size_t(180));
    }
    void a_sharing_round_is_told_as_it_is_typed() {
        window_->shelf()->select(bankNamed("Cobble 10"));
        QTest::keyClick(window_.get(), Qt::Key_3, Qt::ControlModifier | Qt::AltModifier);
        TypingGrid* grid = view()->grid();
        QTRY_VERIFY(grid->hasFocus());
        // The pairs stand there already: the keyboard begins at the first reading.
        QCOMPARE(grid->model()->index(0, 1).data().toString(), QStringLiteral("C"));
        QCOMPARE(grid->currentIndex().column(), 2);
        for (const auto& row : {std::array{"9", "2", "5", "1.8"}, {"5", "1", "5", "1"}}) {
            for (std::size_t k = 0; k < 4; ++k)
                type(QString::fromUtf8(row[k]), k < 3 ? Qt::Key_Tab : Qt::Key_Return);
        }
        QVERIFY2(view()->sentence().contains("C fell from 9 V 18 W to 5 V 9 W and A kept 5 V 5 W"),
                 qPrintable(view()->sentence()));
        // A slip is told at its row, and the rest stands.
        grid->setCurrentIndex(grid->model()->index(0, 3));
        grid->setFocus();
        type(QStringLiteral("two"), Qt::Key_Return);
        QVERIFY(says(view(), QStringLiteral("row 1, Alone A")));
    }
    // A sheet has no ribbon: its gear is chosen beside it, and its ± is then the meter's.
    void a_sheet_names_its_gear() {
        window_->shelf()->select(bankNamed("Cobble 10"));
        QTest::keyClick(window_.get(), Qt::Key_1, Qt::ControlModifier | Qt::AltModifier);
        view()->model()->paste(view()->model()->index(0, 0), QStringLiteral("C\tout\t5\tyes\t3\t4.94\n"));
        const auto shown = [&] {
            QStringList all;
            for (auto* figure : view()->findChildren<FigureButton*>())
                all << figure->accessibleName();
            return all.join(QLatin1Char('\n'));
        };
        const auto button = [&](const QString& begins) {
            for (auto* b : window_->aboutPanel()->findChildren<QPushButton*>()) {
                if (b->isVisible() && b->text().startsWith(begins))
                    return b;
            }
            return static_cast<QPushButton*>(nullptr);
        };
        const QString before = shown();
        const auto choose = [&](const QString& piece, const QString& name) {
            QTest::keyClick(window_.get(), Qt::Key_T, Qt::ControlModifier);
            QPushButton* open = button(piece + QStringLiteral("…"));
            QVERIFY2(open, qPrintable(piece));
            open->click();
            QComboBox* box = window_->gearPanel()->piece();
            QTRY_VERIFY(box->isVisible());
            const int at = box->findText(name);
            QVERIFY2(at >= 0, qPrintable(name));
            box->setCurrentIndex(at);
            Q_EMIT box->activated(at);
        };
        choose(QStringLiteral("Meter"), QStringLiteral("Bench meter"));
        choose(QStringLiteral("Cable"), QStringLiteral("Grey 1 m"));
        QTRY_VERIFY2(shown() != before && shown().contains(QStringLiteral("±")), qPrintable(shown()));
        QTest::keyClick(window_.get(), Qt::Key_T, Qt::ControlModifier);
        QTRY_VERIFY(button(QStringLiteral("Meter: Bench meter")) && button(QStringLiteral("Cable: Grey 1 m")));
        for (const char* piece : {"Charger", "Load", "Device", "Trigger", "Thermometer"})
            QVERIFY2(button(QString::fromLatin1(piece)), piece);
        // A run with a trace has its path on the ribbon.
        for (const records::Run& r : book().runs(bankNamed("Cobble 10"))) {
            if (r.kind == records::Kind::Drain)
                window_->aboutPanel()->open(r.id);
        }
        QVERIFY(!button(QStringLiteral("Meter")) && button(QStringLiteral("Thermometer")));
    }
    void words_are_completed_and_rows_can_be_pasted() {
        window_->shelf()->select(bankNamed("Pebble 5"));
        QTest::keyClick(window_.get(), Qt::Key_5, Qt::ControlModifier | Qt::AltModifier);
        view()->model()->paste(view()->model()->index(0, 0),
                               QStringLiteral("load\t0.05\tgoes\t40 s\nload\t0.06\tstays\t2 min\n"));
        QVERIFY2(view()->sentence().contains("goes off at 50 mA after 40 s and stays on at 60 mA"),
                 qPrintable(view()->sentence()));
    }
    void every_kind_has_its_picture_data() {
        QTest::addColumn<int>("kind");
        for (const records::Kind k : records::sheetKinds())
            QTest::newRow(records::kindKey(k).c_str()) << static_cast<int>(k);
    }
    // Drawn from the demo's own sheets (or one of a few rows), in both themes: something stands there, and it fits its
    // frame.
    void every_kind_has_its_picture() {
        QFETCH(int, kind);
        std::optional<records::Run> run;
        for (const records::Bank& b : book().banks()) {
            for (const records::Run& r : book().runs(b.id)) {
                if (r.sheet && static_cast<int>(r.kind) == kind)
                    run = r;
            }
        }
        const auto cells = static_cast<records::Kind>(kind) == records::Kind::Cells;
        QVERIFY(run || cells);
        const records::Sheet sheet =
            cells ? kinds::sheetFromText(records::Kind::Cells, "cell,volts,amps\n1,4.0,1.4\n2,4.1,1.4\ninput,9,1.5\n")
                  : *run->sheet;
        const setup::Facts facts = run ? book().factsFor(*book().bank(run->bank), *run) : setup::Facts{};
        for (const ThemeKind theme_ : {ThemeKind::Light, ThemeKind::Dark}) {
            applyTheme(theme_);
            QImage image(900, static_cast<int>(behaviourHeight(sheet, facts)), QImage::Format_RGB32);
            image.fill(theme().paper);
            QPainter painter(&image);
            paintBehaviour(painter, QRectF(image.rect()), sheet, facts);
            painter.end();
            int marked = 0;
            for (int y = 0; y < image.height(); y += 2) {
                for (int x = 0; x < image.width(); x += 2)
                    marked += image.pixelColor(x, y) != theme().paper;
            }
            QVERIFY2(marked > 400, qPrintable(QString::number(marked)));
        }
        applyTheme(ThemeKind::Light);
    }
    void a_rehearsed_recipe_fills_its_sheet() {
        QSignalSpy ended(&window_->liveBench(), &LiveBench::ended);
        window_->rehearse(bankNamed("Boulder 20"));
        SetupView* setup = window_->livePage()->setup();
        for (int row = 0; row < setup->recipes()->count(); ++row) {
            if (setup->recipes()->item(row)->text().contains(QStringLiteral("Pass-through")))
                setup->recipes()->setCurrentRow(row);
        }
        setup->speed()->setText(QStringLiteral("500"));
        for (QCheckBox* check : setup->checks())
            check->setChecked(true);
        setup->start()->click();
        QVERIFY(ended.wait(60000));
        const auto outcome = qvariant_cast<bench::Outcome>(ended.first().first());
        QVERIFY2(outcome.stop.kind == bench::StopKind::Done, outcome.stop.why.c_str());
        QTRY_VERIFY(view()->isVisible());
        QVERIFY2(view()->sentence().contains("the input falls from"),
                 qPrintable(view()->sentence())); // load first, by the demo's truth
        QVERIFY(book().run(outcome.run)->sheet && book().trace(outcome.run).size() > 100);
    }
};

QTEST_MAIN(BehaviourPageTest)
#include "behaviour_page_test.moc"
