// Signals that end a program: each is an orderly stop, for a load may be on.
#pragma once

#include <functional>
#include <memory>

#include <QSocketNotifier>

namespace otterstone::bench {

/// From now on what would end this program waits for onEndSignal(): Ctrl+C, told to end, a terminal that closes,
/// Ctrl+\, the power that fails, a limit of time or of files. What means nothing here and would end it all the same
/// (alarms, USR1, a broken pipe and their like) is not heard at all. Call it before the first thread begins: one that
/// did not inherit the mask would take the signal. A crash, and what nobody can hold (KILL), are off_watcher.h's.
void holdEndSignals();
/// For a child process: it ends by the usual signals again.
void releaseEndSignals();

/// Who wants the program to end.
enum class EndAsked {
    First, ///< whoever it is: the run ends in order
    Again  ///< a person insists, more than a second after the first time: it is left as it is
};
/// Calls `act` in the event loop when one of them comes. What would only put the program to sleep (Ctrl+Z, a background
/// job that reads the terminal) does so when `mayPause` says so; else it is refused in words: nobody would watch the
/// load. Precondition: they are held.
[[nodiscard]] std::unique_ptr<QSocketNotifier> onEndSignal(const std::function<void(EndAsked)>& act,
                                                           const std::function<bool()>& mayPause);

} // namespace otterstone::bench
