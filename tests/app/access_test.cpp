// For hands, eyes and ears of every kind: each control says what it is, Tab reaches all and shows where it is, what is
// written can be read against what lies behind it, and nothing is told by colour alone.
#include <cmath>
#include <set>

#include <QAbstractButton>
#include <QAbstractItemView>
#include <QAbstractScrollArea>
#include <QAccessible>
#include <QCheckBox>
#include <QFrame>
#include <QLabel>

#include "app/gear/bench_page.h"
#include "demo_window.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::testing;

namespace {

// Of sRGB, as WCAG 2.1 defines it.
double luminance(const QColor& c) {
    const auto linear = [](double v) { return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
    return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
}
double contrast(const QColor& a, const QColor& b) {
    const double x = luminance(a), y = luminance(b);
    return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
}

QString described(const QWidget* w) {
    const auto* button = qobject_cast<const QAbstractButton*>(w);
    return QStringLiteral("%1 “%2” in %3")
        .arg(QLatin1String(w->metaObject()->className()), button ? button->text() : w->objectName(),
             w->parentWidget() ? QLatin1String(w->parentWidget()->metaObject()->className())
                               : QLatin1String("nothing"));
}

// What the keyboard can be in, as it is shown now.
std::vector<QWidget*> controls(QWidget& window) {
    std::vector<QWidget*> all;
    for (QWidget* w : window.findChildren<QWidget*>()) {
        if (w->isVisible() && w->isEnabled() && (w->focusPolicy() & Qt::TabFocus) && !w->focusProxy())
            all.push_back(w);
    }
    return all;
}

} // namespace

class AccessTest : public QObject {
    Q_OBJECT

    DemoWindow window_;

    void show(const QString& stage) {
        for (auto* b : window_->findChildren<QAbstractButton*>(QStringLiteral("stage"))) {
            if (b->text() == stage)
                b->click();
        }
        QTest::qWait(400); // what is worked out beside it arrives
    }

private Q_SLOTS:
    void initTestCase() {
        QVERIFY(window_.prepare(true));
        QVERIFY(window_.openCopy());
        QAccessible::setActive(true);
    }
    void cleanupTestCase() { window_.close(); }

    void every_control_says_what_it_is_data() { stages(); }
    void every_control_says_what_it_is() {
        QFETCH(QString, stage);
        show(stage);
        QStringList silent;
        for (QWidget* w : controls(*window_.get())) {
            QAccessibleInterface* i = QAccessible::queryAccessibleInterface(w);
            if (!i || i->role() == QAccessible::NoRole || i->text(QAccessible::Name).trimmed().isEmpty())
                silent << described(w);
        }
        QVERIFY2(silent.isEmpty(), qPrintable(silent.join(QStringLiteral("\n"))));
    }

    // From control to control by Tab alone, and out of each again: where the keyboard is lies in view.
    void tab_reaches_every_control_data() { stages(); }
    void tab_reaches_every_control() {
        QFETCH(QString, stage);
        show(stage);
        auto* first = window_->findChild<QAbstractButton*>(QStringLiteral("stage"));
        first->setFocus(Qt::TabFocusReason);
        std::set<QWidget*> reached;
        QStringList hidden;
        QWidget* before = nullptr;
        for (int k = 0; k < 600; ++k) {
            QWidget* at = QApplication::focusWidget();
            QVERIFY2(at, "the keyboard is nowhere");
            if (at == first && k > 0)
                break;
            if (at != before && reached.insert(at).second && at->visibleRegion().isEmpty())
                hidden << described(at);
            before = at;
            // A grid that is typed into goes on from cell to cell; Ctrl+Tab leaves it.
            const auto* view = qobject_cast<QAbstractItemView*>(at);
            const bool grid = view && view->tabKeyNavigation();
            QTest::keyClick(at, Qt::Key_Tab, grid ? Qt::ControlModifier : Qt::NoModifier);
        }
        QVERIFY2(QApplication::focusWidget() == first, "Tab does not come round again");
        QStringList missed;
        for (QWidget* w : controls(*window_.get())) {
            const bool inChecked = qobject_cast<QAbstractButton*>(w) && qobject_cast<QAbstractButton*>(w)->group();
            if (!reached.contains(w) && !inChecked) // of buttons that exclude each other the arrows choose
                missed << described(w);
        }
        QVERIFY2(missed.isEmpty(), qPrintable(QStringLiteral("not reached: ") + missed.join(QStringLiteral("\n"))));
        QVERIFY2(hidden.isEmpty(), qPrintable(QStringLiteral("out of view: ") + hidden.join(QStringLiteral("\n"))));
    }

