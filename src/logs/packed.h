// Logs that were packed with gzip, unpacked into memory.
#pragma once

#include <string>
#include <string_view>

#include "core/quantity/problem.h"

namespace otterstone::logs {

/// By the two bytes that begin such a file (RFC 1952).
[[nodiscard]] bool isPacked(std::string_view head);
/// All of its members, one after the other. Problems: bad_gzip, and log_too_large for more than 512 MB of text.
[[nodiscard]] Result<std::string> unpacked(std::string_view bytes, const std::string& name);

} // namespace otterstone::logs
