// What an instrument is and how it speaks, as data: a JSON file for each make of meter, load, trigger or thermometer.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "bench/profiles/wire.h"
#include "core/quantity/problem.h"
#include "logs/live_lines.h"

namespace otterstone::bench {

enum class Kind { Meter, Load, Trigger, Thermometer };
[[nodiscard]] std::string kindName(Kind kind);

/// The greatest an instrument reads or takes; a thermometer's least and most.
struct Range {
    double volts = 65.0, amps = 30.0, watts = 400.0; ///< more than any port of a bank gives
    double leastCelsius = -40.0, mostCelsius = 150.0;
    bool operator==(const Range&) const = default;
};

struct Profile {
    std::string key;  ///< unique; the file's name without ".json"
    std::string name; ///< for people
    Kind kind = Kind::Meter;
    std::string notes;
    // How it is connected: serial or TCP with these settings, a file of the kernel's for a USB instrument, or a page.
    enum class By { Serial, Tcp, Usbtmc, Web } by = By::Serial;
    int baud = 115200;
    std::string parity = "none"; ///< "none", "even", "odd"
    int tcpPort = 5025;
    std::string ending = "\n"; ///< behind what is sent
    // What it speaks: lines it prints by itself, a page, SCPI, or Modbus.
    std::optional<logs::LineFormat> lines;
    std::string start;                       ///< what makes it print, if it must be asked
    std::map<std::string, std::string> scpi; ///< command by action; "{value}" stands for the number
    std::optional<WebPage> page;             ///< its `lines` are then made of it
    std::optional<Registers> modbus;         ///< what is sent is the action itself, with its number
    // What it can do: asked for no more, and a reading beyond it is none.
    Range most;
    double idleAmps = 0.05; ///< load: what it may read while it is off
    std::optional<double>
        watchdogSeconds; ///< load: it switches itself off when nothing was said to it for so long; nothing: not known

    /// The command for an action with its number in place; empty when the instrument has none for it.
    [[nodiscard]] std::string command(const std::string& action, std::optional<double> value = std::nullopt) const;
    bool operator==(const Profile&) const = default;
};

/// The actions a profile of this kind may spell, with the spelling taken when it doesn't (SCPI-1999 style).
[[nodiscard]] const std::map<std::string, std::string>& actions(Kind kind);

/// Problems: those of parseObject, bad_value with the place inside the file, and of LiveLines::make. Whoever wrote it,
/// its texts are harmless: each is one line and one command (no control characters, no ";"), a question has a "?" and
/// so sets nothing, "on" and "off" are there and differ, "off" does not end as "on".
[[nodiscard]] Result<Profile> profileFromJson(const std::string& text, const std::string& place);
[[nodiscard]] std::string toJson(const Profile& profile);

/// Those that come with the application.
[[nodiscard]] std::vector<Profile> builtinProfiles();

} // namespace otterstone::bench
