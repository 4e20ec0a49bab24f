// What the name of a figure means, from the guide's page of figures: at each figure's name and at the head of its
// working.
#pragma once

#include <string>

#include <QString>

namespace otterstone::app {

/// The guide's line on a figure by its key, up to a colon ("trip:A 5"): what it is, how it is found, where testers
/// disagree. Empty for a key that the page does not have.
[[nodiscard]] QString figureWords(const std::string& key);
/// The same as a tooltip, with what can be done below it.
[[nodiscard]] QString figureTip(const std::string& key, const QString& more);

} // namespace otterstone::app
