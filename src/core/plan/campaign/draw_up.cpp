#include "core/plan/campaign/draw_up.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/label/rating.h"
#include "core/plan/campaign/gear_fit.h"
#include "core/plan/campaign/work.h"
#include "core/quantity/date.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::plan::campaign {

namespace {

using evidence::Evidence;
using records::GearKind;
using records::Kind;

constexpr double kOwnSpread = 0.05;     // of a time that this bank took before
constexpr double kPrintedSpread = 0.15; // of one that its label lets expect
constexpr double kReachesPort = 0.65;   // of the rated Wh, where no drain told: common practice, no published source
constexpr double kGoesIn = 1.2;         // rated Wh × this, where no recharge told; the same
constexpr double kUsualInput = 10.0;    // W, where neither label nor run says what it takes
constexpr double kUsualOutput = 10.0;   // W, to bring it down
constexpr double kAsCool = 2.0;         // K over the air
constexpr double kPlainVolts = 5.5;     // a tier above is asked for
constexpr double kSetUp = 300.0, kTakeOff = 180.0, kLook = 60.0; // s of hands

struct Lasts {
    double seconds, spread;
    std::vector<std::pair<double, std::string>> hands; ///< on its way, s from its begin
};

class OfBank {
public:
    OfBank(const Evidence& e, const Circumstances& given, DrawnUp& into) : e_(e), given_(given), into_(into) {}

    void add() {
        std::vector<Want> wants = wantsOf(e_, given_.wishes, given_.own);
        if (wants.empty())
            return;
        Problem& p = into_.problem;
        bank_ = p.banks.size();
        p.banks.push_back({e_.name, stateNow()});
        into_.banks.push_back(e_.bank);
        std::vector<std::size_t> wanted;
        for (Want& want : wants) {
            if (const std::string name = given_.recipeName ? given_.recipeName(want.key.recipe) : std::string();
                !name.empty())
                want.words = name + (want.key.variant.empty() ? "" : ", " + want.key.variant);
            wanted.push_back(p.jobs.size());
            p.jobs.push_back(job(want));
            into_.jobs.push_back({want.key, want.words, want.settles, want.own, want.watts});
        }
        // One that may break the bank waits for all others, also for those that come after it in the list.
        for (const std::size_t k : wanted) {
            if (!workOf(into_.jobs[k].key.kind).last)
                continue;
            for (const std::size_t other : wanted) {
                if (!workOf(into_.jobs[other].key.kind).last)
                    p.jobs[k].after.push_back(other);
            }
        }
        for (const Kind kind : {Kind::Recharge, Kind::Drain}) {
            const Want want{{e_.bank, kind, "", kAsNeeded},
                            kind == Kind::Recharge ? say("fill it") : say("empty it"),
                            0.0,
                            {},
                            {},
                            0};
            p.jobs.push_back(job(want));
            into_.jobs.push_back({want.key, want.words, {}, 0, {}});
        }
    }

private:
    void pin(Job& job, const JobKey& key) {
        for (const Pin& pin : given_.wishes.pins) {
            const auto at = secondsOf(pin.at);
            if (pin.job != key || !at)
                continue;
            if (*at >= given_.begins)
                job.pin = *at - given_.begins;
            else
                warn(say("“{}” was pinned to a moment that is past: it is planned anew.", job.id));
        }
    }

    [[nodiscard]] State stateNow() const {
        // Of a sheet that says nothing of the charge nobody knows what it left.
        const life::Life& life = e_.together.life;
        if (life.passages.empty())
            return life.past.cameAt.value_or(State());
        const life::Passage& last = life.passages.back();
        return !last.silent && last.ended ? last.ended->state : State();
    }

    [[nodiscard]] std::optional<double> rated() const {
        const auto rating = label::ratedEnergy(e_.label);
        return rating ? std::optional(rating->energy.value) : std::nullopt;
    }
    [[nodiscard]] std::optional<double> portWattHours() const {
        if (e_.together.usableFigure)
            return e_.together.usableFigure->value.value();
        const auto wh = rated();
        return wh ? std::optional(*wh * kReachesPort) : std::nullopt;
    }
    [[nodiscard]] std::optional<double> inputWatts() const {
        std::optional<double> best = e_.label.inputWatts ? std::optional(e_.label.inputWatts->value) : std::nullopt;
        for (const label::Port& port : e_.label.ports) {
            if (const auto w = port.wattsFor(label::Way::In); !best && port.takes() && w)
                best = w->value;
        }
        return best;
    }

