// A meter on the bench: readings as it prints them, or as it is asked for them.
#pragma once

#include <memory>

#include "bench/instruments/scpi_device.h"
#include "logs/live_lines.h"

namespace otterstone::bench {

class Meter : public QObject {
    Q_OBJECT

public:
    /// `askEveryMs`: for one that speaks SCPI.
    Meter(const Profile& profile, Address address, int askEveryMs, QObject* parent = nullptr);

    void open();
    void close();
    /// Reads until nothing comes any more: whoever prints has been told to stop.
    void takeRest();
    /// Waits for so many bytes, a little at most; reading() is told for all of them before this returns.
    void takeIn(qsizetype bytes);
    [[nodiscard]] bool isUp() const;
    [[nodiscard]] QString trouble() const;
    [[nodiscard]] const Profile& profile() const { return profile_; }

Q_SIGNALS:
    void reading(const otterstone::logs::LiveReading& reading);
    /// A line that held none, and why.
    void spoiled(const QString& why);
    void up();
    void down(const QString& why);

private:
    [[nodiscard]] Link& link() const;

    Profile profile_;
    std::unique_ptr<Link> printing_;
    std::optional<logs::LiveLines> lines_;
    std::unique_ptr<ScpiDevice> asked_;
    QTimer ask_;
};

} // namespace otterstone::bench
