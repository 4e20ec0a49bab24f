#include "app/live/own_files.h"

#include <algorithm>

#include <QDir>
#include <QFile>
#include <QSaveFile>
#include <QStandardPaths>

#include "app/theme.h"

namespace otterstone::app {

namespace {

QString folderOf(const char* name) {
    return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + QLatin1Char('/') + QLatin1String(name);
}

// Reads each file and hands on what it holds; what cannot be read is listed with the reason.
template<class Read, class Take>
std::vector<Unreadable> readAll(const char* folder, Read read, Take take) {
    std::vector<Unreadable> unreadable;
    const QDir dir(folderOf(folder));
    for (const QString& name : dir.entryList({QStringLiteral("*.json")}, QDir::Files, QDir::Name)) {
        QFile file(dir.filePath(name));
        if (!file.open(QIODevice::ReadOnly)) {
            unreadable.push_back({name,
                                  {},
                                  Problem{"unreadable",
                                          name.toStdString(),
                                          "it cannot be opened: " + file.errorString().toStdString() + ".",
                                          {}}
                                      .sentence()});
            continue;
        }
        const std::string text = file.readAll().toStdString();
        if (const auto held = read(text, name.toStdString()))
            take(*held, text);
        else
            unreadable.push_back({name, qs(text), held.error().sentence()});
    }
    return unreadable;
}

QString fileOf(const char* folder, const std::string& key) {
    return folderOf(folder) + QLatin1Char('/') + qs(key) + QStringLiteral(".json");
}

Result<void> write(const char* folder, const std::string& key, const std::string& text, const char* what) {
    if (key.empty() || key.find_first_not_of("abcdefghijklmnopqrstuvwxyz0123456789-") != std::string::npos)
        return problem("bad_value", std::string(what) + ": key", "a key has small letters, digits and “-” only.");
    QDir().mkpath(folderOf(folder));
    QSaveFile file(fileOf(folder, key));
    if (!file.open(QIODevice::WriteOnly) || file.write(QByteArray::fromStdString(text)) < 0 || !file.commit())
        return problem("not_saved", file.fileName().toStdString(),
                       "it could not be written: " + file.errorString().toStdString() + ".");
    return {};
}

} // namespace

OwnRecipes readRecipes() {
    OwnRecipes own{bench::builtinRecipes(), {}};
    own.unreadable =
        readAll("recipes", bench::recipeFromJson, [&own](const bench::Recipe& recipe, const std::string& text) {
            const auto same = std::find_if(own.all.begin(), own.all.end(),
                                           [&](const RecipeText& r) { return r.recipe.key == recipe.key; });
            if (same != own.all.end())
                *same = {recipe, text};
            else
                own.all.push_back({recipe, text});
        });
    return own;
}

Result<void> writeRecipe(const std::string& json) {
    const auto recipe = bench::recipeFromJson(json, "recipe");
    if (!recipe)
        return tl::unexpected(recipe.error());
    return write("recipes", recipe->key, json, "recipe");
}

OwnProfiles readProfiles() {
    OwnProfiles own{bench::builtinProfiles(), {}};
    own.unreadable =
        readAll("instruments", bench::profileFromJson, [&own](const bench::Profile& profile, const std::string&) {
            std::erase_if(own.all, [&](const bench::Profile& p) { return p.key == profile.key; });
            own.all.push_back(profile);
        });
    return own;
}

Result<void> writeProfile(const bench::Profile& profile) {
    const std::string text = bench::toJson(profile);
    const auto checked = bench::profileFromJson(text, "instrument");
    if (!checked)
        return tl::unexpected(checked.error());
    return write("instruments", profile.key, text, "instrument");
}

OwnSetups readSetups() {
    OwnSetups own;
    own.unreadable = readAll("setups", bench::setupFromJson, [&own](const bench::SetupFile& setup, const std::string&) {
        std::erase_if(own.all, [&](const bench::SetupFile& s) { return s.key == setup.key; });
        own.all.push_back(setup);
    });
    return own;
}

Result<void> writeSetup(const bench::SetupFile& setup) {
    return write("setups", setup.key, bench::toJson(setup), "set-up");
}

void removeSetup(const std::string& key) { QFile::remove(fileOf("setups", key)); }

} // namespace otterstone::app
