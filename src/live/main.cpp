// otterstone-live: what otterstone-cli hands over to where instruments are spoken to, with the same words. It links
// what speaks to networks, serial ports and the desktop; otterstone-cli, which is started for each log, does not.
#include <CLI/CLI.hpp>

#include "cli/commands.h"
#include "live/live.h"
#include "terminal/plainly.h"
#include "terminal/unwaiting.h"

int main(int argc, char** argv) {
    namespace cli = otterstone::cli;
    CLI::App app{"The part of otterstone-cli that speaks to instruments", "otterstone-cli"};
    app.require_subcommand(1);
    otterstone::terminal::printWithoutWaiting();
    otterstone::terminal::printPlainly();
    int code = cli::kDone;
    cli::addLiveCommands(app, code,
                         {[argc, argv](const cli::LiveOptions& o) { return cli::live(o, argc, argv); },
                          [argc, argv](const cli::ListenOptions& o) { return cli::listen(o, argc, argv); }});
    return cli::obeyed(app, argc, argv, code);
}
