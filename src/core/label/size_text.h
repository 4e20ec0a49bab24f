// A size in a line of text.
#pragma once

#include "core/label/label.h"

namespace otterstone::label {

/// "106 × 68 × 25", "106x68x25 mm": three sides in millimetres, each above 0. Problem: bad_size.
[[nodiscard]] Result<SizeMm> parseSize(std::string_view text, std::string_view place);
/// What parseSize reads again.
[[nodiscard]] std::string showSize(const SizeMm& size);

} // namespace otterstone::label
