// The real window, that begins a run by itself on the instruments it is given, as a tester would by its buttons: for
// signals_test.
#include <csignal>
#include <cstdlib>

#include <QApplication>
#include <QSettings>
#include <QTimer>

#include "app/main_window.h"
#include "app/run_window.h"
#include "bench/recipes/recipe.h"
#include "fake_bench.h"

using namespace otterstone;

int main(int argc, char** argv) {
    app::prepareToRun();
    std::signal(SIGUSR1, [](int) { std::exit(1); }); // what a platform's plugin does when its display is gone
    QApplication application(argc, argv);
    QApplication::setApplicationName(QStringLiteral("otterstone"));
    QApplication::setOrganizationName(QStringLiteral("otterstone"));
    const QStringList arguments = QApplication::arguments();
    app::MainWindow window;
    if (arguments.size() < 4 || !window.openBook(arguments[1]))
        return 2;
    QTimer::singleShot(0, &window, [&] {
        app::LiveBench& live = window.liveBench();
        for (const auto& [role, kind, address] : {std::tuple("meter", bench::Kind::Meter, arguments[2]),
                                                  std::tuple("load", bench::Kind::Load, arguments[3])}) {
            const bench::Profile profile = testing::FakeBench::profile(kind, kind == bench::Kind::Meter);
            if (!live.saveProfile(profile))
                std::exit(3);
            live.setInstrument(role, QString::fromStdString(profile.key), address);
        }
        const char* recipe =
            R"({"format": "otterstone-recipe", "version": 1, "key": "hour", "name": "An hour", "kind": "drain", "needs": ["meter", "load"],
            "steps": [{"do": "load", "amps": 1, "seconds": 3600}]})";
        live.begin({window.session().book().banks().front(),
                    {bench::recipeFromJson(recipe, "recipe").value(), recipe},
                    false,
                    1.0,
                    {},
                    60.0});
    });
    return app::runWindow(window);
}