    // Who works without a mouse: Enter does what Space does, but ticks no box.
    void enter_presses_what_has_the_keyboard() {
        window_->showBench();
        const auto drawer = [this] { return window_->session().book().gear().size(); };
        const std::size_t before = drawer();
        QPushButton* add = button(window_->benchPage(), "+ cable");
        QTest::keyClick(add, Qt::Key_Return, Qt::ControlModifier);
        QCOMPARE(drawer(), before);
        QTest::keyClick(add, Qt::Key_Return);
        QCOMPARE(drawer(), before + 1);
        QVERIFY(window_->session().history().undo().has_value());
        QCheckBox box(window_.get());
        QTest::keyClick(&box, Qt::Key_Enter, Qt::KeypadModifier);
        QVERIFY(!box.isChecked());
        QTest::keyClick(&box, Qt::Key_Space);
        QVERIFY(box.isChecked());
    }

    // WCAG 2.1: 4.5 : 1 for text (1.4.3), 3 : 1 for what carries meaning (1.4.11).
    void what_is_written_can_be_read_data() {
        QTest::addColumn<int>("kind");
        QTest::addRow("light") << static_cast<int>(app::ThemeKind::Light);
        QTest::addRow("dark") << static_cast<int>(app::ThemeKind::Dark);
    }
    void what_is_written_can_be_read() {
        QFETCH(int, kind);
        app::applyTheme(static_cast<app::ThemeKind>(kind));
        const app::Theme t = app::theme();
        for (const QColor& behind : {t.paper, t.sheet}) {
            for (const QColor& text : {t.ink, t.faint, t.warn, t.in, t.out})
                QVERIFY2(contrast(text, behind) >= 4.5, qPrintable(text.name() + " on " + behind.name() + ": " +
                                                                   QString::number(contrast(text, behind))));
            for (const QColor& mark : {t.loss, t.focus})
                QVERIFY2(contrast(mark, behind) >= 3.0, qPrintable(mark.name() + " on " + behind.name()));
        }
        QVERIFY(contrast(t.sheet, t.focus) >= 4.5); // the words of the button that is meant first
        app::applyTheme(app::ThemeKind::Light);
    }

    void the_window_begins_as_the_desktop_is() {
        const QPalette before = QApplication::palette();
        for (const auto& [ground, ink, wanted] :
             {std::tuple(Qt::black, Qt::white, app::ThemeKind::Dark), {Qt::white, Qt::black, app::ThemeKind::Light}}) {
            QPalette desktop;
            desktop.setColor(QPalette::Window, ground);
            desktop.setColor(QPalette::WindowText, ink);
            QApplication::setPalette(desktop);
            QVERIFY(app::systemTheme() == wanted);
        }
        QApplication::setPalette(before);
    }

    // Not by its colour alone: each look has a sign, which has a name.
    void what_is_said_has_a_sign_besides_its_colour() {
        std::set<QString> signs;
        for (const auto& speak : {&app::MainWindow::say, &app::MainWindow::tell, &app::MainWindow::ask}) {
            (window_.get()->*speak)(QStringLiteral("Something."));
            auto* message = window_->findChild<QFrame*>(QStringLiteral("message"));
            QVERIFY(message->isVisible());
            for (auto* label : message->findChildren<QLabel*>()) {
                if (label->objectName().isEmpty()) {
                    QVERIFY(!label->accessibleName().isEmpty());
                    signs.insert(label->text());
                }
            }
        }
        QCOMPARE(signs.size(), std::size_t(3));
    }

    // What was removed can be brought back from where that is told, until something else is changed.
    void what_was_removed_comes_back_from_the_message() {
        const records::Id bank = window_.bankNamed("Pebble 5");
        const auto undo = [&] {
            auto* button = window_->findChild<QFrame*>(QStringLiteral("message"))->findChild<QAbstractButton*>();
            return button->isVisible() ? button : nullptr;
        };
        QVERIFY(window_->session().removeBank(bank));
        QVERIFY(!window_.book().bank(bank));
        QVERIFY(undo());
        QCOMPARE(window_->findChild<QLabel*>(QStringLiteral("said"))->text(),
                 QStringLiteral("Pebble 5 is off the shelf."));
        undo()->click();
        QVERIFY(window_.book().bank(bank));
        QVERIFY(!undo());
        QVERIFY(window_->session().removeBank(bank));
        auto other = *window_.book().bank(window_.bankNamed("Cobble 10"));
        other.notes = "looked at";
        QVERIFY(window_->session().changeBank(other));
        QVERIFY2(!undo(), "the last change is another one now");
        QVERIFY(window_->session().history().undo());
        QVERIFY(window_->session().history().undo());
    }

private:
    static void stages() {
        QTest::addColumn<QString>("stage");
        for (const char* s : {"Intake", "Bench", "Live", "Runs", "Findings", "Choose", "Sheet", "Plan"})
            QTest::newRow(s) << QString::fromLatin1(s);
    }
};

QTEST_MAIN(AccessTest)
#include "access_test.moc"
