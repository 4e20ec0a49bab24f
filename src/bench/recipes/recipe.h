// A run as data: what is asked of the bank step by step, what is sampled, and when it must stop. No instruments here,
// and no clock.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "bench/profiles/role.h"
#include "bench/recipes/hands.h"
#include "core/kinds/traced/finding.h"
#include "core/label/label.h"

namespace otterstone::bench {

enum class Mode { Current, Power, Resistance };

/// What ends a step before its time, besides what ends every run.
enum class Ends { AtTime, AtCutOff, AtTaper, WhenSettled };

struct Step {
    enum class Do { Ask, Tell, Rest, Load };
    Do what = Do::Rest;
    std::string text;           ///< Tell: what the tester does now
    std::optional<Hands> hands; ///< Tell: what a rehearsal's hands do
    std::string port;           ///< of the bank, that the step is about; Hands::Load plug load `load` in there
    std::string as;      ///< what it shows, in the words of the kind's sheet: "in alone", "together", "by itself"
    bool ifGone = false; ///< only when an output that is loaded is off
    bool again = false;  ///< Load: at the level at which the output went off
    int source = -1;     ///< Hands::Source: which of the plan's sources
    double volts = 5.0;  ///< Ask
    bool top = false;    ///< Ask: the tier of the most watts
    Mode mode = Mode::Current;
    double level = 0.0; ///< Load: A, W or Ω; or, with `ofTier`, the share of the asked tier's amps (watts)
    bool ofTier = false;
    int load = 1;           ///< which of two; for Ask which one's trigger
    bool keepOther = false; ///< Load: the other load stays as it is
    bool off = false;       ///< Load: switched off instead
    double seconds = 0.0;   ///< Rest, Load: 0 for as long as it takes
    Ends ends = Ends::AtTime;
    bool operator==(const Step&) const = default;
};

/// A limit on volts below this is a share.
inline constexpr double kShareBelow = 2.0;

struct Recipe {
    std::string key, name, about;
    records::Kind kind = records::Kind::Drain;
    std::vector<Role> needs;
    std::vector<Role> uses;            ///< that help, but are not needed
    std::string goneMeans = "cut-off"; ///< what it is called when the output goes away under load: "cut-off", "trip",
                                       ///< "auto-off"; "noted": the run goes on
    double askDisplayEvery = 0.0;      ///< seconds; 0: the display isn't asked for
    double closingSeconds = 60.0;      ///< sampled on after the last step, with the load off
    std::optional<double> hours, celsius, lowVolts,
        highVolts; ///< limits; volts as a share of what was asked when below kShareBelow
    std::vector<Step> steps;
    std::vector<Step>
        afterGone; ///< when an output went off that ends the steps: what brings it back, tried until something does
    std::string forEach; ///< "tier", "pair", "output", "source": steps are written for one and done for all (expand)
    bool operator==(const Recipe&) const = default;
};

/// A charger and a cable to be tried, for a recipe that does so with each.
struct Source {
    std::string charger, cable, port;
    std::string details; ///< for a rehearsal's hands: JSON with tiers, watts, ohms, amps
};

/// Problems: those of parseObject, and bad_value with the place. Ladders are written out as steps.
[[nodiscard]] Result<Recipe> recipeFromJson(const std::string& text, const std::string& place);

struct RecipeText {
    Recipe recipe;
    std::string json;
};
/// The recipe at a constant power, W, in the place of its share of a tier's watts; as it is where it has none.
[[nodiscard]] RecipeText atWatts(const RecipeText& recipe, double watts);
/// The constant power of its first load, W; nothing where it draws another way.
[[nodiscard]] std::optional<double> wattsOf(const Recipe& recipe);
/// Those that come with the application, in the order of a tester's work.
[[nodiscard]] const std::vector<RecipeText>& builtinRecipes();

/// The recipe with its steps written out for this bank: for each output on each tier, each pair of outputs, each
/// source. One that is for nothing in particular stays as it is, but for the ports that are named.
[[nodiscard]] Recipe expand(const Recipe& recipe, const label::Label& label, const std::vector<Source>& sources = {});

/// What a step's level is at this tier, in A, W or Ω.
[[nodiscard]] double levelAt(const Step& step, const label::Tier& tier);
/// The tier that a step asks for: of the bank's ports the one with these volts, or the best. 5 V 3 A when nothing is
/// printed.
[[nodiscard]] label::Tier tierFor(const Step& step, const label::Label& label);

/// One sentence per step, as the runner will do it with this bank.
[[nodiscard]] std::vector<std::string> describe(const Recipe& recipe, const label::Label& label);

/// How it goes: how long it takes, s, and at which of them hands are wanted on its way (at 0 they are there anyway).
struct Course {
    struct Moment {
        double at = 0.0;
        std::string what;
    };
    double seconds = 0.0;
    std::vector<Moment> hands;
};
/// From the energy the bank holds (or takes in); nothing when that cannot be told. `wattHours` is what a drain is
/// expected to deliver, or a recharge to take in; `inputWatts` what the charger gives.
[[nodiscard]] std::optional<Course> courseOf(const Recipe& recipe, const label::Label& label,
                                             std::optional<double> wattHours, std::optional<double> inputWatts);
/// How long that is alone.
[[nodiscard]] std::optional<double> estimateSeconds(const Recipe& recipe, const label::Label& label,
                                                    std::optional<double> wattHours, std::optional<double> inputWatts);

} // namespace otterstone::bench
