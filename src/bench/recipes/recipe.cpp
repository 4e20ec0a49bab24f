#include "bench/recipes/recipe.h"

#include <algorithm>
#include <cmath>

#include "bench/profiles/profile.h"
#include "bench/recipes/builtin_recipes.h"
#include "bench/runner/stops.h"
#include "core/quantity/format.h"
#include "core/quantity/json_fields.h"
#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

const std::vector<std::string> kEnds = {"time", "cut-off", "taper", "settled"};
constexpr double kDay = 86400.0;
constexpr std::size_t kMostSteps = 400; // in all
constexpr double kMostShare = 2.0;      // of what is printed

struct LevelKey {
    const char* key;
    Mode mode;
    double most;
    bool ofTier;
};
constexpr LevelKey kLevels[] = {{"amps", Mode::Current, Range().amps, false},
                                {"watts", Mode::Power, Range().watts, false},
                                {"ohms", Mode::Resistance, 1e5, false},
                                {"share_of_amps", Mode::Current, kMostShare, true},
                                {"share_of_watts", Mode::Power, kMostShare, true}};

void readLevel(Fields& f, Step& step) {
    int given = 0;
    for (const LevelKey& l : kLevels) {
        if (const auto value = f.maybeNumber(l.key, 0.0, l.most)) {
            step.mode = l.mode;
            step.level = *value;
            step.ofTier = l.ofTier;
            ++given;
        }
    }
    if (given != 1)
        f.wrong("load",
                given == 0 ? say("it doesn't say how much to draw.")
                           : say("it says how much to draw in more than one way."),
                "Give one of amps, watts, ohms, share_of_amps or share_of_watts.");
}

// "ladder": {"of": "amps", "from": 0.5, "to": 4, "by": 0.25, "hold_s": 30} as single steps.
void readLadder(Fields ladder, const Step& like, std::vector<Step>& steps) {
    const std::string of = ladder.word("of", {"amps", "watts", "share_of_amps"});
    const double most = of == "amps" ? Range().amps : of == "watts" ? Range().watts : kMostShare;
    const double from = ladder.number("from", 0.0, most);
    const double to = ladder.number("to", 0.0, most);
    const double by = ladder.number("by", 1e-3, most);
    const double hold = ladder.number("hold_s", 1.0, kDay);
    ladder.finish();
    const double count = std::floor(std::fabs(to - from) / by + 1e-9) + 1.0;
    if (count > static_cast<double>(kMostSteps)) {
        ladder.wrong("by", say("this makes {} steps.", showNumber(count)), "Take larger ones.");
        return;
    }
    for (int k = 0; k < static_cast<int>(count); ++k) {
        Step s = like;
        s.what = Step::Do::Load;
        s.mode = of == "watts" ? Mode::Power : Mode::Current;
        s.ofTier = of == "share_of_amps";
        s.level = from + (to < from ? -by : by) * k;
        s.seconds = hold;
        s.ends = Ends::AtTime;
        steps.push_back(s);
    }
}

void readStep(Fields& f, std::vector<Step>& steps) {
    Step step;
    step.as = f.text("as", "");
    step.port = f.text("port", "");
    step.ifGone = f.word("only_if", {"gone"}, "") == "gone";
    const std::string what = f.word("do", {"ask", "tell", "rest", "load", "ladder", "off"});
    if (what == "ladder") {
        readLadder(f.part("ladder"), step, steps);
        f.finish();
        return;
    }
    const auto lasting = [&](bool must) {
        const std::string until = f.word("until", kEnds, "time");
        step.ends = static_cast<Ends>(std::find(kEnds.begin(), kEnds.end(), until) - kEnds.begin());
        step.seconds = f.number("seconds", 1.0, kLongestRun,
                                must && step.ends == Ends::AtTime ? std::nullopt : std::optional(0.0));
    };
    if (what == "ask") {
        step.what = Step::Do::Ask;
        step.top = f.word("tier", {"top"}, "") == "top";
        step.volts = step.top ? 5.0 : f.number("volts", 3.0, 60.0);
        step.load = static_cast<int>(f.number("which", 1.0, 2.0, 1.0));
    } else if (what == "tell") {
        step.what = Step::Do::Tell;
        step.text = f.text("text");
        step.hands = handsFrom(f.word("hands", handsKeys(), ""));
        step.load = static_cast<int>(f.number("which", 1.0, 2.0, 1.0));
    } else if (what == "rest") {
        step.what = Step::Do::Rest;
        lasting(true);
    } else {
        step.what = Step::Do::Load;
        step.off = what == "off";
        step.load = static_cast<int>(f.number("which", 1.0, 2.0, 1.0));
        step.keepOther = f.word("other", {"stays", "off"}, "off") == "stays";
        step.again = f.word("level", {"same"}, "") == "same";
        if (!step.off && !step.again)
            readLevel(f, step);
        if (!step.off)
            lasting(true);
    }
    f.finish();
    steps.push_back(step);
}

} // namespace

