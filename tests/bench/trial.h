// One run on one bench that is not the shipped one (fake_bench.h), and all that was seen of it.
#pragma once

#include <QTest>

#include "bench_harness.h"
#include "fake_bench.h"

namespace otterstone::testing {

inline constexpr double kLimit = 45.0;
inline constexpr double kSilent = 2.0; // s; shorter than the house's, so that forty runs take no hour
inline constexpr qint64 kSlack =
    700; // ms, of a machine that does other things as well; what it was seen to lose comes on top

struct Trial {
    FakeBench bench;
    OneBank book;
    bench::Session session;
    qint64 hurtAt = -1, endedAt = -1, saidOnAt = -1;
    bool claimedFalsely = false;
    qint64 lost = 0; ///< ms that this program's own waiting took longer than it asked for, since the hurt
    bench::Outcome outcome;
    struct {
        std::optional<qint64> safe;
        bool on = false;
        std::string doing;
    } seen; ///< when it was judged

    explicit Trial(bool printing = true, const std::function<void(bench::Plan&)>& change = {},
                   const std::function<void(FakeBench&)>& prepare = {}) {
        if (prepare)
            prepare(bench);
        bench::Plan plan;
        plan.recipe = recipe("gentle-drain");
        plan.recipe.closingSeconds = 1.0;
        plan.recipe.steps = {bench::Step{}};
        plan.recipe.steps.front().what = bench::Step::Do::Load;
        plan.recipe.steps.front().level = 1.0;
        plan.recipe.steps.front().seconds = 60.0;
        plan.book = book.path;
        plan.run.bank = book.bank;
        plan.label = book.book->bank(book.bank)->label;
        plan.rescueFolder = book.folder.path();
        plan.limits.celsius = kLimit;
        plan.limits.silentSeconds = kSilent;
        plan.instruments = bench.instruments(printing);
        if (change)
            change(plan);
        QObject::connect(&session, &bench::Session::progressed, &session, [this](const bench::Progress& p) {
            if (!p.stillOn.empty() && saidOnAt < 0)
                saidOnAt = bench.clock.elapsed();
            // Invariant 3: "Load off" is said of a load that is.
            claimedFalsely |= QString::fromStdString(p.doing).startsWith(QStringLiteral("Load off")) && bench.on;
        });
        QObject::connect(&session, &bench::Session::finished, &session, [this](const bench::Outcome& o) {
            outcome = o;
            endedAt = bench.clock.elapsed();
            claimedFalsely |= o.stillOn.empty() && bench.on;
        });
        session.start(plan);
    }
    FakeInstrument& instrument(const QString& name) {
        return name == "load"          ? bench.load
               : name == "thermometer" ? bench.thermometer
               : name == "trigger"     ? bench.trigger
                                       : bench.meter;
    }
    bool flows() const { return bench.on && session.progress().amps > 0.5; }
    /// ms from the hurt until the load was off, or was said to be on; nothing when neither came.
    std::optional<qint64> safeAfter() const {
        if (!bench.on && bench.offAt >= hurtAt)
            return bench.offAt - hurtAt;
        return saidOnAt >= 0 ? std::optional(saidOnAt - hurtAt) : std::nullopt;
    }
    void mend() {
        for (FakeInstrument* i : {&bench.meter, &bench.load, &bench.thermometer, &bench.trigger})
            i->fail(Fault::None);
    }
};

} // namespace otterstone::testing
