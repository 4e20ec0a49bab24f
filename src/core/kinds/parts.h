// What the judges of this folder share with each other and with core/judgement.
#pragma once

#include "core/kinds/judge.h"

namespace otterstone::kinds {

/// A reading with the doubt of the meter and of its last digit (0: as written down, its digits unknown).
[[nodiscard]] Measured meteredVolts(double volts, double digit, const Facts& facts);
[[nodiscard]] Measured meteredAmps(double amps, double digit, const Facts& facts);
/// A reading of the sheet with the doubt of its last digit and of the meter; nothing when the cell is empty.
[[nodiscard]] std::optional<Measured> readVolts(Rows& rows, std::string_view key, const Facts& facts);
[[nodiscard]] std::optional<Measured> readAmps(Rows& rows, std::string_view key, const Facts& facts);

[[nodiscard]] Working figure(std::string key, Spoken label, Spoken formula, const Measured& value, Unit unit,
                             Spoken point, Spoken note = {});
/// So much doubt is known of it that a meter's accuracy would change little: it is shown with its ±, though that
/// accuracy is not known. From a standard uncertainty of 3 % on; common practice, no published source.
[[nodiscard]] bool mostlyKnown(const Measured& value);

/// A value known to lie between two: the middle ± half, shown as such; its note names both ends.
[[nodiscard]] Measured between(double low, double high, const ErrorSource& source);

/// "9 V 18 W": a tier in short; volts to the nearest tier that USB knows, watts as drawn.
[[nodiscard]] std::string tierAndWatts(double volts, double watts);
/// "C1", "C1 and A", "C1, C2 and A".
[[nodiscard]] std::string listed(const std::vector<std::string>& names);
[[nodiscard]] std::string counted(std::size_t n, const char* one, const char* many);

/// The tier a reading belongs to: 5, 9, 12, 15, 20 or 28 V within 12 %, else the reading rounded to 0.1.
[[nodiscard]] double nearestTier(double volts);

} // namespace otterstone::kinds
