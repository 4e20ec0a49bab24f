// An example for each command, as its help and the manual show it.
#pragma once

namespace CLI {
class App;
}

namespace otterstone::cli {

/// Puts the examples under the commands' help.
void addExamples(CLI::App& app);

} // namespace otterstone::cli
