// The manual page and the shells' completion, made from the commands themselves, so that none of them goes stale.
#pragma once

#include <string>

namespace CLI {
class App;
}

namespace otterstone::cli {

/// A page of section 1, in roff: each command with its options.
[[nodiscard]] std::string manualPage(const CLI::App& app);
[[nodiscard]] std::string bashCompletion(const CLI::App& app);
[[nodiscard]] std::string zshCompletion(const CLI::App& app);

/// "document man|bash|zsh", for packaging: not listed in the help.
void addDocumentCommand(CLI::App& app, int& code);

} // namespace otterstone::cli
