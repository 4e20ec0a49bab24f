// otterstone: opens the book named on the command line, or the tester's own.
#include <algorithm>

#include <QApplication>
#include <QCommandLineParser>
#include <QSettings>

#include "app/main_window.h"
#include "app/run_window.h"
#include "app/theme.h"
#include "core/quantity/version.h"

int main(int argc, char** argv) {
    otterstone::app::prepareToRun();
    QCoreApplication::setApplicationName(QStringLiteral("otterstone"));
    QCoreApplication::setOrganizationName(QStringLiteral("otterstone"));
    QCoreApplication::setApplicationVersion(QString::fromStdString(otterstone::versionWithCommit()));
    QCommandLineParser parser;
    parser.setApplicationDescription(QStringLiteral(
        "Otterstone: the window of a tester of portable power banks. Without a book it opens your own."));
    parser.addHelpOption();
    parser.addVersionOption();
    const QCommandLineOption demo(QStringLiteral("demo"), QStringLiteral("Open the demo: the survey on Skerry Point."));
    parser.addOption(demo);
    parser.addPositionalArgument(QStringLiteral("book"), QStringLiteral("The book to open."), QStringLiteral("[BOOK]"));
    // What only prints needs no display.
    if (std::any_of(argv + 1, argv + argc, [](const char* a) {
            const std::string_view text(a);
            return text == "--help" || text == "-h" || text == "--help-all" || text == "--version" || text == "-v";
        })) {
        QCoreApplication printing(argc, argv);
        parser.process(printing);
    }
    QApplication app(argc, argv);
    QApplication::setApplicationDisplayName(QStringLiteral("Otterstone"));
    QApplication::setDesktopFileName(QStringLiteral("otterstone"));
    QApplication::setWindowIcon(
        QIcon::fromTheme(QStringLiteral("otterstone"), QIcon(QStringLiteral(":/otterstone.svg"))));
    parser.process(app);
    namespace ui = otterstone::app;
    const QVariant dark = QSettings().value(QStringLiteral("dark")); // since somebody chose by Ctrl+D
    ui::applyTheme(!dark.isValid() ? ui::systemTheme() : dark.toBool() ? ui::ThemeKind::Dark : ui::ThemeKind::Light);
    ui::MainWindow window;
    if (parser.isSet(demo))
        window.openDemo();
    else if (parser.positionalArguments().isEmpty())
        window.openHomeBook();
    else
        window.openBook(parser.positionalArguments().constFirst());
    return ui::runWindow(window);
}
