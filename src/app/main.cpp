// otterstone: opens the book named on the command line, or the tester's own.
#include <QApplication>
#include <QSettings>

#include "app/main_window.h"
#include "app/run_window.h"
#include "app/theme.h"

int main(int argc, char** argv) {
    otterstone::app::prepareToRun();
    QApplication app(argc, argv);
    QApplication::setApplicationName(QStringLiteral("otterstone"));
    QApplication::setOrganizationName(QStringLiteral("otterstone"));
    QApplication::setApplicationDisplayName(QStringLiteral("Otterstone"));
    QApplication::setApplicationVersion(QStringLiteral(OTTERSTONE_VERSION));
    namespace ui = otterstone::app;
    ui::applyTheme(QSettings().value(QStringLiteral("dark")).toBool() ? ui::ThemeKind::Dark : ui::ThemeKind::Light);
    ui::MainWindow window;
    const QStringList arguments = QApplication::arguments();
    if (arguments.size() < 2 || !window.openBook(arguments[1])) {
        if (arguments.size() < 2)
            window.openHomeBook();
    }
    return ui::runWindow(window);
}
