// The questions on which testers disagree, the answers each school gives, and which of them the house follows.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/label/rating.h"
#include "core/quantity/working.h"
#include "core/trace/gaps.h"

namespace otterstone::setup {

enum class CapacityIn { WattHours, MahCell, MahOutput };
enum class MeasuredAt { Port, Display, FirstMeter, FarLoad };
enum class FullWhen { PowerLow, GaugeSays, EnergyStops };
enum class SpeedTo { Eighty, Hundred };
enum class Against { Label, PutIn, Wall };
enum class LabelBy { Cells, CameOut, RatedOutput, EmptyLoad };
enum class Repeating { Mean, Once, AfterSettling };
enum class DrainBy { GentleAndNearFull, Gentle, NearFull, ConstantPower, Devices, IntoBank };

/// The house's choices; each default is the one argued for in the user guide.
struct Schools {
    CapacityIn capacityIn = CapacityIn::WattHours;
    label::Reference reference = label::Reference::Printed;
    double otherCellVolts = 3.6; ///< for Reference::MahOther
    MeasuredAt measuredAt = MeasuredAt::Port;
    FullWhen fullWhen = FullWhen::PowerLow;
    double fullShare = 0.05; ///< of the plateau, for FullWhen::PowerLow
    double fullSeconds = 600.0;
    SpeedTo speedTo = SpeedTo::Eighty;
    Against against = Against::Label;
    LabelBy labelBy = LabelBy::Cells;
    Repeating repeating = Repeating::Mean;
    DrainBy drainBy = DrainBy::GentleAndNearFull;
    trace::GapRule gaps = trace::GapRule::Estimate;
    bool operator==(const Schools&) const = default;
};

/// A question with its answers, for the switch beside a figure, the house's choices and the report.
struct Answer {
    std::string key;
    std::string words;
};
struct Question {
    std::string key;
    std::string words;
    std::vector<Answer> answers; ///< in the order of the enumeration
};
[[nodiscard]] const std::vector<Question>& questions();
[[nodiscard]] const Question& question(std::string_view key);

/// The key of the answer chosen, and choosing one; an unknown question or answer changes nothing and gives false.
[[nodiscard]] std::string answerOf(const Schools& schools, std::string_view question);
bool setAnswer(Schools& schools, std::string_view question, std::string_view answer);
/// The house's figures by their names in files, with what any house could mean.
struct SchoolFigure {
    std::string_view key;
    double Schools::*figure;
    double least, most;
};
inline constexpr SchoolFigure kSchoolFigures[] = {{"other_cell_volts", &Schools::otherCellVolts, 0.5, 10.0},
                                                  {"full_share", &Schools::fullShare, 1e-9, 0.5},
                                                  {"full_seconds", &Schools::fullSeconds, 0.0, 1e7}};
/// "capacity in: Wh; reference energy: printed Wh; …": what a report says of its method.
[[nodiscard]] std::string inWords(const Schools& schools);

/// A figure as each school would have it. The one with the chosen answer leads, or the first when that cannot be worked
/// out (its note says so); the others hang on it. Precondition: `all` is not empty; each has its `school`.
[[nodiscard]] Working ledBy(std::string_view question, const std::string& chosen, std::vector<Working> all);

} // namespace otterstone::setup
