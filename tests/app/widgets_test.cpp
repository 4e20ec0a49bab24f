// The pieces that pages are made of: they ask nobody in vain, wrap, copy, and answer the keyboard.
#include <QTest>

#include <functional>
#include <memory>
#include <utility>
#include <vector>

#include <QApplication>
#include <QClipboard>
#include <QHBoxLayout>
#include <QImage>
#include <QLabel>
#include <QMimeData>
#include <QPushButton>
#include <QScrollArea>
#include <QSignalSpy>
#include <QSvgRenderer>
#include <QTableWidget>
#include <qcustomplot.h>

#include "../core/sources.h"
#include "app/theme.h"
#include "app/widgets/copy_table.h"
#include "app/widgets/enter_presses.h"
#include "app/widgets/figure_button.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/page_stack.h"
#include "app/widgets/plot_look.h"
#include "app/widgets/style_when_shown.h"
#include "app/widgets/working_drawer.h"
#include "app/widgets/wrapped_label.h"
#include "app/widgets/wrapping_check.h"

using namespace otterstone;
using namespace otterstone::app;

namespace {

// Words that count how often they are asked how tall they are.
class Counted : public QLabel {
public:
    explicit Counted(int* count) : count_(count) {
        setWordWrap(true);
        setText(QStringLiteral("Words that wrap, and are tall where it is narrow. ").repeated(8));
    }
    [[nodiscard]] int heightForWidth(int width) const override {
        ++*count_;
        return QLabel::heightForWidth(width);
    }

private:
    int* count_;
};

QWidget* pageOf(QWidget* content) {
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->addWidget(content);
    column->addStretch();
    return page;
}

Working figureOf(const char* key, double value, double u) {
    Working w;
    w.key = key;
    w.label = "energy at the port";
    w.value = Measured(value, u, otterstone::testing::source("Bench meter: volts"));
    w.unit = Unit::WattHour;
    w.formula = "∫ U · I dt";
    return w;
}

} // namespace

class WidgetsTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void initTestCase() { applyTheme(ThemeKind::Light); }

    void a_hidden_page_is_not_asked_how_tall_it_is() {
        int hidden = 0, shown = 0;
        QWidget window;
        auto* column = new QVBoxLayout(&window);
        auto* stack = new PageStack;
        stack->setMinimumSize(300, 200);
        stack->addWidget(pageOf(new Counted(&shown)));
        stack->addWidget(pageOf(new Counted(&hidden)));
        auto* message = new QLabel;
        column->addWidget(message);
        column->addWidget(stack, 1);
        window.resize(500, 400);
        window.show();
        QVERIFY(QTest::qWaitForWindowExposed(&window));
        QVERIFY(shown > 0);
        hidden = 0;
        for (int k = 0; k < 10; ++k) { // something above it changes, as a message does
            message->setText(QStringLiteral("line\n").repeated(k));
            QCoreApplication::processEvents();
        }
        QCOMPARE(hidden, 0);
        QCOMPARE(stack->sizeHint(), QSize(300, 200));
        stack->setCurrentIndex(1);
        QCoreApplication::processEvents();
        QVERIFY(hidden > 0); // now it is laid out
        QVERIFY(stack->currentWidget()->findChild<QLabel*>()->height() > 0);
    }

    void a_plot_is_drawn_once_though_it_was_resized_often() {
        QWidget window;
        auto* column = new QVBoxLayout(&window);
        QCustomPlot* plot = makePlot();
        column->addWidget(plot);
        window.resize(500, 300);
        window.show();
        QVERIFY(QTest::qWaitForWindowExposed(&window));
        QTest::qWait(20);
        QSignalSpy drawn(plot, &QCustomPlot::afterReplot);
        for (int k = 0; k < 6; ++k)
            window.resize(500 + 10 * k, 300 + 7 * k);
        QCOMPARE(drawn.count(), 0);
        QTRY_COMPARE(drawn.count(), 1);
        QCOMPARE(plot->viewport().size(), plot->size());
    }

    void rows_wrap_and_give_back_their_widgets() {
        QWidget window;
        auto* row = new FlowLayout(&window, 4);
        for (int k = 0; k < 8; ++k) {
            auto* b = new QPushButton(QStringLiteral("Button %1").arg(k));
            b->setFixedSize(80, 24);
            row->addWidget(b);
        }
        QCOMPARE(row->heightForWidth(8 * 84), 24);
        QCOMPARE(row->heightForWidth(2 * 84), 4 * 24 + 3 * 4);
        QCOMPARE(row->heightForWidth(10), 8 * 24 + 7 * 4);        // too narrow for one: each has its row all the same
        const std::unique_ptr<QLayoutItem> taken(row->takeAt(0)); // whoever takes it owns it
        delete taken->widget();
        QCOMPARE(row->count(), 7);
        QVERIFY(!row->takeAt(99));
    }

    // As tall as Qt's own label at each width, whatever changed since it was asked last.
    void a_label_that_remembers_is_as_tall_as_one_that_does_not() {
        WrappedLabel kept;
        QLabel asked;
        asked.setWordWrap(true);
        const auto alike = [&] {
            for (const int width : {40, 90, 200, 90, 333, 40, 1000, 61, 62, 63, 64, 65})
                QCOMPARE(kept.heightForWidth(width), asked.heightForWidth(width));
        };
        const std::vector<std::function<void(QLabel&)>> changes{
            [](QLabel& l) { l.setText(QStringLiteral("It gave 57.9 Wh at 10 W: 78 % of what is printed on it.")); },
            [](QLabel& l) { l.setText(QStringLiteral("Not yet.")); },
            [](QLabel& l) {
                l.setText(QStringLiteral("<p><b>Cobble 10</b>, gentle drain<br>36.2 → 35.9 Wh</p>").repeated(9));
            },
            [](QLabel& l) { l.setFont(QFont(l.font().family(), 19)); },
            [](QLabel& l) { l.setContentsMargins(30, 12, 5, 7); },
            [](QLabel& l) { l.setStyleSheet(QStringLiteral("QLabel { font-size: 8pt; padding: 9px; }")); },
            [](QLabel& l) { l.setTextInteractionFlags(Qt::TextSelectableByMouse); },
            [](QLabel& l) { l.show(); },
            [](QLabel& l) { l.setText({}); }};
        for (const auto& change : changes) {
            alike();
            change(kept);
            change(asked);
        }
        alike();
    }

    // Seen parts hear of a new style once, as it comes; hidden ones once, when they are shown; neither of the old one's
    // going.
    void a_hidden_part_hears_of_a_new_style_when_it_is_shown() {
        struct Part : QScrollArea {
            int told = 0;
            bool event(QEvent* event) override {
                told += event->type() == QEvent::StyleChange ? 1 : 0;
                return QScrollArea::event(event);
            }
        };
        QWidget window;
        auto* row = new QHBoxLayout(&window);
        auto *seen = new Part, *hidden = new Part;
        row->addWidget(seen);
        row->addWidget(hidden);
        hidden->hide();
        window.show();
        seen->told = hidden->told = 0;
        const QString other = QStringLiteral("QScrollArea { border: 3px solid black; }");
        for (const QString& sheet : {other, QString(), other}) { // a second change before it is shown adds nothing
            StyleWhenShown meanwhile;
            window.setStyleSheet(QStringLiteral("QScrollArea { border: 9px solid black; }"));
            QCOMPARE(seen->told, 0);
            meanwhile.tellSeen();
            window.setStyleSheet(sheet);
            QVERIFY(std::exchange(seen->told, 0) > 0);
            QCOMPARE(hidden->told, 0);
        }
        hidden->show();
        QCOMPARE(hidden->told, 1);
        hidden->hide();
        hidden->show();
        QCOMPARE(hidden->told, 1);
        window.setStyleSheet({}); // told at once again
        QVERIFY(hidden->told > 1);
    }

    void a_check_wraps_and_its_words_can_be_clicked() {
        WrappingCheck check(QStringLiteral(
            "Nobody leaves while it is charged, and what could burn is out of the way of the bank and its cables"));
        check.resize(200, check.heightForWidth(200));
        QVERIFY(check.heightForWidth(200) > 2 * check.heightForWidth(4000));
        check.show();
        QTest::mouseClick(&check, Qt::LeftButton, {}, QPoint(150, check.height() - 6));
        QVERIFY(check.isChecked());
        QTest::keyClick(&check, Qt::Key_Space);
        QVERIFY(!check.isChecked());
        QVERIFY(!check.grab().isNull());
    }

    void a_table_is_copied_as_it_is_seen() {
        QTableWidget table(2, 3);
        table.setHorizontalHeaderLabels({QStringLiteral("port"), QStringLiteral("hidden"), QStringLiteral("watts")});
        table.setVerticalHeaderLabels({QStringLiteral("C1"), QStringLiteral("A|2")});
        const char* const cells[2][3] = {{"out", "x", "18.2 ± 0.1"}, {"=1+1", "x", "tab\there"}};
        for (int r = 0; r < 2; ++r)
            for (int c = 0; c < 3; ++c)
                table.setItem(r, c, new QTableWidgetItem(QString::fromUtf8(cells[r][c])));
        table.hideColumn(1);
        copyForSpreadsheet(table);
        const QStringList lines = QGuiApplication::clipboard()->text().split(QLatin1Char('\n'), Qt::SkipEmptyParts);
        QCOMPARE(lines.size(), 3);
        for (const QString& line : lines)
            QCOMPARE(line.count(QLatin1Char('\t')), 2); // name, port, watts; nothing that is hidden, no tab of a cell
        QVERIFY(lines[1].contains(QStringLiteral("18.2 ± 0.1")));
        QVERIFY(!lines[2].contains(QStringLiteral("\t=1+1"))); // a spreadsheet would reckon with it
        copyAsMarkdown(table);
        const QString text = QGuiApplication::clipboard()->text();
        QVERIFY(text.contains(QStringLiteral("A\\|2")));
        QVERIFY(!text.contains(QStringLiteral("hidden")));
    }

    void the_keyboard_copies_the_table_it_is_in_and_else_the_curve() {
        QWidget page;
        auto* column = new QVBoxLayout(&page);
        auto* table = new QTableWidget(1, 1);
        table->setItem(0, 0, new QTableWidgetItem(QStringLiteral("from the table")));
        QCustomPlot* plot = makePlot();
        column->addWidget(table);
        column->addWidget(plot);
        page.resize(400, 400);
        page.show();
        QVERIFY(QTest::qWaitForWindowExposed(&page));
        page.activateWindow();
        table->setFocus();
        QTRY_COMPARE(QApplication::focusWidget(), static_cast<QWidget*>(table));
        QVERIFY(CopyMenu::copyFrom(&page));
        QVERIFY(QGuiApplication::clipboard()->text().contains(QStringLiteral("from the table")));
        table->clearFocus();
        QVERIFY(CopyMenu::copyFrom(&page));
        const QMimeData* copied = QGuiApplication::clipboard()->mimeData();
        QVERIFY(copied->hasImage());
        QCOMPARE(copied->imageData().value<QImage>().size(), plot->size() * 2);
        QSvgRenderer svg(copied->data(QStringLiteral("image/svg+xml")));
        QVERIFY(svg.isValid());
        QCOMPARE(svg.viewBox().size(), plot->size());
        plot->hide();
        QVERIFY(CopyMenu::copyFrom(&page)); // the table again: it is all that is seen
        table->hide();
        QVERIFY(!CopyMenu::copyFrom(&page));
    }

    void a_figure_opens_by_click_space_and_return() {
        FigureButton button(figureOf("energy", 18.44, 0.02));
        qApp->installEventFilter(new EnterPresses(&button)); // as the window does for all its buttons
        QSignalSpy opened(&button, &QAbstractButton::clicked);
        button.resize(button.sizeHint());
        button.show();
        QTest::mouseClick(&button, Qt::LeftButton);
        QTest::keyClick(&button, Qt::Key_Space);
        QTest::keyClick(&button, Qt::Key_Return);
        QCOMPARE(opened.count(), 3);
        QVERIFY(button.accessibleName().contains(QStringLiteral("energy at the port")));
        // Longer words, wider button: nothing is cut off.
        Working more = figureOf("energy", 18.44, 0.02);
        more.label = "energy at the port of the other bank, all told";
        QVERIFY(FigureButton(more).sizeHint().width() > button.sizeHint().width());
    }

    void the_drawer_unfolds_steps_and_budget() {
        Working w = figureOf("share", 76.0, 0.4);
        w.parts = {figureOf("above", 18.44, 0.02), figureOf("below", 24.05, 0.0)};
        WorkingDrawer drawer;
        drawer.open(w);
        QString all;
        for (const QLabel* l : drawer.findChildren<QLabel*>())
            all += l->text() + QLatin1Char('\n');
        for (const QWidget* child : drawer.findChildren<QWidget*>())
            all += child->accessibleName() + QLatin1Char('\n'); // the bars are painted
        QVERIFY2(all.contains(QStringLiteral("∫ U · I dt")), qPrintable(all));
        QVERIFY(all.contains(QStringLiteral("Bench meter: volts")));
        QCOMPARE(drawer.shownWorking().key, std::string("share"));
        drawer.open(figureOf("other", 1.0, 0.0)); // no trace of the one before
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        all.clear();
        for (const QLabel* l : drawer.findChildren<QLabel*>())
            all += l->text();
        QVERIFY(!all.contains(QStringLiteral("24.05")));
    }
};

QTEST_MAIN(WidgetsTest)
#include "widgets_test.moc"
