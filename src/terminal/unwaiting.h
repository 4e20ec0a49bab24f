// What is printed waits for nobody: a terminal that was stopped (Ctrl+S) and a pipe that nobody reads hold up no
// program that has a load to watch.
#pragma once

namespace otterstone::terminal {

/// From now on words for standard output and standard error go out from a thread of their own. What is not taken is
/// kept, 256 KiB at most; lines beyond that are dropped, counted, and the count is printed once somebody reads again.
/// A flush of standard output waits two seconds at most and fails when it was not taken by then; the end of the program
/// waits half a second. Before printPlainly().
void printWithoutWaiting();

} // namespace otterstone::terminal
