// What the columns of a log may mean: roles, the words and units that name them.
#pragma once

#include <array>
#include <map>
#include <optional>
#include <string>
#include <string_view>

namespace otterstone::logs {

enum class Role { Time, Date, Volts, Amps, Watts, Temperature, Percent, EnergyCounter, ChargeCounter };
inline constexpr std::size_t kRoles = 9;
/// "time", "date", "volts", "amps", "watts", "temperature", "percent", "energy", "charge".
[[nodiscard]] std::string roleKey(Role role);
[[nodiscard]] std::optional<Role> roleFromKey(std::string_view key);

/// value_SI = value · factor + offset.
struct UnitScale {
    Role role = Role::Volts;
    double factor = 1.0;
    double offset = 0.0;
    bool clockTime = false; ///< a unit like "h:m:s": the cells are not plain numbers
};

/// The unit's meaning for a role, by its symbol as written ("mV", "s", "°F", "mWh"); nothing when unknown.
/// "m" is minutes as a time and nothing else; upper and lower case are alike.
[[nodiscard]] std::optional<UnitScale> unitFor(Role role, std::string_view symbol);
/// The unit whatever its role: what a row of units, or a bare "V" as header, says.
[[nodiscard]] std::optional<UnitScale> anyUnit(std::string_view symbol);

/// A header cell taken apart: "Spannung [mV]" is {"spannung", "mV"}, "time_s" is {"time", "s"}.
struct HeaderCell {
    std::string name; ///< lower case, without the unit
    std::string unit; ///< as written; empty when there is none
};
[[nodiscard]] HeaderCell splitHeader(std::string_view cell);

/// How well a header names a role: 0 not at all, 3 exactly. Data lines (D+, CC1), set points and limits are nobody's.
[[nodiscard]] int nameScore(Role role, const HeaderCell& header);

/// What a person set by hand; empty members are left to the recogniser. Remembered per header by the book.
struct Mapping {
    std::map<Role, std::string> columns; ///< header name, or the column's number counted from 1
    std::map<Role, std::string> units;
    [[nodiscard]] bool empty() const { return columns.empty() && units.empty(); }
    bool operator==(const Mapping&) const = default;
};

} // namespace otterstone::logs
