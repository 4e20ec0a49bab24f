// The real window, that begins a run on each bench it is given: for live_kill_test.
// Usage: live_benches BOOK METER LOAD [METER LOAD ...]      the banks of the book in their order
#include <cstdlib>

#include <QApplication>
#include <QStandardPaths>
#include <QTimer>

#include "app/main_window.h"
#include "app/run_window.h"

using namespace otterstone;

int main(int argc, char** argv) {
    app::prepareToRun();
    QApplication application(argc, argv);
    QApplication::setApplicationName(QStringLiteral("otterstone"));
    QApplication::setOrganizationName(QStringLiteral("otterstone"));
    const QStringList arguments = QApplication::arguments();
    app::MainWindow window;
    if (arguments.size() < 4 || !window.openBook(arguments[1]))
        return 2;
    QTimer::singleShot(0, &window, [&] {
        app::LiveBench& live = window.liveBench();
        const char* recipe =
            R"({"format": "otterstone-recipe", "version": 1, "key": "hour", "name": "An hour", "kind": "drain", "needs": ["meter", "load"],
            "steps": [{"do": "load", "amps": 1, "seconds": 3600}]})";
        const auto banks = window.session().book().banks();
        for (qsizetype k = 0; 2 * k + 3 < arguments.size(); ++k) {
            if (!live.setups().add(QStringLiteral("bench %1").arg(k)))
                std::exit(3);
            live.setInstrument("meter", QStringLiteral("printing-meter"), arguments[2 * k + 2]);
            live.setInstrument("load", QStringLiteral("scpi-load"), arguments[2 * k + 3]);
            live.begin({banks[static_cast<std::size_t>(k)],
                        {bench::recipeFromJson(recipe, "recipe").value(), recipe},
                        false,
                        1.0,
                        {},
                        60.0});
        }
    });
    return app::runWindow(window);
}
