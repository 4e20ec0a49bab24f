// The subcommands that speak to instruments.
#pragma once

#include "cli/live_options.h"

namespace otterstone::cli {

/// Their exit codes are those of the contract.
[[nodiscard]] int live(const LiveOptions& options, int argc, char** argv);
[[nodiscard]] int listen(const ListenOptions& options, int argc, char** argv);

} // namespace otterstone::cli
