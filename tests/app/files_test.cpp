// What comes into the window and goes out of it as a file, through its own dialogs and by dropping.
#include <QTest>

#include <QAction>
#include <QCheckBox>
#include <QDropEvent>
#include <QFileDialog>
#include <QLineEdit>
#include <QMimeData>
#include <QPushButton>
#include <QSignalSpy>
#include <QTimer>

#include "app/import/import_page.h"
#include "app/live/live_page.h"
#include "app/live/setup_view.h"
#include "app/shelf/shelf.h"
#include "book/exchange/rescue.h"
#include "book/store/check.h"
#include "demo_window.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::testing;

class FilesTest : public QObject {
    Q_OBJECT

    DemoWindow window_;

    // Of the menu, by what it says.
    void choose(const QString& words) const {
        for (QAction* a : window_->findChildren<QAction*>()) {
            if (a->text().remove('&') == words) {
                a->trigger();
                return;
            }
        }
        QFAIL(qPrintable("no such entry: " + words));
    }
    // The dialogs that come, one after the other, are answered with these paths; an empty one is put away.
    static void answer(const QStringList& paths) {
        auto* timer = new QTimer;
        timer->setInterval(50);
        QObject::connect(timer, &QTimer::timeout, [timer, left = paths]() mutable {
            auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
            if (!dialog)
                return;
            const QString path = left.takeFirst();
            if (left.isEmpty())
                timer->deleteLater();
            if (path.isEmpty()) {
                dialog->reject();
                return;
            }
            dialog->findChild<QLineEdit*>("fileNameEdit")->setText(path);
            QMetaObject::invokeMethod(dialog, "accept");
        });
        timer->start();
    }
    void drop(const QMimeData& mime) const {
        QDragEnterEvent enter(QPoint(600, 400), Qt::CopyAction, &mime, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(window_.get(), &enter);
        QVERIFY(enter.isAccepted());
        QDropEvent event(QPointF(600, 400), Qt::CopyAction, &mime, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(window_.get(), &event);
    }
    static std::size_t runsOf(const book::Book& book) {
        std::size_t n = 0;
        for (const records::Bank& b : book.banks())
            n += book.runs(b.id).size();
        return n;
    }

private Q_SLOTS:
    void initTestCase() {
        QApplication::setAttribute(Qt::AA_DontUseNativeDialogs);
        QVERIFY(window_.prepare(false));
    }
    void init() { QVERIFY(window_.openCopy()); }
    void cleanup() { window_.close(); }

    void a_bundle_goes_out_and_comes_back_the_same() {
        const QString folder = window_.file("bundle");
        const std::size_t banks = window_.book().banks().size(), runs = runsOf(window_.book());
        answer({folder});
        choose("Export as a bundle…");
        QTRY_VERIFY(says(window_.get(), "The bundle is in"));
        QVERIFY(QFile::exists(folder + "/book.json"));
        const QString path = window_.file("again.otterstone");
        answer({folder + "/book.json", path});
        choose("Import a bundle…");
        QCOMPARE(window_->session().book().path(), path);
        QCOMPARE(window_.book().banks().size(), banks);
        QCOMPARE(runsOf(window_.book()), runs);
        QVERIFY(book::checkBook(path)->faults.empty());
    }
    void what_is_put_away_changes_nothing() {
        const QString path = window_->session().book().path();
        for (const char* entry : {"Export as a bundle…", "Import a bundle…"}) {
            answer({QString()});
            choose(entry);
        }
        QFile(window_.file("book.json")).open(QIODevice::WriteOnly);
        answer({window_.file("book.json"), QString()}); // chosen, but then no name for the new book
        choose("Import a bundle…");
        QCOMPARE(window_->session().book().path(), path);
    }
    void a_bundle_that_is_none_leaves_the_book_that_is_open() {
        const QString path = window_->session().book().path();
        QDir().mkpath(window_.file("none"));
        QFile file(window_.file("none/book.json"));
        QVERIFY(file.open(QIODevice::WriteOnly) && file.write("{}") == 2);
        file.close();
        answer({window_.file("none/book.json"), window_.file("new.otterstone")});
        choose("Import a bundle…");
        QTRY_VERIFY(says(window_.get(), "book.json"));
        QCOMPARE(window_->session().book().path(), path);
        QVERIFY(!QFile::exists(window_.file("new.otterstone")));
    }
    // What a full disk did not take of a live run: dropped, it is the rest of that run.
    void the_rest_of_a_run_is_dropped_into_it() {
        records::Run run;
        run.bank = window_.book().banks().front().id;
        run.kind = records::Kind::Drain;
        run.title = "Cut short by its disk";
        run.startedAt = "2026-03-11T20:45:00+00:00";
        book::Batch first, rest;
        for (int k = 0; k < 40; ++k)
            (k < 25 ? first : rest).samples.resize(1),
                (k < 25 ? first : rest).samples[0].push_back({1.0 * k, 5.0, 1.0, 25.0, std::nan("")});
        rest.marks.push_back({30.0, records::Mark::What::Percent, 50.0, ""});
        auto capture =
            book::Capture::begin(window_.book().path(), run, {{{path::Point::Meter, false, {}, "live"}, true, false}});
        QVERIFY(capture && (*capture)->append(first));
        const records::Id id = (*capture)->run();
        const QString file = window_.file("rescued-run.json");
        QVERIFY(book::writeRescue(file, {id, run.startedAt, (*capture)->points(), rest, {"the disk was full", {}}}));
        capture->reset();
        QMimeData mime;
        mime.setUrls({QUrl::fromLocalFile(file)});
        drop(mime);
        const auto whole = window_.book().run(id);
        QVERIFY(whole && !whole->open && whole->stopped == "the disk was full");
        QCOMPARE(window_.book().trace(id).size(), std::size_t{40});
        QCOMPARE(window_.book().trace(id).temperature.size(), std::size_t{40});
        QCOMPARE(whole->marks.size(), std::size_t{1});
        QVERIFY(says(window_.get(), "stands in it again"));
        drop(mime);
        QVERIFY(says(window_.get(), "holds this already"));
        QCOMPARE(window_.book().trace(id).size(), std::size_t{40});
    }
    void books_are_dropped_logs_too_and_rubbish_is_told() {
        const QString other = window_.file("other.otterstone");
        QVERIFY(QFile::copy(window_.file("demo.otterstone"), other));
        QMimeData book;
        book.setUrls({QUrl::fromLocalFile(other)});
        drop(book);
        QCOMPARE(window_->session().book().path(), other);
        window_->shelf()->select(window_.bankNamed("Pebble 5"));

        QByteArray rows("Time (s),Voltage (V),Current (A)\n");
        for (int k = 0; k < 200; ++k)
            rows += QByteArray::number(k) + ",5.02,1.00\n";
        QMimeData text;
        text.setText(rows);
        drop(text);
        QTRY_VERIFY(window_->importPage()->isVisible());

        window_->showIntake(window_.bankNamed("Pebble 5"));
        QFile rubbish(window_.file("rubbish.csv"));
        QVERIFY(rubbish.open(QIODevice::WriteOnly) && rubbish.write("one day, maybe\n") > 0);
        rubbish.close();
        QMimeData wrong;
        wrong.setUrls({QUrl::fromLocalFile(rubbish.fileName())});
        drop(wrong);
        QTRY_VERIFY(says(window_.get(), "rubbish.csv"));
        QVERIFY(!window_->importPage()->isVisible());

        QFile broken(window_.file("broken.otterstone"));
        QVERIFY(broken.open(QIODevice::WriteOnly) && broken.write("not a book") > 0);
        broken.close();
        QMimeData none;
        none.setUrls({QUrl::fromLocalFile(broken.fileName())});
        drop(none);
        QTRY_VERIFY(says(window_.get(), "broken.otterstone"));
        QCOMPARE(window_->session().book().path(), other);
    }
    void no_other_book_is_opened_while_a_run_goes() {
        const QString path = window_->session().book().path();
        window_->rehearse(window_.bankNamed("Pebble 5"));
        auto* setup = window_->livePage()->setup();
        for (QCheckBox* c : setup->checks())
            c->setChecked(true);
        QTest::mouseClick(setup->start(), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(window_->liveBench().runner().progress().loadOn, 30000);
        QVERIFY(!window_->openBook(window_.file("demo.otterstone")));
        QVERIFY(says(window_.get(), "Stop it first"));
        window_->openDemo();
        choose("Import a bundle…"); // no dialog comes
        QCOMPARE(window_->session().book().path(), path);
        QSignalSpy ended(&window_->liveBench(), &app::LiveBench::ended);
        QTest::keyClick(window_.get(), Qt::Key_Period, Qt::ControlModifier);
        QVERIFY(ended.wait(20000));
        QVERIFY(window_->openBook(window_.file("demo.otterstone")));
    }
    void the_testers_own_book_is_made_once_and_the_demo_is_kept_too() {
        QDir data(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation));
        data.remove("bench.otterstone");
        data.remove("skerry-point.otterstone");
        window_->openHomeBook();
        QCOMPARE(window_->session().book().path(), data.filePath("bench.otterstone"));
        QVERIFY(window_.book().banks().empty());
        records::Bank bank;
        bank.name = "Gravel 7";
        QVERIFY(window_.book().save(bank));
        choose("Open the demo: Skerry Point");
        choose("Open the demo: Skerry Point"); // who is in a hurry gets one
        QVERIFY(says(window_.get(), "The demo is being made"));
        QVERIFY(window_.bankNamed("Gravel 7") != records::kNew); // meanwhile the window goes on
        QTRY_COMPARE_WITH_TIMEOUT(window_->session().book().path(), data.filePath("skerry-point.otterstone"), 60000);
        QVERIFY(!says(window_.get(), "The demo is being made"));
        QCOMPARE(window_.book().banks().size(), std::size_t(8));
        const auto first = window_.book().banks().front();
        QVERIFY(window_.book().setBankRemoved(first.id, true));
        window_->openHomeBook();
        QCOMPARE(window_.bankNamed("Gravel 7") != records::kNew, true);
        choose("Open the demo: Skerry Point"); // what was done in it stays
        QCOMPARE(window_.book().banks().size(), std::size_t(7));
        window_.close();
        data.remove("bench.otterstone");
        data.remove("skerry-point.otterstone");
    }
};

QTEST_MAIN(FilesTest)
#include "files_test.moc"
