// Signals that end a program: each is an orderly stop, for a load may be on.
#pragma once

#include <functional>
#include <memory>

#include <QSocketNotifier>

namespace otterstone::bench {

/// Ctrl+C, told to end, a terminal that closes, Ctrl+\: from now on these wait for onEndSignal(). Call it before the
/// first thread begins: one that did not inherit the mask would take the signal, and the program would die with the
/// load on. A broken pipe ends nothing any more: writing to it fails.
void holdEndSignals();
/// For a child process: it ends by the usual signals again.
void releaseEndSignals();
/// Calls `act` in the event loop when one of them comes. What would only put the program to sleep (Ctrl+Z, a background
/// job that reads the terminal) does so when `mayPause` says so; else it is refused in words: nobody would watch the
/// load. Precondition: they are held.
[[nodiscard]] std::unique_ptr<QSocketNotifier> onEndSignal(const std::function<void()>& act,
                                                           const std::function<bool()>& mayPause);

} // namespace otterstone::bench
