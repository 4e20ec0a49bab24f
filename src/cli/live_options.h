// Options of the live bench's subcommands.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include <CLI/CLI.hpp>

namespace otterstone::cli {

struct LiveOptions {
    std::string book, bank, recipe, meter, inputMeter, wallMeter, load, secondLoad, trigger, secondTrigger, thermometer,
        celsius, title, began, meterGear, cableGear, rehearse, rescue;
    bool goOn = false, yes = false, json = false;
};
struct RecipeOptions {
    std::string recipe, wattHours, inputWatts;
    std::vector<std::string> tiers;
    bool json = false;
};
struct ListenOptions {
    std::string address, baud;
};

/// What the two that speak to instruments do.
struct LiveCommands {
    std::function<int(const LiveOptions&)> live;
    std::function<int(const ListenOptions&)> listen;
};
void addLiveCommands(CLI::App& app, int& code, const LiveCommands& does);

} // namespace otterstone::cli
