#include "app/live/setups.h"

#include <algorithm>

#include <QSettings>

#include "app/theme.h"

namespace otterstone::app {

namespace {

const QString kChosen = QStringLiteral("live/setup");

} // namespace

OwnSetups Setups::read() const {
    OwnSetups own = readSetups();
    if (!own.all.empty())
        return own;
    bench::SetupFile first{"bench", tr("My bench").toStdString(), {}, {}};
    // Where it was kept before there were several.
    const QSettings settings;
    for (const bench::Role& role : bench::roleKeys()) {
        const QString key = QStringLiteral("live/") + qs(role);
        const std::string address = settings.value(key + QStringLiteral("/address")).toString().toStdString();
        if (!address.empty())
            first.placed[role] = {
                settings.value(key + QStringLiteral("/profile")).toString().toStdString(), address, {}};
    }
    own.all.push_back(first);
    return own;
}

bench::SetupFile Setups::chosen() const { return named({}); }

bench::SetupFile Setups::named(const std::string& key) const {
    const auto all = read().all;
    const auto at = [&all](const std::string& k) {
        return std::find_if(all.begin(), all.end(), [&](const bench::SetupFile& s) { return s.key == k; });
    };
    if (const auto it = at(key); it != all.end() && !key.empty())
        return *it;
    const auto it = at(QSettings().value(kChosen).toString().toStdString());
    return it != all.end() ? *it : all.front();
}

void Setups::choose(const std::string& key) {
    QSettings().setValue(kChosen, qs(key));
    Q_EMIT changed();
}

std::optional<bench::Instrument> Setups::instrument(const bench::SetupFile& setup, const bench::Role& role) {
    const auto at = setup.placed.find(role);
    if (at == setup.placed.end() || at->second.address.empty())
        return std::nullopt;
    const auto all = readProfiles().all;
    const auto named =
        std::find_if(all.begin(), all.end(), [&](const bench::Profile& p) { return p.key == at->second.profile; });
    return named == all.end() ? std::nullopt : std::optional(bench::Instrument{*named, {qs(at->second.address)}});
}

void Setups::keep(const bench::SetupFile& setup) {
    if (const auto kept = writeSetup(setup); !kept)
        Q_EMIT problem(qs(kept.error().sentence()));
    Q_EMIT changed();
}

void Setups::place(const bench::Role& role, const bench::Placed& placed) {
    bench::SetupFile setup = chosen();
    if (placed.profile.empty())
        setup.placed.erase(role);
    else
        setup.placed[role] = placed;
    keep(setup);
}

void Setups::setAlso(const std::vector<std::string>& pieces) {
    bench::SetupFile setup = chosen();
    setup.also = pieces;
    keep(setup);
}

Result<void> Setups::add(const QString& name) {
    const auto all = read().all;
    bench::SetupFile setup{bench::keyOf(name.toStdString()), name.trimmed().toStdString(), {}, {}};
    if (setup.name.empty())
        return otterstone::problem("no_name", "set-up", "it has no name yet.", "Type one: “window sill”.");
    for (std::size_t n = all.size() + 1; setup.key.empty(); ++n) { // no letter of it can stand in a file's name here
        const std::string key = "bench-" + std::to_string(n);
        if (std::none_of(all.begin(), all.end(), [&](const bench::SetupFile& s) { return s.key == key; }))
            setup.key = key;
    }
    for (const bench::SetupFile& other : all) {
        if (other.key == setup.key || other.name == setup.name)
            return otterstone::problem("taken", setup.name, "a set-up of this name is there already.",
                                       "Give it another name, or change that one.");
    }
    if (readSetups().all.empty()) // the first one stands in no file until it is changed
        (void)writeSetup(chosen());
    if (auto kept = writeSetup(setup); !kept)
        return kept;
    choose(setup.key);
    return {};
}

void Setups::remove() {
    removeSetup(chosen().key);
    choose(read().all.front().key);
}

} // namespace otterstone::app
