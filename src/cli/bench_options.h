// The options of the subcommands of the measuring bench, of sheets and of judgement.
#pragma once

namespace CLI {
class App;
}

namespace otterstone::cli {

/// Adds them to the program; `code` takes the exit code of the one that ran.
void addNewCommands(CLI::App& app, int& code);
void addSheetCommand(CLI::App& app, int& code);
void addRowsCommand(CLI::App& app, int& code);
void addRunCommands(CLI::App& app, int& code);
void addLifeCommand(CLI::App& app, int& code);
void addDevicesCommand(CLI::App& app, int& code);
void addHouseCommand(CLI::App& app, int& code);
void addPlanCommand(CLI::App& app, int& code);
void addAttachCommand(CLI::App& app, int& code);
void addBenchCommands(CLI::App& app, int& code);
void addJudgementCommands(CLI::App& app, int& code);

} // namespace otterstone::cli
