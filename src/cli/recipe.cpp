#include "cli/recipe.h"

#include <iostream>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/options.h"
#include "core/label/label.h"
#include "core/quantity/format.h"

namespace otterstone::cli {

Result<bench::RecipeText> recipeNamed(const std::string& name) {
    std::string keys;
    for (const bench::RecipeText& r : bench::builtinRecipes()) {
        if (r.recipe.key == name)
            return r;
        keys += (keys.empty() ? "" : ", ") + r.recipe.key;
    }
    const auto text = contentsOf(name);
    if (!text)
        return problem("no_recipe", name, "there is no such recipe, and no such file.", "Built in are " + keys + ".");
    const auto recipe = bench::recipeFromJson(*text, name);
    if (!recipe)
        return tl::unexpected(recipe.error());
    return bench::RecipeText{*recipe, *text};
}

Result<bench::Profile> profileNamed(const std::string& name) {
    std::string keys;
    for (const bench::Profile& p : bench::builtinProfiles()) {
        if (p.key == name)
            return p;
        keys += (keys.empty() ? "" : ", ") + p.key;
    }
    const auto text = contentsOf(name);
    if (!text)
        return problem("no_profile", name, "there is no such instrument profile, and no such file.",
                       "Built in are " + keys + ".");
    return bench::profileFromJson(*text, name);
}

int recipe(const RecipeOptions& o) {
    const auto r = recipeNamed(o.recipe);
    if (!r)
        return complain(r.error());
    label::Label label;
    double wattHours = 0.0;
    try {
        if (!o.wattHours.empty())
            wattHours = positive(o.wattHours, "--wh");
        for (const std::string& t : o.tiers) {
            if (label.ports.empty())
                label.ports.push_back({"C", label::Direction::Both, {}, {}, {}});
            label.ports.front().tiers.push_back(orWrong(label::parseTier(t, "--tier")));
        }
        if (!o.inputWatts.empty())
            label.inputWatts = Watts(positive(o.inputWatts, "--input-watts"));
    } catch (const Wrong& wrong) {
        return complain(wrong.problem, kUsage);
    }
    const auto sentences = bench::describe(r->recipe, label);
    const auto seconds =
        bench::estimateSeconds(r->recipe, label, wattHours > 0.0 ? std::optional(wattHours) : std::nullopt,
                               label.inputWatts ? std::optional(label.inputWatts->value) : std::nullopt);
    if (o.json)
        return print({{"key", r->recipe.key},
                      {"name", r->recipe.name},
                      {"steps", sentences},
                      {"needs", r->recipe.needs},
                      {"seconds", seconds ? nlohmann::json(*seconds) : nlohmann::json()}});
    std::cout << r->recipe.name << ". " << r->recipe.about << "\n";
    for (std::size_t k = 0; k < sentences.size(); ++k)
        std::cout << k + 1 << ". " << sentences[k] << "\n";
    std::cout << (seconds ? "It takes about " + showDuration(*seconds) + ".\n"
                          : std::string("How long it takes cannot be told without --wh (and --input-watts).\n"));
    return finish(kDone);
}

int instrument(const std::string& name) {
    const auto p = profileNamed(name);
    if (!p)
        return complain(p.error());
    std::cout << bench::toJson(*p);
    return finish(kDone);
}

} // namespace otterstone::cli
