// Lives of banks: simulated banks are drained and filled from any state, by loads, by devices that fill, by chargers
// that give up; a tester writes down some of it. What is then said of both ends is held against the simulated truth,
// which knows nothing of how it is told.
#include <QTest>

#include <cmath>
#include <random>

#include "core/kinds/traced/run_entry.h"
#include "core/model/bank.h"
#include "core/model/simulate.h"

using namespace otterstone;
using records::Kind;
using records::Mark;

namespace {

constexpr int kLives = 300;

struct Lived {
    model::Truth truth;
    Kind kind = Kind::Drain;
    bool stoppedEarly = false;
    bool said = false; ///< the tester wrote down how it began
    kinds::RunEntry entry;
};

class Tester {
public:
    explicit Tester(unsigned seed) : random_(seed) {}

    std::vector<Lived> life() {
        model::Bank bank;
        bank.cells = model::Cells::of({}, 1, 1);
        bank.cells.ampHours = uniform(2.5, 9.0);
        bank.cells.ohms = uniform(0.02, 0.05);
        bank.gauge = {30.0, uniform(-3.0, 3.0), 0.0, 0};
        const double rated = bank.cells.storedWattHours(1.0) * uniform(0.95, 1.1);
        double charge = 0.0, hours = 0.0; // the bank came empty
        std::vector<Lived> all;
        for (int k = 0, runs = 3 + static_cast<int>(uniform(0.0, 5.0)); k < runs; ++k) {
            // Mostly in turn; now and then somebody used or filled it in between, and wrote down no run.
            Kind kind = charge < 0.4   ? Kind::Recharge
                        : charge > 0.6 ? Kind::Drain
                        : chance(0.5)  ? Kind::Drain
                                       : Kind::Recharge;
            if (chance(0.12))
                charge = kind == Kind::Drain ? 1.0 : 0.0;
            all.push_back(kind == Kind::Drain ? drain(bank, charge, rated) : recharge(bank, charge, rated));
            Lived& l = all.back();
            l.entry.run = k + 1;
            l.entry.title = "Run " + std::to_string(k + 1);
            const int day = static_cast<int>(hours / 24.0);
            char at[40];
            std::snprintf(at, sizeof at, "2026-04-%02dT%02d:00:00", 1 + day % 28, static_cast<int>(hours) % 24);
            l.entry.startedAt = at;
            hours += std::ceil(l.entry.finding->durationSeconds / 3600.0) + 1.0 + std::floor(uniform(0.0, 20.0));
            charge = l.truth.endedAt;
        }
        std::vector<kinds::RunEntry> entries;
        entries.reserve(all.size());
        for (const Lived& l : all)
            entries.push_back(l.entry);
        kinds::hearNeighbours(entries);
        for (std::size_t k = 0; k < all.size(); ++k)
            all[k].entry = std::move(entries[k]);
        return all;
    }

private:
    double uniform(double a, double b) { return std::uniform_real_distribution<double>(a, b)(random_); }
    bool chance(double p) { return uniform(0.0, 1.0) < p; }

    model::Reading reading() {
        model::Reading r;
        r.sampleSeconds = 20.0;
        r.idleBefore = 60.0;
        r.idleAfter = 900.0;
        r.seed = random_();
        return r;
    }

    // What is written down: how it began, as the tester knows it or the display says it; what was seen at the end.
    void write(Lived& l, setup::Setup& setup, const trace::Trace& t, bool unplugged) {
        const double from = t.time.front() + 60.0, to = t.time.back() - 900.0;
        const bool drain = l.kind == Kind::Drain;
        const bool usual = drain ? l.truth.beganAt >= 0.985 : l.truth.beganAt <= 0.02;
        // An attentive tester leaves the import page's usual only where it is so; a careless one writes nothing at all.
        if (usual && chance(0.7))
            setup.ends.began = records::usualBeginning(l.kind);
        else if ((l.said = chance(0.75)))
            setup.marks.push_back({from, Mark::What::Percent, l.truth.saidAtBegin, ""});
        l.said = l.said || setup.ends.began;
        if (chance(0.6))
            setup.marks.push_back({to, Mark::What::Percent, l.truth.saidAtEnd, ""});
        if (unplugged && chance(0.7))
            setup.marks.push_back({to, Mark::What::Unplugged, std::nullopt, ""});
    }

    Lived drain(const model::Bank& bank, double charge, double rated) {
        Lived l;
        model::DrainPlan plan;
        plan.beginsAt = charge;
        plan.amps = uniform(0.5, 2.0);
        const double way = uniform(0.0, 1.0);
        if (way < 0.25)
            plan.deviceTakes = uniform(0.3, 0.9) * charge * bank.cells.storedWattHours(1.0);
        else if (way < 0.4)
            plan.stopAfter = uniform(0.2, 0.7) * charge * bank.cells.storedWattHours(1.0) / (plan.amps * 5.0) * 3600.0;
        const model::SimulatedRun run = model::drain(bank, plan, reading());
        l.truth = run.truth;
        l.stoppedEarly = run.truth.deviceFull || (plan.stopAfter > 0.0 && run.truth.seconds >= plan.stopAfter - 30.0);
        finish(l, run, rated, l.stoppedEarly && !run.truth.deviceFull);
        return l;
    }