    // All that it gives at once.
    [[nodiscard]] double outputWatts() const {
        if (e_.label.totalWatts)
            return e_.label.totalWatts->value;
        double sum = 0.0;
        for (const label::Port& port : e_.label.ports) {
            const auto w = port.wattsFor(label::Way::Out);
            const auto tier = label::bestTier(port.tiersFor(label::Way::Out));
            sum += !port.gives() ? 0.0 : w ? w->value : tier ? tier->watts().value : kUsualOutput;
        }
        return std::max(sum, kUsualOutput);
    }

    /// As its own runs of this way warmed it: until it is within 2 K of the air again (Newton's law of cooling).
    [[nodiscard]] std::optional<double> coolsFor(Kind kind) const {
        std::optional<double> longest;
        for (const kinds::RunEntry& r : e_.runs) {
            const auto& heat = r.finding->heat;
            const bool sameWay = (kind == Kind::Recharge) == (kinds::wayOf(r.finding) == Kind::Recharge);
            if (!sameWay || !heat || !heat->rise || !heat->seconds)
                continue;
            const double cools = heat->seconds->value() * std::log(std::max(1.0, heat->rise->value() / kAsCool));
            longest = std::max(longest.value_or(0.0), cools);
        }
        return longest;
    }

    /// As its own recharges from empty took, the quickest of them.
    [[nodiscard]] std::optional<double> quickestRecharge() const {
        std::optional<double> quickest;
        for (const together::InputRow& row : e_.together.inputs) {
            const auto& passages = e_.together.life.passages;
            const auto run = std::find_if(passages.begin(), passages.end(),
                                          [&](const life::Passage& p) { return p.run == row.run; });
            if (row.full && run != passages.end() && run->began && run->began->state.isEmpty())
                quickest = std::min(quickest.value_or(row.full->value.value()), row.full->value.value());
        }
        return quickest;
    }

    [[nodiscard]] Lasts lasts(const Want& want) const {
        const auto as = [](double seconds, bool own) {
            return Lasts{seconds, seconds * (own ? kOwnSpread : kPrintedSpread), {}};
        };
        const Kind kind = want.key.kind;
        if (kind == Kind::Recharge) {
            if (const auto quickest = quickestRecharge())
                return as(*quickest, true);
            if (e_.label.rechargeTime)
                return as(e_.label.rechargeTime->value * 3600.0, false);
            if (const auto wh = rated())
                return as(*wh * kGoesIn / inputWatts().value_or(kUsualInput) * 3600.0, false);
        }
        const auto wh = kind == Kind::Recharge ? rated() : portWattHours();
        const bool own = e_.together.usableFigure.has_value();
        if (want.watts && wh)
            return as(*wh / *want.watts * 3600.0, own);
        if (!want.key.recipe.empty() && given_.course) {
            if (auto course = given_.course(want.key.recipe, e_.label, wh, inputWatts());
                course && course->seconds > 0.0) {
                // It begins when all is laid out, and stands still while somebody replugs.
                double waited = kSetUp;
                for (auto& [at, what] : course->hands) {
                    at += waited;
                    waited += kLook;
                }
                Lasts all = as(course->seconds, own);
                all.seconds += waited + kTakeOff;
                all.hands = std::move(course->hands);
                return all;
            }
        }
        if (workOf(kind).byEnergy && wh)
            return as(*wh / kUsualOutput * 3600.0, false);
        return as(workOf(kind).minutes * 60.0, false);
    }

    // The pieces of a kind that can do it.
    [[nodiscard]] std::vector<std::size_t> fit(GearKind kind, const Demand& demand) const {
        if (kind == GearKind::Charger)
            return quickChargers(given_.gear, inputWatts().value_or(kUsualInput));
        std::vector<std::size_t> all;
        for (std::size_t k = 0; k < given_.gear.size(); ++k) {
            if (given_.gear[k].kind == kind && canDo(given_.gear[k], demand))
                all.push_back(k);
        }
        return all;
    }

    void warn(const std::string& words) {
        if (std::find(into_.warnings.begin(), into_.warnings.end(), words) == into_.warnings.end())
            into_.warnings.push_back(words);
    }

    void addNeeds(Job& j, const Want& want, const Work& work) {
        const Demand first = demandOf(want, e_.label);
        std::map<GearKind, int> asked;
        std::vector<GearKind> kinds = work.needs;
        const bool asks = want.key.kind == Kind::Drain || want.key.kind == Kind::Staircase;
        if (asks && first.volts > kPlainVolts)
            kinds.push_back(GearKind::Trigger);
        for (const GearKind kind : kinds) {
            if (kind == GearKind::Meter && j.asNeeded)
                continue;
            const bool second = want.key.kind == Kind::Sharing && ++asked[kind] > 1;
            const Demand demand = second ? secondDemandOf(e_.label) : first;
            const std::vector<std::size_t> pieces = fit(kind, demand);
            const bool any = std::any_of(given_.gear.begin(), given_.gear.end(),
                                         [&](const records::Gear& g) { return g.kind == kind; });
            if (!pieces.empty())
                j.needs.push_back({records::gearKey(kind), pieces});
            else
                warn(
                    any ? say("No {} of the drawer is known to do for “{}” ({} V, {} A): the plan takes for granted that there is one.",
                              records::gearKey(kind), j.id, showNumber(demand.volts, 3), showNumber(demand.amps, 3))
                        : say("The gear drawer has no {}: the plan takes for granted that there is always one.",
                              records::gearKey(kind)));
        }
    }

