// Starts a stand-in's bench for a rehearsal and says where its instruments are.
#pragma once

#include <QProcess>
#include <QTemporaryDir>

#include "bench/runner/plan.h"
#include "core/model/bank.h"
#include "core/path/meter.h"

namespace otterstone::bench {

class StandIn : public QObject {
    Q_OBJECT

public:
    struct Scene {
        model::Bank bank;
        bool empty = false;
        double charge = 1.0; ///< state of charge to begin with
        double speed = 1.0;
        double samplesPerSecond = 1.0;
        double ambient = 20.0;
        double cableOhms = 0.058;
        double chargerWatts = 18.0;
        std::string chargerTiers;
        path::Meter meter;
        unsigned seed = 1;
    };

    explicit StandIn(QObject* parent = nullptr);
    ~StandIn() override;

    /// Problems: no_standin, standin_failed. ready() follows.
    void start(const Scene& scene);
    /// Returns at once; the process leaves by itself, within 2 s.
    void stop();
    /// Its instruments by role. Precondition: ready() was told.
    [[nodiscard]] const std::map<Role, Instrument>& instruments() const { return instruments_; }
    [[nodiscard]] Rehearsal rehearsal() const { return {control_, speed_}; }
    /// The program, beside the running one or where the environment says (OTTERSTONE_STANDIN).
    [[nodiscard]] static QString program();

Q_SIGNALS:
    void ready();
    void failed(const QString& sentence);

private:
    void heard();
    QProcess* process_ = nullptr; ///< the one in use; others may be leaving
    int started_ = 0;
    QTemporaryDir folder_;
    std::map<Role, Instrument> instruments_;
    QString control_;
    double speed_ = 1.0;
};

} // namespace otterstone::bench
