// The window's life from its first show to its end, whatever ends it.
#pragma once

namespace otterstone::app {

class MainWindow;

/// To be called before the application is made: signals that end a program wait for runWindow(), and a crash says "off"
/// to every load.
void prepareToRun();
/// Where it was left, as far as that is whole on a screen there is now; else it stays as it was made.
void putWhereItWasLeft(MainWindow& window);
void keepPlace(const MainWindow& window);
/// Shows it where it was left and runs until it is closed, or the program is told to end; a run that goes then ends
/// with its load off, and nobody is asked. The exit code.
int runWindow(MainWindow& window);

} // namespace otterstone::app