    Lived recharge(const model::Bank& bank, double charge, double rated) {
        Lived l;
        l.kind = Kind::Recharge;
        model::RechargePlan plan;
        plan.beginsAt = charge;
        if (chance(0.25)) {
            plan.errorAfter = uniform(0.2, 0.6) * (1.0 - charge) * bank.cells.storedWattHours(1.0) / 18.0 * 3600.0;
            plan.replugAfter = chance(0.5) ? uniform(600.0, 3600.0) : 0.0;
        }
        const model::SimulatedRun run = model::recharge(bank, plan, reading());
        l.truth = run.truth;
        l.stoppedEarly = !run.truth.full;
        finish(l, run, rated, false);
        return l;
    }

    void finish(Lived& l, const model::SimulatedRun& run, double rated, bool unplugged) {
        setup::Setup setup;
        label::Label label;
        label.energy = WattHours(rated);
        setRating(setup, label);
        for (const Mark& m : run.marks) {
            if (m.what == Mark::What::Trip && chance(0.7))
                setup.marks.push_back(m);
        }
        write(l, setup, run.trace, unplugged);
        l.entry.finding = kinds::analyse(run.trace, l.kind, setup).value();
    }

    std::mt19937 random_;
};

// What was said of a state, with what a display is trusted to.
bool holds(const kinds::KnownState& s, double truth) {
    const double doubt = s.byGauge() ? 6.0 : 3.0;
    return 100.0 * truth >= s.state.low - doubt && 100.0 * truth <= s.state.high + doubt;
}

} // namespace

class LivesTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void what_is_said_of_lives_is_true() {
        std::size_t runs = 0, asked = 0, states = 0, right = 0, whole = 0, flagged = 0;
        for (unsigned life = 0; life < kLives; ++life) {
            for (const Lived& l : Tester(1000u + life).life()) {
                ++runs;
                const kinds::Finding& f = l.entry.finding;
                const auto tell = [&](const char* what) {
                    return QString("life %1, run %2: %3\n  %4\n  truly from %5 to %6 %")
                        .arg(life)
                        .arg(l.entry.run)
                        .arg(QString(what), QString::fromStdString(f.sentence))
                        .arg(100.0 * l.truth.beganAt, 0, 'f', 1)
                        .arg(100.0 * l.truth.endedAt, 0, 'f', 1)
                        .toUtf8();
                };
                asked += f.ends.questions.empty() ? 0 : 1;
                for (const auto& [s, truth] :
                     {std::pair(f.ends.began, l.truth.beganAt), std::pair(f.ends.ended, l.truth.endedAt)}) {
                    if (!s || s->from == kinds::StateFrom::Taken)
                        continue;
                    ++states;
                    // What a cut-off leaves in the cells under a load nobody gets out with it: that is empty.
                    const bool empty = s->state.isEmpty() && l.kind == Kind::Drain && !l.stoppedEarly;
                    right += empty || holds(*s, truth) ? 1 : 0;
                }
                const bool drain = l.kind == Kind::Drain;
                const bool trulyWhole =
                    drain ? l.truth.beganAt >= 0.95 && !l.stoppedEarly : l.truth.beganAt <= 0.06 && l.truth.full;
                const char* key = drain ? "delivered_share" : "time_to_100";
                if (!kinds::figure(f, key))
                    continue;
                // What is only taken says so in its sentence; everything else must be true.
                if (f.ends.began->from == kinds::StateFrom::Taken) {
                    ++flagged;
                    QVERIFY2(f.sentence.find("if it began") != std::string::npos, tell("taken in silence").constData());
                    QVERIFY2(!l.said, tell("taken, though it was written down").constData());
                    QVERIFY2(drain ? !l.stoppedEarly : l.truth.full, tell("the end is wrong").constData());
                    continue;
                }
                ++whole;
                QVERIFY2(trulyWhole, tell("a figure whose need is not met").constData());
            }
        }
        qInfo("%zu runs, %zu whole, %zu only taken, %zu asked, %zu of %zu states hold", runs, whole, flagged, asked,
              right, states);
        QVERIFY(runs > 1000 && whole > runs / 4);
        QVERIFY(static_cast<double>(right) >= 0.95 * static_cast<double>(states));
        QVERIFY(3 * asked < runs);
    }
};

QTEST_APPLESS_MAIN(LivesTest)
#include "lives_test.moc"
