// The window is given the damaged copies too, one after the other: each is opened and shown, or refused in words while
// the book that was open stays.
#include <QTest>

#include <QLabel>
#include <QMessageBox>
#include <QPushButton>
#include <QTextEdit>
#include <QToolTip>
#include <sys/stat.h>

#include "../book/damaged_books.h"
#include "demo_window.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::testing;
using Copy = DamagedBooks::Copy;

class StrangerWindowTest : public QObject {
    Q_OBJECT

    DamagedBooks books_;
    DemoWindow window_;
    int opened_ = 0, refused_ = 0;

    void showStages() const {
        for (int n = 0; n < 8; ++n) {
            QTest::keyClick(window_.get(), static_cast<Qt::Key>(Qt::Key_1 + n), Qt::AltModifier);
            window_->grab();
        }
    }
    // False when something was wrong with how it was taken.
    bool give(const Copy& copy, bool allStages) {
        const QString before = window_.book().path();
        if (window_->openBook(copy.path)) {
            ++opened_;
            window_->grab();
            if (allStages)
                showStages();
            QCoreApplication::processEvents();
            return true;
        }
        ++refused_;
        QString said;
        for (const auto* label : window_->findChildren<QLabel*>("said"))
            said += label->isVisible() ? label->text() : QString();
        if (window_.book().path() == before && said.size() > 20 && !said.contains("exception") &&
            !said.contains("std::"))
            return true;
        QTest::qFail(qPrintable(copy.what + ": " + said), __FILE__, __LINE__);
        return false;
    }

private Q_SLOTS:
    void initTestCase() {
        QVERIFY(books_.prepare());
        QVERIFY(window_.prepare(false));
        QVERIFY(window_.openCopy());
    }
    void cleanupTestCase() { window_.close(); }

    // Names that are markup with a file's address: on no label, tooltip or message are they more than names. The file
    // is a pipe that nobody writes to: who opens it stands still.
    void names_that_look_like_markup() {
        const QString pipe = window_.file("pipe"), path = window_.file("markup.otterstone");
        QCOMPARE(::mkfifo(QFile::encodeName(pipe).constData(), 0600), 0);
        QVERIFY(QFile::copy(window_.file("demo.otterstone"), path));
        const QByteArray image = "'<img src=\"" + QFile::encodeName(pipe) + "\"> <b>' || id || '</b>'";
        QVERIFY(DamagedBooks::change(
            path,
            {"UPDATE bank SET name = " + image, "UPDATE gear SET name = " + image, "UPDATE run SET title = " + image,
             "UPDATE mark SET text = " + image.left(image.indexOf(" || id")) + " WHERE what = 'note'"}));
        QVERIFY(window_->openBook(path));
        const QString alone = "<img src=\"" + pipe + "\">"; // of a tooltip and a message, whatever else comes meanwhile
        int shown = 0, shownAlone = 0;
        const auto look = [&] {
            QCoreApplication::processEvents();
            for (const QWidget* w : QApplication::allWidgets()) {
                const auto* label = qobject_cast<const QLabel*>(w);
                if (label && label->isVisible() && label->text().contains("<img")) {
                    ++(label->text() == alone ? shownAlone : shown);
                    QVERIFY2(label->textFormat() == Qt::PlainText, qPrintable(label->text()));
                }
                if (const auto* text = qobject_cast<const QTextEdit*>(w); text && text->isVisible())
                    QVERIFY2(!text->toHtml().contains("<img src=\"/"), qPrintable(text->objectName()));
            }
        };
        for (int n = 0; n < 8; ++n) {
            QTest::keyClick(window_.get(), static_cast<Qt::Key>(Qt::Key_1 + n), Qt::AltModifier);
            window_->grab();
            look();
        }
        QVERIFY2(shown > 3, qPrintable(QString::number(shown)));
        QToolTip::showText(window_->mapToGlobal(QPoint(50, 50)), alone, window_.get());
        look();
        QCOMPARE(std::exchange(shownAlone, 0), 1);
        QToolTip::hideText();
        {
            QMessageBox box(QMessageBox::Information, "About", alone, QMessageBox::Ok, window_.get());
            box.show();
            look();
            QVERIFY(shownAlone > 0);
        }
        QVERIFY(window_.openCopy());
    }
    void bits_that_flip_data() { DamagedBooks::rounds(5); }
    void bits_that_flip() {
        books_.flipped(34, [this](const Copy& c) { return give(c, c.number % 20 == 0); });
    }
    void files_that_are_cut() {
        refused_ = 0;
        books_.cut(60, [this](const Copy& c) { return give(c, false); });
        QVERIFY2(QTest::currentTestFailed() || refused_ > 30, qPrintable(QString::number(refused_)));
    }
    void cells_of_another_kind_data() { DamagedBooks::rounds(DamagedBooks::kRounds); }
    void cells_of_another_kind() {
        QFETCH(const int, round);
        opened_ = 0;
        books_.cells(round, [this](const Copy& c) { return give(c, c.number % 10 == 0); });
        QVERIFY2(QTest::currentTestFailed() || opened_ > 25, qPrintable(QString::number(opened_)));
    }
    void schemas_of_another_kind() {
        for (const DamagedBooks::Schema& s : DamagedBooks::schemas()) {
            const QString path = books_.copy(), before = window_.book().path();
            QVERIFY(DamagedBooks::change(path, s.statements));
            QVERIFY2(!window_->openBook(path), s.name);
            QVERIFY2(says(window_.get(), s.says), s.name);
            QCOMPARE(window_.book().path(), before);
        }
    }
};

QTEST_MAIN(StrangerWindowTest)
#include "stranger_window_test.moc"
