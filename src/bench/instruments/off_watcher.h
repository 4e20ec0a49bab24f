// The one way out for every end: a process beside this one (src/watcher) holds each load that may be on, and says "off"
// to it should this program go without having done so, however it goes.
#pragma once

#include <string>
#include <vector>

#include "bench/instruments/address.h"

namespace otterstone::bench {

/// Starts it. Call it once, in main(), before the first thread. From now on a crash ends the watcher's waiting at once,
/// before a core is written. Where it is not there nothing is watched, and watches() says so.
void beginWatcher();
[[nodiscard]] bool watches();

/// From now on until release() this load is switched off whatever becomes of this program. `descriptor`: what it is
/// connected by, −1 where nothing is, or it speaks otherwise than by lines; said anew when that changes.
void guard(const Profile& profile, const Address& address, int descriptor);
/// It is off, confirmed.
void release(const Profile& profile, const Address& address);
/// Whoever holds the load watches it: to be said at least every few seconds (watcher::kUnwatchedSeconds).
void watched(const Profile& profile, const Address& address);

/// "Off" as it goes over a Modbus wire; empty where the profile's register takes more than one word.
[[nodiscard]] std::string modbusOff(const Profile& profile);

} // namespace otterstone::bench
