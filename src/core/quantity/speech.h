// The language in which everything is said: the house's own words, or what another puts in their place.
#pragma once

#include <string>
#include <string_view>

namespace otterstone {

/// A pattern in another language, with the same places; an empty text where it has none.
using Speech = std::string (*)(std::string_view pattern);

/// What say() asks from now on; null for the house's own words. Before anything is said.
void speak(Speech other);

} // namespace otterstone
