// A tour of all pages of a book, as a tester walks them: which events keep the interface's thread for more than 50 ms.
//
//     QT_QPA_PLATFORM=offscreen otterstone_tour BOOK
#include <functional>

#include <QLineEdit>
#include <QScrollBar>
#include <QTest>

#include "app/gear/bench_page.h"
#include "app/gear/gear_card.h"
#include "app/gear/gear_form.h"
#include "app/gear/gear_panel.h"
#include "app/main_window.h"
#include "app/shelf/shelf.h"
#include "app/text_size.h"
#include "app/theme.h"
#include "watched.h"

namespace ui = otterstone::app;
using otterstone::records::Id;

namespace {

constexpr int kLook = 1500, kWork = 6000; // ms at each page, for what is worked out beside it

// All that scrolls, to its end and back.
void scroll(ui::MainWindow& window) {
    for (auto* bar : window.findChildren<QScrollBar*>()) {
        if (!bar->isVisible() || bar->maximum() == 0)
            continue;
        for (const int to : {bar->maximum() / 2, bar->maximum(), 0}) {
            bar->setValue(to);
            QTest::qWait(30);
        }
    }
}

} // namespace

int main(int argc, char** argv) {
    otterstone::watched::WatchedApplication app(argc, argv, 50.0);
    if (argc < 2)
        return std::fprintf(stderr, "Usage: otterstone_tour BOOK\n"), 2;
    ui::applyTheme(ui::ThemeKind::Light);
    ui::MainWindow window;
    window.resize(1366, 768);
    window.show();
    QTest::qWait(1000);
    app.watch();
    otterstone::watched::Beat beat;
    int before = 0;
    const auto stop = [&](const QString& where, const std::function<void()>& go, int look = kLook) {
        QTimer::singleShot(0, &window, go); // an event like those of keys and mouse
        QTest::qWait(look);
        scroll(window);
        std::printf("%-40s %d events above 50 ms\n", qPrintable(where), app.named() - before);
        std::fflush(stdout);
        before = app.named();
    };
    stop("opening the book", [&] { window.openBook(QString::fromLocal8Bit(argv[1])); });
    const auto banks = window.session().book().banks();
    if (banks.empty())
        return 3;
    const Id first = banks.front().id, other = banks[banks.size() / 2].id;
    stop("the runs of a bank", [&] { window.showRuns(first); });
    stop("the next bank, by the shelf", [&] {
        window.shelf()->takeKeyboard();
        QTest::keyClick(app.focusWidget(), Qt::Key_Down);
    });
    stop("a run far down", [&] {
        const auto runs = window.session().book().runs(other);
        window.showRuns(other, runs.empty() ? otterstone::records::kNew : runs.back().id);
    });
    stop("what is known of that run", [&] {
        const auto runs = window.session().book().runs(other);
        if (!runs.empty())
            window.showAbout(runs.back().id);
    });
    stop("the label", [&] { window.showIntake(other); });
    stop("the gear drawer", [&] { window.showBench(); });
    stop(
        "a corrected meter",
        [&] {
            for (auto* card : window.benchPage()->findChildren<ui::GearCard*>()) {
                if (card->gear().kind != otterstone::records::GearKind::Meter)
                    continue;
                card->click();
                if (QLineEdit* clock = window.gearPanel()->form()->field(QStringLiteral("Clock factor"))) {
                    clock->setText(QStringLiteral("0.99"));
                    Q_EMIT clock->editingFinished();
                }
                break;
            }
        },
        kWork);
    stop(
        "taken back", [&] { (void)window.session().history().undo(); }, kWork);
    stop("claims and verdicts", [&] { window.showFindings(other); });
    stop("before a run", [&] { window.showSetup(other); });
    stop("the plan", [&] { window.showPlan(); });
    stop(
        "choosing", [&] { window.showChoose(); }, kWork);
    stop("the sheet", [&] { window.showReport(other); });
    stop("finding a bank", [&] {
        window.shelf()->find();
        QTest::keyClicks(window.shelf()->findLine(), QString::fromStdString(banks.back().name));
    });
    stop("the guide", [&] { window.showHelp(); });
    stop("larger text", [&] { ui::setTextSize(ui::textSize() + 0.1); });
    stop("the dark theme", [&] { ui::applyTheme(ui::ThemeKind::Dark); });
    beat.say("on the whole tour");
    return 0;
}
