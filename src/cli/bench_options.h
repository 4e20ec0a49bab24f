// The options of the measuring bench's subcommands.
#pragma once

namespace CLI {
class App;
}

namespace otterstone::cli {

/// Adds them to the program; `code` takes the exit code of the one that ran.
void addSheetCommand(CLI::App& app, int& code);
void addBenchCommands(CLI::App& app, int& code);

} // namespace otterstone::cli
