// The real window, driven as a tester drives it: typing, dropping, keys, undo.
#include <QTest>

#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QDragEnterEvent>
#include <QFile>
#include <QJsonDocument>
#include <QJsonObject>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMimeData>
#include <QPlainTextEdit>
#include <QProcess>
#include <QPushButton>
#include <QSignalSpy>
#include <QStandardPaths>
#include <QTableWidget>
#include <QTemporaryDir>

#include "app/import/import_page.h"
#include "app/intake/intake_page.h"
#include "app/main_window.h"
#include "app/runs/path_ribbon.h"
#include "app/runs/run_page.h"
#include "app/runs/trace_curve.h"
#include "app/shelf/shelf.h"
#include "app/theme.h"
#include "app/widgets/figure_button.h"
#include "app/widgets/working_drawer.h"
#include "book/demo/demo.h"
#include "book/store/history.h"
#include "look.h"
#include "where.h"

using namespace otterstone;
using namespace otterstone::testing;
using app::MainWindow;

namespace {

QString allWords(const Working& w) {
    QString words = QString::fromStdString(w.label + " " + w.note + "\n");
    for (const Working& part : w.parts)
        words += allWords(part);
    return words;
}

} // namespace

class WindowTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void init() {
        folder_ = std::make_unique<QTemporaryDir>();
        app::applyTheme(app::ThemeKind::Light);
        window_ = std::make_unique<MainWindow>();
        window_->show();
        window_->activateWindow();
        QVERIFY(QTest::qWaitForWindowActive(window_.get()));
    }
    void cleanup() { window_.reset(); }

    void the_first_start_offers_one_next_step() {
        QVERIFY(window_->session().create(in("bench.otterstone")).has_value());
        QTRY_VERIFY(says(window_.get(), "This book is empty"));
        auto* next = button(window_.get(), "Put the first bank on the shelf");
        QVERIFY(next && next->isVisible());
        QVERIFY(button(window_.get(), "Look at the demo: Skerry Point")->isVisible());
        QTest::mouseClick(next, Qt::LeftButton);
        QVERIFY(window_->intakePage()->isVisible());
        QCOMPARE(window_->session().book().banks().size(), std::size_t(1));
        QVERIFY(window_->session().history().undo().has_value());
        QTRY_VERIFY(says(window_.get(), "This book is empty")); // taken back: the first start again
    }
    void the_label_is_checked_as_it_is_typed() {
        newBank();
        type("Capacity", "20,000");
        type("Cell voltage", "3,7");
        QTRY_VERIFY(says(window_->intakePage(), "74 Wh"));
        type("Also printed", "15.4V 18.5Wh");
        QTRY_VERIFY(says(window_->intakePage(), "four cells in series"));
        type("Energy", "80");
        QTRY_VERIFY(says(window_->intakePage(), "The label says 80 Wh, but"));
        type("Recharge claim", "1h12");
        type("with input of", "18");
        QTRY_VERIFY(says(window_->intakePage(), "is promised"));
        type("Weight", "heavy");
        QTRY_VERIFY(says(window_->intakePage(), "“heavy” is not a number"));
        const records::Bank kept = window_->session().book().banks().front();
        QCOMPARE(kept.label.capacity->value, 20.0);
        QCOMPARE(kept.label.rechargeTime->value, 1.2);
        QVERIFY(!kept.label.weightGrams.has_value()); // what was not understood is not kept
    }
    void ports_are_typed_as_printed() {
        newBank();
        QTest::mouseClick(button(window_->intakePage(), "Add a port"), Qt::LeftButton);
        auto* table = window_->intakePage()->findChild<QTableWidget*>();
        table->item(0, 2)->setText("5V 3A; 9V2.22A, 20Vx1,5A");
        const auto ports = window_->session().book().banks().front().label.ports;
        QCOMPARE(ports.size(), std::size_t(1));
        QCOMPARE(ports[0].tiers.size(), std::size_t(3));
        QCOMPARE(table->item(0, 7)->text(), "30 W"); // the best of them
        table->item(0, 2)->setText("fast");
        QTRY_VERIFY(says(window_->intakePage(), "“fast” is not a tier"));
        QCOMPARE(window_->session().book().banks().front().label.ports[0].tiers.size(), std::size_t(3));
    }
    void every_edit_can_be_taken_back_with_the_keyboard() {
        newBank();
        type("Name", "Gravel 7");
        type("Capacity", "7000");
        QCOMPARE(window_->session().book().banks().front().name, std::string("Gravel 7"));
        window_->setFocus();
        QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(!window_->session().book().banks().front().label.capacity.has_value());
        QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(window_->session().book().banks().front().name, std::string("New bank"));
        QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        QCOMPARE(window_->session().book().banks().front().name, std::string("Gravel 7"));
    }

    void a_log_dropped_on_the_window_reads_like_the_command_line() {
        newBank();
        type("Energy", "18.5");
        const QString log = writeLog();
        QMimeData mime;
        mime.setUrls({QUrl::fromLocalFile(log)});
        QDragEnterEvent enter(QPoint(600, 400), Qt::CopyAction, &mime, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(window_.get(), &enter);
        QVERIFY(enter.isAccepted());
        QDropEvent drop(QPointF(600, 400), Qt::CopyAction, &mime, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(window_.get(), &drop);
        QVERIFY(window_->importPage()->isVisible());
        QTRY_VERIFY(says(window_->importPage(), "decimal comma"));
        QTRY_VERIFY(says(window_->importPage(), "says volts, in mV")); // the recogniser's reason
        accept();

        QProcess cli;
        cli.start(where::cli(), {"analyse", log, "--kind", "drain", "--rated-wh", "18.5", "--began", "full", "--json"});
        QVERIFY(cli.waitForFinished());
        const QJsonObject said = QJsonDocument::fromJson(cli.readAllStandardOutput()).object();
        QTRY_COMPARE(window_->runPage()->sentence(), said["sentence"].toString());
        QVERIFY(said["sentence"].toString().contains("of the printed 18.5 Wh"));
    }
    void the_delivered_share_opens_down_to_samples_label_and_accuracy() {
        openDemo("Cobble 10", 2);
        app::FigureButton* share = window_->runPage()->figure("delivered_share");
        QVERIFY(share);
        share->setFocus();
        QTest::keyClick(share, Qt::Key_Space);
        QVERIFY(window_->drawer()->isVisible());
        const QString words = allWords(window_->drawer()->shownWorking());
        for (const char* part : {"samples", "accuracy of the meter", "rated energy", "lost in Grey 1 m"})
            QVERIFY2(words.contains(QLatin1String(part)), part);
        QTRY_VERIFY(says(window_->drawer(), "Where the ± comes from"));
        QTest::mouseClick(button(window_->drawer(), "Copy as text"), Qt::LeftButton);
        QVERIFY(QGuiApplication::clipboard()->text().contains("delivered share"));
        QTest::keyClick(window_.get(), Qt::Key_Escape);
        QVERIFY(!window_->drawer()->isVisible());
    }
    void the_cautions_are_at_hand_where_a_run_begins() {
        openDemo("Cobble 10", 0);
        QTest::mouseClick(button(window_->runPage(), "Before a run"), Qt::LeftButton);
        QTRY_VERIFY(says(window_.get(), "lithium cells burn"));
        QTRY_VERIFY(says(window_.get(), "Never open a bank or bridge its cells"));
        QTest::keyClick(window_.get(), Qt::Key_Escape);
        QTRY_VERIFY(!says(window_.get(), "lithium cells burn"));
    }
    void pasted_rows_make_a_run() {
        newBank();
        QGuiApplication::clipboard()->setText("time_s\tvolts\tamps\n0\t5\t2\n60\t5\t2\n120\t5\t2\n180\t5\t2\n");
        QTest::keyClick(window_.get(), Qt::Key_V, Qt::ControlModifier | Qt::ShiftModifier);
        QVERIFY(window_->importPage()->isVisible());
        accept();
        QTRY_VERIFY(window_->runPage()->sentence().contains("reached the meter"));
        QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(window_->session().book().runs(window_->shelf()->selected()).empty());
        QTRY_VERIFY(says(window_->runPage(), "lithium cells burn")); // the cautions where a run begins
    }
    void columns_set_by_hand_are_remembered_for_the_header() {
        newBank();
        const QString rows = "one;two;three\n0;5,1;2\n10;5,0;2\n20;4,9;2\n";
        window_->bringInText(rows);
        QTRY_VERIFY(says(window_->importPage(), "no column names a time"));
        const auto boxes = window_->importPage()->findChildren<QComboBox*>();
        const auto choose = [&](const QString& name, int index) {
            for (auto* box : boxes) {
                if (box->accessibleName() == name) {
                    box->setCurrentIndex(index);
                    Q_EMIT box->activated(index);
                }
            }
        };
        choose("Column for Time", 1);
        choose("Column for Volts", 2);
        choose("Column for Amps", 3);
        accept();
        QTRY_VERIFY(window_->runPage()->sentence().contains("reached the meter"));
        window_->bringInText(rows);
        QTRY_VERIFY(says(window_->importPage(), "was remembered"));
        QVERIFY(button(window_->importPage(), "Take it into the book")->isEnabled());
    }
    void a_log_that_cannot_be_read_says_so_and_changes_nothing() {
        newBank();
        window_->bringIn(where::data("logs/malformed/prose.txt"));
        QTRY_VERIFY(says(window_.get(), "no table of numbers"));
        QVERIFY(!window_->importPage()->isVisible());
        window_->bringIn(where::data("logs/malformed/all_nan.csv"));
        button(window_->importPage(), "Take it into the book")->click();
        QTRY_VERIFY(says(window_->importPage(), "fewer than two lines"));
        QVERIFY(window_->session().book().runs(window_->shelf()->selected()).empty());
    }

    void the_curve_and_the_ribbon_answer_the_keyboard() {
        openDemo("Cobble 10", 0);
        app::TraceCurve* curve = window_->runPage()->curve();
        curve->setFocus();
        QTest::keyClick(curve, Qt::Key_X);
        QCOMPARE(curve->axis(), app::Axis::Energy);
        QTest::keyClick(curve, Qt::Key_X);
        QCOMPARE(curve->axis(), app::Axis::Percent);
        QTest::keyClick(curve, Qt::Key_Y);
        QCOMPARE(curve->quantity(), app::Quantity::Volts);
        QTest::keyClick(curve, Qt::Key_Right);
        QTRY_VERIFY(says(curve, "Wh so far"));
        app::PathRibbon* ribbon = window_->runPage()->ribbon();
        QVERIFY(ribbon->accessibleDescription().contains("Wh lost"));
        QSignalSpy wanted(ribbon, &app::PathRibbon::gearWanted);
        ribbon->setFocus();
        QTest::keyClick(ribbon, Qt::Key_Right);
        QTest::keyClick(ribbon, Qt::Key_Right);
        QTest::keyClick(ribbon, Qt::Key_Return);
        QCOMPARE(wanted.size(), 1);
        QTRY_VERIFY(says(window_.get(), "Meter of this run"));
    }
    void a_corrected_clock_is_worked_into_the_run_and_can_be_undone() {
        openDemo("Cobble 10", 1);
        const QString before = window_->runPage()->sentence();
        Q_EMIT window_->runPage()->ribbon()->gearWanted(3);
        QLineEdit* clock = nullptr;
        for (auto* edit : window_->findChildren<QLineEdit*>()) {
            if (edit->placeholderText().startsWith("1.02 ± 0.001"))
                clock = edit;
        }
        QVERIFY(clock && clock->isVisible());
        clock->setText("0,94");
        Q_EMIT clock->editingFinished();
        QTRY_VERIFY(window_->runPage()->sentence() != before &&
                    window_->runPage()->sentence().contains("reached the port"));
        QVERIFY(window_->session().history().undo().has_value());
        QTRY_COMPARE(window_->runPage()->sentence(), before);
    }
    void everything_has_a_name_and_the_keyboard_reaches_it() {
        openDemo("Boulder 20", 1);
        for (app::FigureButton* figure : window_->findChildren<app::FigureButton*>()) {
            QVERIFY(!figure->accessibleName().isEmpty());
            QVERIFY(figure->focusPolicy() & Qt::TabFocus);
        }
        QTest::keyClick(window_.get(), Qt::Key_1, Qt::AltModifier);
        QVERIFY(window_->intakePage()->isVisible());
        for (QWidget* w : window_->intakePage()->findChildren<QLineEdit*>())
            QVERIFY2(w->inherits("QLineEdit") &&
                         (!w->accessibleName().isEmpty() || w->parentWidget()->inherits("QAbstractItemView") ||
                          qobject_cast<QComboBox*>(w->parentWidget())),
                     qPrintable(w->objectName()));
        QTest::keyClick(window_.get(), Qt::Key_F2);
        QListWidget* list = window_->shelf()->findChild<QListWidget*>();
        const records::Id before = window_->shelf()->selected();
        QTest::keyClick(list, Qt::Key_Down);
        QVERIFY(window_->shelf()->selected() != before);
        QTest::keyClick(window_.get(), Qt::Key_4, Qt::AltModifier);
        QVERIFY(window_->runPage()->isVisible());
    }
    void the_window_fits_the_screen_with_the_drawer_open() {
        openDemo("Cobble 10", 0);
        window_->resize(1280, 800);
        window_->runPage()->figure("plateau_watts")->click();
        QTest::qWait(50);
        QVERIFY(window_->minimumSizeHint().width() <= 1280);
        QVERIFY(window_->minimumSizeHint().height() <= 800);
        app::applyTheme(app::ThemeKind::Dark);
        QVERIFY(app::theme().paper.lightness() < 60);
    }

private:
    [[nodiscard]] QString in(const QString& name) const { return folder_->filePath(name); }
    void newBank() {
        QVERIFY(window_->session().create(in("bench.otterstone")).has_value());
        QTest::keyClick(window_.get(), Qt::Key_N, Qt::ControlModifier);
        QTRY_VERIFY(window_->intakePage()->isVisible());
    }
    void type(const QString& field, const QString& text) {
        auto* edit = window_->intakePage()->findChild<QLineEdit*>(field);
        QVERIFY2(edit, qPrintable(field));
        edit->setFocus();
        edit->selectAll();
        QTest::keyClicks(edit, text);
        QTest::keyClick(edit, Qt::Key_Return);
    }
    void accept() {
        QSignalSpy taken(window_->importPage(), &app::ImportPage::taken);
        QTest::mouseClick(button(window_->importPage(), "Take it into the book"), Qt::LeftButton);
        QVERIFY(taken.wait(10'000));
    }
    void openDemo(const std::string& name, std::size_t run) {
        auto demo = book::makeDemo(in("demo.otterstone"));
        QVERIFY(demo.has_value());
        window_->session().adopt(std::move(*demo));
        for (const records::Bank& b : window_->session().book().banks()) {
            if (b.name == name)
                window_->showRuns(b.id, window_->session().book().runs(b.id)[run].id);
        }
        QTRY_VERIFY(window_->runPage()->figure("energy_wh"));
    }
    QString writeLog() {
        QString path = in("Messung 3.csv");
        QFile file(path);
        file.open(QIODevice::WriteOnly);
        file.write("Zeit [s];Spannung [mV];Strom [A]\n");
        for (int k = 0; k < 4000; ++k)
            file.write(QStringLiteral("%1;%2;%3\n")
                           .arg(k)
                           .arg(k < 3900 ? 5012 - k / 40 : 0)
                           .arg(k < 3900 ? "2,003" : "0,000")
                           .toLatin1());
        return path;
    }

    std::unique_ptr<QTemporaryDir> folder_;
    std::unique_ptr<MainWindow> window_;
};

int main(int argc, char** argv) {
    QStandardPaths::setTestModeEnabled(true);
    QApplication application(argc, argv);
    QApplication::setOrganizationName(QStringLiteral("otterstone-test"));
    QApplication::setApplicationName(QStringLiteral("otterstone-test"));
    WindowTest test;
    return QTest::qExec(&test, argc, argv);
}
#include "window_test.moc"