    // Without a recipe it is hands that do it: now and then, or all the while.
    static void addLooks(Job& j, const Work& work) {
        if (work.looksEvery <= 0.0)
            j.unattended = Unattended::Never;
        else
            for (double at = kSetUp + work.looksEvery * 60.0; at < j.seconds; at += work.looksEvery * 60.0)
                addMoment(j, at, sayAsItStands(work.looks));
    }
    // What is to be done while the bank is taken off already is done then.
    static void addMoment(Job& j, double at, const std::string& what) {
        if (at < j.seconds - kTakeOff - kLook)
            j.hands.insert(j.hands.end() - 1, {at, kLook, what});
    }

    Job job(const Want& want) {
        const Work& work = workOf(want.key.kind);
        const Lasts time = lasts(want);
        Job j;
        j.id = e_.name + ": " + want.words;
        j.kind = records::kindKey(work.kind);
        j.asNeeded = want.key.variant == kAsNeeded;
        j.seconds = std::max(time.seconds, kSetUp + kTakeOff);
        j.spread = time.spread;
        j.bank = bank_;
        j.begin = j.asNeeded ? State() : work.begin;
        j.end = work.end;
        j.rest = work.rest > 0.0 ? coolsFor(want.key.kind).value_or(work.rest * 60.0) : 0.0;
        j.value = want.value;
        if (const auto wh = portWattHours(); !work.end && wh && *wh > 0.0)
            j.uses = std::min(100.0, std::ceil(outputWatts() * work.output * j.seconds / 3600.0 / *wh * 100.0));
        else if (!work.end && work.output > 0.0)
            j.uses = 100.0; // who knows
        j.hands = {{0.0, kSetUp, say("lay out, plug in, start")}, {-kTakeOff, kTakeOff, say("take off")}};
        for (const auto& [at, what] : time.hands)
            addMoment(j, at, what);
        if (want.key.recipe.empty() && !j.asNeeded)
            addLooks(j, work);
        const auto& wired = given_.wishes.wired;
        if (std::find(wired.begin(), wired.end(), want.key) !=
            wired.end()) { // only what is replugged on its way is left
            j.hands.erase(j.hands.begin());
            j.hands.pop_back();
        }
        addNeeds(j, want, work);
        pin(j, want.key);
        return j;
    }

    const Evidence& e_;
    const Circumstances& given_;
    DrawnUp& into_;
    std::size_t bank_ = 0;
};

} // namespace

namespace {

// What is wished to come first, and what is to have a day of its own.
void arrange(DrawnUp& d, const Wishes& wishes) {
    const auto in = [&](const std::vector<JobKey>& keys, std::size_t k) {
        return std::find(keys.begin(), keys.end(), d.jobs[k].key) != keys.end();
    };
    Problem& p = d.problem;
    for (std::size_t k = 0; k < p.jobs.size(); ++k) {
        if (in(wishes.first, k))
            p.jobs[k].after.clear(); // also one that would else wait for all others of its bank
    }
    for (std::size_t k = 0; k < p.jobs.size(); ++k) {
        for (std::size_t other = 0; other < p.jobs.size(); ++other) {
            if (other == k || p.jobs[k].asNeeded || p.jobs[other].asNeeded)
                continue;
            const auto& after = p.jobs[k].after;
            if (in(wishes.first, other) && !in(wishes.first, k) &&
                std::find(after.begin(), after.end(), other) == after.end())
                p.jobs[k].after.push_back(other);
            if (in(wishes.ownDay, k) && p.jobs[other].bank == p.jobs[k].bank &&
                (!in(wishes.ownDay, other) || other > k))
                p.apart.emplace_back(k, other);
        }
    }
}

} // namespace

DrawnUp drawUp(std::span<const Evidence> banks, const Circumstances& given) {
    DrawnUp d;
    Problem& p = d.problem;
    for (const records::Gear& g : given.gear)
        p.pieces.push_back({g.name, records::gearKey(g.kind), 1});
    p.hours = given.hours;
    p.unattended = given.wishes.unattended;
    p.until = given.until;
    p.midnight = given.midnight;
    for (const Evidence& e : banks)
        OfBank(e, given, d).add();
    arrange(d, given.wishes);
    return d;
}

} // namespace otterstone::plan::campaign
