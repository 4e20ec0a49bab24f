// The tester's own recipes and instrument profiles: JSON files in the application's data folder, beside those that
// ship.
#pragma once

#include <string>
#include <vector>

#include <QString>

#include "bench/profiles/profile.h"
#include "bench/profiles/setup_file.h"
#include "bench/recipes/recipe.h"

namespace otterstone::app {

/// A recipe with the text it was read from.
using bench::RecipeText;

/// A file of the tester's that cannot be used as it is.
struct Unreadable {
    QString file;
    QString text;
    std::string why; ///< what, where, how to mend
};

struct OwnRecipes {
    std::vector<RecipeText>
        all; ///< the built-in ones first; the tester's takes the place of a built-in one of the same key
    std::vector<Unreadable> unreadable;
};
[[nodiscard]] OwnRecipes readRecipes();
/// Problems: those of bench::recipeFromJson, bad_value (its key), not_saved.
[[nodiscard]] Result<void> writeRecipe(const std::string& json);

struct OwnProfiles {
    std::vector<bench::Profile> all;
    std::vector<Unreadable> unreadable;
};
[[nodiscard]] OwnProfiles readProfiles();
/// Problems: those of bench::profileFromJson, bad_value (its key), not_saved.
[[nodiscard]] Result<void> writeProfile(const bench::Profile& profile);

struct OwnSetups {
    std::vector<bench::SetupFile> all;
    std::vector<Unreadable> unreadable;
};
[[nodiscard]] OwnSetups readSetups();
/// Problems: bad_value (its key), not_saved.
[[nodiscard]] Result<void> writeSetup(const bench::SetupFile& setup);
void removeSetup(const std::string& key);

} // namespace otterstone::app
