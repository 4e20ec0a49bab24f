// A notebook's rows as moments: what was read and what happened, each cell by itself.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/kinds/notebook/charging.h"
#include "core/kinds/rows.h"
#include "core/setup/facts.h"

namespace otterstone::kinds {

enum class Event { PluggedIn, Unplugged, Stopped, Resumed, Error, Replug, Button, Full, Died, WentOff };
struct EventName {
    Event event;
    const char* words;
};
inline constexpr EventName kEvents[] = {
    {Event::PluggedIn, "plugged in"}, {Event::Unplugged, "unplugged"}, {Event::Stopped, "stopped"},
    {Event::Resumed, "resumed"},      {Event::Error, "error"},         {Event::Replug, "replug"},
    {Event::Button, "button"},        {Event::Full, "full"},           {Event::Died, "died"},
    {Event::WentOff, "went off"}};

/// Died is empty, as whoever writes it knows; one that went off may have been too hot, asked for too much or for too
/// little.
struct Happened {
    Event event = Event::Stopped;
    bool timeBefore = false;                ///< "some time before": between the row above and this one
    std::optional<std::size_t> device = {}; ///< to which; nothing: the bank, or all there is
};

/// What stands in a cell of a display.
struct Shown {
    std::optional<Look> look; ///< its time, row and °C are filled in by whoever has them
    std::optional<Event> event;
    bool timeBefore = false;
};

/// "83", "83 %", "2 of 4", "full", "stopped", "83 %, unplugged", "60 %, 25 min left". Problems: bad_state,
/// above_hundred.
[[nodiscard]] Result<Shown> readShown(std::string_view text);

/// A device as its column is headed: "Phone 12.9 Wh", "Tablet 7600 mAh at 3.8 V, health 91 %", "Torch".
struct NotedDevice {
    std::string name;
    std::optional<double> wattHours; ///< of its battery, as it is now
    std::string how; ///< "3350 mAh × 3.85 V ÷ 1000, the volts of its cells taken as usual"; empty as typed
};
/// A battery in mAh without volts is taken at 3.85 V, the usual nominal of one cell (common practice, no published
/// source); a name alone is looked for among the drawer's devices.
[[nodiscard]] NotedDevice readDevice(const std::string& heading, const std::vector<setup::KnownDevice>& known);

struct Entry {
    std::size_t row = 0;
    double at = 0.0;                ///< s since the beginning
    std::string volts, amps, watts; ///< as typed
    std::string note;
    std::optional<double> wattHours, milliampHours;
    double wattHoursDigit = 0.0;
    std::optional<Look> bank;
    std::vector<std::pair<std::string, double>> celsius; ///< where, as written; "" when nothing was
    std::string way;
    std::vector<std::optional<Look>> devices;
    std::vector<Happened> happened;
    [[nodiscard]] bool was(Event event, std::optional<std::size_t> device = {}) const;
};

/// The bank went off, or died, though its display had said that there was more left.
struct OffEarly {
    Look before;
    bool died = false;
};

struct Notes {
    std::vector<NotedDevice> devices;
    std::optional<OffEarly> offEarly;
    bool wentOff = false;       ///< and nothing says how full it was
    std::vector<Entry> entries; ///< in the order of time; rows whose time cannot be read are left out and remarked
};
[[nodiscard]] Notes readNotes(const Sheet& sheet, const setup::Facts& facts, std::vector<Remark>& remarks);

} // namespace otterstone::kinds