Result<Recipe> recipeFromJson(const std::string& text, const std::string& place) {
    const auto json = parseObject(text, place, "otterstone-recipe");
    if (!json)
        return tl::unexpected(json.error());
    std::optional<Problem> wrong;
    Fields f(*json, place + ": ", wrong);
    Recipe r;
    (void)f.text("format");
    (void)f.number("version", 1.0, 1.0);
    r.key = f.text("key");
    r.name = f.text("name");
    r.about = f.text("about", "");
    std::vector<std::string> kinds = {records::kindKey(records::Kind::Drain),
                                      records::kindKey(records::Kind::Recharge)};
    for (const records::Kind k : records::sheetKinds())
        kinds.push_back(records::kindKey(k));
    r.kind = records::kindFromKey(f.word("kind", kinds)).value_or(records::Kind::Drain);
    r.forEach = f.word("for_each", {"tier", "pair", "output", "source"}, "");
    r.needs = f.words("needs", roleKeys());
    r.uses = f.words("uses", roleKeys());
    r.goneMeans = f.word("gone_means", {"cut-off", "trip", "auto-off", "noted"}, "cut-off");
    r.askDisplayEvery = f.number("ask_display_every_s", 0.0, kDay, 0.0);
    r.closingSeconds = f.number("closing_s", 0.0, kDay, 60.0);
    Fields limits = f.part("limits");
    r.hours = limits.maybeNumber("hours", 0.001, kLongestRun / 3600.0);
    r.celsius = limits.maybeNumber("celsius", kLeastCelsius, kMostCelsius);
    r.lowVolts = limits.maybeNumber("low_volts", 0.0, 60.0);
    r.highVolts = limits.maybeNumber("high_volts", 0.0, 60.0);
    limits.finish();
    for (Fields& step : f.list("steps"))
        readStep(step, r.steps);
    for (Fields& step : f.list("after_gone"))
        readStep(step, r.afterGone);
    if (r.steps.size() > kMostSteps || r.afterGone.size() > kMostSteps)
        f.wrong("steps", say("there are {} of them.", std::to_string(r.steps.size() + r.afterGone.size())),
                say("No run has more than {}.", std::to_string(kMostSteps)));
    if (r.steps.empty())
        f.wrong("steps", "there are none.");
    const auto needed = [&](const std::string& role, bool uses, const char* why) {
        if (uses && std::find(r.needs.begin(), r.needs.end(), role) == r.needs.end() &&
            std::find(r.uses.begin(), r.uses.end(), role) == r.uses.end())
            f.wrong("needs", say("“{}” is missing, though {}.", role, sayAsItStands(why)));
    };
    const auto any = [&](auto test) { return std::any_of(r.steps.begin(), r.steps.end(), test); };
    needed(role::load, any([](const Step& s) { return s.what == Step::Do::Load && s.load == 1; }),
           "a step draws a load");
    needed(role::secondLoad, any([](const Step& s) { return s.what == Step::Do::Load && s.load == 2; }),
           "a step draws a second one");
    needed(role::trigger, any([](const Step& s) { return s.what == Step::Do::Ask && s.load == 1; }),
           "a step asks for a tier");
    needed(role::secondTrigger, any([](const Step& s) { return s.what == Step::Do::Ask && s.load == 2; }),
           "a step asks for the second load's tier");
    f.finish();
    if (wrong)
        return tl::unexpected(*wrong);
    return r;
}

const std::vector<RecipeText>& builtinRecipes() {
    static const std::vector<RecipeText> kAll = [] {
        std::vector<RecipeText> all;
        for (const char* text : kBuiltin_recipes)
            all.push_back({recipeFromJson(text, "built-in recipe").value(), text});
        const std::vector<std::string> order = {"gentle-drain",      "top-tier-drain", "steady-power-drain",
                                                "recharge-to-taper", "port-survey",    "load-staircase",
                                                "sharing-round",     "pass-through",   "light-load-ladder",
                                                "input-matrix",      "heat-soak",      "device-charge"};
        const auto rank = [&order](const RecipeText& r) {
            return std::find(order.begin(), order.end(), r.recipe.key) - order.begin();
        };
        std::stable_sort(all.begin(), all.end(),
                         [&](const RecipeText& a, const RecipeText& b) { return rank(a) < rank(b); });
        return all;
    }();
    return kAll;
}

RecipeText atWatts(const RecipeText& recipe, double watts) {
    constexpr const char* kShare = "share_of_watts";
    auto j = nlohmann::json::parse(recipe.json, nullptr, false);
    bool changed = false;
    for (auto& step : j.is_object() ? j["steps"] : j) {
        if (!step.is_object() || !step.contains(kShare))
            continue;
        step.erase(kShare);
        step["watts"] = watts;
        changed = true;
    }
    if (!changed)
        return recipe;
    const std::string level = showNumber(watts, 3) + " W";
    j["name"] = recipe.recipe.name + ", " + level;
    j["about"] = say("From full to cut-off at {}.", level);
    const std::string text = j.dump(2);
    const auto read = recipeFromJson(text, recipe.recipe.key);
    return read ? RecipeText{*read, text} : recipe;
}

std::optional<double> wattsOf(const Recipe& recipe) {
    const auto load = std::find_if(recipe.steps.begin(), recipe.steps.end(),
                                   [](const Step& s) { return s.what == Step::Do::Load && !s.off; });
    return load != recipe.steps.end() && load->mode == Mode::Power && !load->ofTier ? std::optional(load->level)
                                                                                    : std::nullopt;
}

} // namespace otterstone::bench
