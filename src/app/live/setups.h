// The benches the tester has set up, each by its name; one of them is in use. Files of the tester's own.
#pragma once

#include <QObject>

#include "app/live/own_files.h"
#include "bench/profiles/setup_file.h"
#include "bench/runner/plan.h"

namespace otterstone::app {

class Setups : public QObject {
    Q_OBJECT

public:
    using QObject::QObject;

    /// At least one: before anything was set up, an empty one.
    [[nodiscard]] OwnSetups read() const;
    [[nodiscard]] bench::SetupFile chosen() const;
    /// The one of this key; the one in use where there is none.
    [[nodiscard]] bench::SetupFile named(const std::string& key) const;
    void choose(const std::string& key);
    /// The instrument of a role; nothing: none, or its profile is not there.
    [[nodiscard]] static std::optional<bench::Instrument> instrument(const bench::SetupFile& setup,
                                                                     const bench::Role& role);
    /// Into the one in use. Without a profile or an address nothing plays the role.
    void place(const bench::Role& role, const bench::Placed& placed);
    void setAlso(const std::vector<std::string>& pieces);
    /// A new one of this name, empty, in use from now on. Problems: no_name, taken, not_saved.
    [[nodiscard]] Result<void> add(const QString& name);
    /// The one in use; another one takes its place.
    void remove();

Q_SIGNALS:
    void changed();
    void problem(const QString& sentence);

private:
    void keep(const bench::SetupFile& setup);
};

} // namespace otterstone::app
