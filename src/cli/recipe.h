// Recipes and instrument profiles, by name or file, and the subcommands that say what is in them.
#pragma once

#include <string>

#include "bench/profiles/profile.h"
#include "bench/recipes/recipe.h"
#include "cli/live_options.h"

namespace otterstone::cli {

/// A built-in one by its key, or a file's. Problems: no_recipe, no_profile, and those of reading them.
[[nodiscard]] Result<bench::RecipeText> recipeNamed(const std::string& name);
[[nodiscard]] Result<bench::Profile> profileNamed(const std::string& name);

/// What a recipe does and how long it takes.
[[nodiscard]] int recipe(const RecipeOptions& options);
/// A profile, checked and whole.
[[nodiscard]] int instrument(const std::string& name);

} // namespace otterstone::cli
