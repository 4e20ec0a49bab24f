#include "cli/live_options.h"

#include "cli/recipe.h"

namespace otterstone::cli {

void addLiveCommands(CLI::App& app, int& code, const LiveCommands& does) {
    static LiveOptions o;
    auto* run = app.add_subcommand("live", "Run a recipe on instruments, into a book");
    run->add_option("book", o.book, "the book")->required();
    run->add_option("--bank", o.bank, "the bank's name");
    run->add_option("--recipe", o.recipe, "a recipe's key or file")->required();
    run->add_option("--meter", o.meter, "PROFILE@ADDRESS, like printing-meter@/dev/ttyUSB0");
    run->add_option("--input-meter", o.inputMeter, "the same, between charger and bank");
    run->add_option("--wall-meter", o.wallMeter, "the same, between the wall and the charger");
    run->add_option("--load", o.load, "like scpi-load@192.168.1.20:5025");
    run->add_option("--second-load", o.secondLoad, "");
    run->add_option("--trigger", o.trigger, "");
    run->add_option("--second-trigger", o.secondTrigger, "");
    run->add_option("--thermometer", o.thermometer, "");
    run->add_option("--celsius", o.celsius, "stop above this temperature");
    run->add_option("--title", o.title, "of the run");
    run->add_option("--began", o.began, "how full the bank is: full, empty, 92 %, unknown");
    run->add_option("--meter-gear", o.meterGear, "the meter's name in the gear drawer, for its accuracy");
    run->add_option("--cable-gear", o.cableGear, "the cable's name there, for its resistance");
    run->add_option("--rehearse", o.rehearse, "HOST:PORT@SPEED of a stand-in's control port");
    run->add_option("--rescue", o.rescue, "folder for what the book does not take");
    run->add_flag("--go-on", o.goOn, "go on with the run that was left open");
    run->add_flag("--checked", o.yes, "the bank and the bench have been looked at");
    run->add_flag("--json", o.json, "print one JSON object at the end");
    run->callback([&code, live = does.live] { code = live(o); });

    static RecipeOptions r;
    auto* recipes = app.add_subcommand("recipe", "Say what a recipe does and how long it takes");
    recipes->add_option("recipe", r.recipe, "a recipe's key or file")->required();
    recipes->add_option("--wh", r.wattHours, "what the bank delivers, or takes in");
    recipes->add_option("--tier", r.tiers, "a tier of the bank, e.g. 9Vx2A");
    recipes->add_option("--input-watts", r.inputWatts, "what the charger gives");
    recipes->add_flag("--json", r.json, "print one JSON object");
    recipes->callback([&code] { code = recipe(r); });

    static std::string profile;
    auto* instruments = app.add_subcommand("instrument", "Check an instrument profile and print it whole");
    instruments->add_option("profile", profile, "a profile's key or file")->required();
    instruments->callback([&code] { code = instrument(profile); });

    static ListenOptions l;
    auto* listening = app.add_subcommand("listen", "Listen to a port and propose the profile of what prints there");
    listening->add_option("address", l.address, "a serial port, or host:port")->required();
    listening->add_option("--baud", l.baud, "115200 when not given");
    listening->callback([&code, listen = does.listen] { code = listen(l); });
}

} // namespace otterstone::cli
