// What the observers of sheets share: observations begun from a row, with the doubt of its meter and path.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/kinds/judge.h"
#include "core/kinds/observation.h"

namespace otterstone::kinds {

/// Less current than this says nothing about a tier, in A.
inline constexpr double kLittle = 0.02;

class Seen {
public:
    Seen(const SheetRun& sheet, std::vector<Observation>& all) : sheet_(sheet), all_(all) {}

    [[nodiscard]] const SheetRun& of() const { return sheet_; }
    [[nodiscard]] Observation blank(What what, std::string port, double tierVolts,
                                    label::Way way = label::Way::Out) const;
    /// A port that gave, or gave way.
    [[nodiscard]] Observation gave(const std::string& port, double tierVolts, double volts, double amps) const;
    /// The same of a row that has its volts as the meter read them, behind the path.
    [[nodiscard]] Observation gaveAsRead(const std::string& port, double volts, double amps) const;
    [[nodiscard]] Observation took(const std::string& port, std::optional<double> volts, double watts) const;
    void add(Observation o) { all_.push_back(std::move(o)); }

private:
    const SheetRun& sheet_;
    std::vector<Observation>& all_;
};

} // namespace otterstone::kinds
