// Photographs in the window: pasted and dropped, named and looked at by keyboard, taken away and brought back, shown on
// the sheet.
#include <QTest>

#include <QClipboard>
#include <QDialog>
#include <QDragEnterEvent>
#include <QDropEvent>
#include <QGuiApplication>
#include <QImage>
#include <QLineEdit>
#include <QMimeData>

#include "app/attached/attached_strip.h"
#include "app/intake/intake_page.h"
#include "app/report/publish.h"
#include "app/runs/about_panel.h"
#include "app/runs/run_page.h"
#include "app/shelf/shelf.h"
#include "book/store/material.h"
#include "demo_window.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::app;
using namespace otterstone::testing;

class AttachedPageTest : public QObject {
    Q_OBJECT

    DemoWindow window_;

    [[nodiscard]] QString picture(const char* name) const {
        QImage image(640, 480, QImage::Format_RGB32);
        image.fill(Qt::darkCyan);
        QString path = window_.file(QString::fromLatin1(name));
        image.save(path);
        return path;
    }
    void drop(const QStringList& paths) {
        QMimeData data;
        QList<QUrl> urls;
        for (const QString& path : paths)
            urls << QUrl::fromLocalFile(path);
        data.setUrls(urls);
        QDragEnterEvent enter(QPoint(300, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
        QCoreApplication::sendEvent(window_.get(), &enter);
        QVERIFY(enter.isAccepted());
        QDropEvent event(QPointF(300, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
        QCoreApplication::sendEvent(window_.get(), &event);
    }

private Q_SLOTS:
    void initTestCase() { QVERIFY(window_.prepare(false)); }
    void init() { QVERIFY(window_.openCopy()); }
    void cleanup() { window_.close(); }

    void dropped_on_a_bank_named_looked_at_and_on_its_sheet() {
        const records::Id bank = window_.bankNamed("Cobble 10");
        window_->showIntake(bank);
        QListWidget* list = window_->intakePage()->attached()->list();
        QVERIFY(!list->isVisible());
        drop({picture("label.png"), picture("box.jpg")});
        QVERIFY(says(window_.get(), QStringLiteral("Attached to Cobble 10")));
        QTRY_COMPARE(list->count(), 2);
        QVERIFY(list->isVisible());
        // What it shows, by keyboard; F2 is the shelf's key elsewhere.
        list->setFocus();
        list->setCurrentRow(0);
        list->editItem(list->item(0));
        auto* editor = qobject_cast<QLineEdit*>(QApplication::focusWidget());
        QVERIFY(editor);
        editor->selectAll();
        QTest::keyClicks(editor, "The label");
        QTest::keyClick(editor, Qt::Key_Return);
        QTRY_COMPARE(book::attachmentsOfBank(window_.book(), bank).front().caption, std::string("The label"));
        QTest::keyClick(list, Qt::Key_Space);
        QTRY_VERIFY(book::attachmentsOfBank(window_.book(), bank).front().onSheet);
        QTest::keyClick(list, Qt::Key_Return);
        auto* dialog = window_->findChild<QDialog*>(QStringLiteral("picture"));
        QVERIFY(dialog);
        QCOMPARE(dialog->windowTitle(), QStringLiteral("The label"));
        dialog->close();
        // Away and back.
        list->setCurrentRow(1);
        QTest::keyClick(list, Qt::Key_Delete);
        QTRY_COMPARE(list->count(), 1);
        QVERIFY(window_->session().history().undo());
        QTRY_COMPARE(list->count(), 2);
        // The sheet.
        const auto material = book::gatherMaterial(window_.book().path(), {bank}, "2026-05-01T00:00:00");
        QVERIFY(material);
        const auto content = report::makeContent(*material);
        const QString html = window_.file("sheet.html"), pdf = window_.file("sheet.pdf");
        QVERIFY(writeSheet(window_.book(), *material, content, html));
        QVERIFY(writeSheet(window_.book(), *material, content, pdf));
        QFile file(html);
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QByteArray text = file.readAll();
        QCOMPARE(text.count("data:image/jpeg;base64,"), 1);
        QVERIFY(text.contains("The label") && !text.contains("box.jpg"));
    }

    void pasted_on_a_run() {
        const records::Id bank = window_.bankNamed("Pebble 5");
        const records::Id run = window_.book().runs(bank).front().id;
        window_->showRuns(bank, run);
        QImage image(300, 200, QImage::Format_RGB32);
        image.fill(Qt::darkRed);
        QGuiApplication::clipboard()->setImage(image);
        QTest::keyClick(window_.get(), Qt::Key_V, Qt::ControlModifier | Qt::ShiftModifier);
        QTRY_COMPARE(book::attachmentsOfRun(window_.book(), run).size(), std::size_t(1));
        QVERIFY(says(window_.get(), QStringLiteral("Attached to this run")));
        QVERIFY(window_->session().history().undo());
        QVERIFY(book::attachmentsOfRun(window_.book(), run).empty());
        QVERIFY(window_->session().history().redo());
        QCOMPARE(book::attachmentsOfRun(window_.book(), run).size(), std::size_t(1));
    }

    void what_is_no_picture_is_refused_in_words() {
        window_->showIntake(window_.bankNamed("Cobble 10"));
        const QString path = window_.file("broken.png");
        QFile file(path);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("\x89PNG\r\n\x1a\nno picture");
        file.close();
        drop({path});
        QVERIFY(says(window_.get(), QStringLiteral("the picture cannot be read")));
        QCOMPARE(window_->intakePage()->attached()->list()->count(), 0);
    }
};

QTEST_MAIN(AttachedPageTest)
#include "attached_page_test.moc"
