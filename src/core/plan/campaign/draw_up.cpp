#include "core/plan/campaign/draw_up.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "core/judgement/hold.h"
#include "core/label/rating.h"
#include "core/plan/campaign/work.h"

namespace otterstone::plan::campaign {

namespace {

using evidence::Evidence;
using judgement::ClaimKind;
using judgement::Verdict;
using records::GearKind;
using records::Kind;

constexpr double kOwnSpread = 0.05;     // of a time that this bank took before
constexpr double kPrintedSpread = 0.15; // of one that its label lets expect
constexpr double kReachesPort = 0.65;   // of the rated Wh, where no drain told: common practice, no published source
constexpr double kGoesIn = 1.2;         // rated Wh × this, where no recharge told; the same
constexpr double kUsualInput = 10.0;    // W, where neither label nor run says what it takes
constexpr double kUsualOutput = 10.0;   // W, to bring it down
constexpr double kSetUp = 300.0, kTakeOff = 180.0; // s of hands

double weightOf(ClaimKind kind) {
    switch (kind) {
    case ClaimKind::Energy:
    case ClaimKind::RatedOutput: return 3.0;
    case ClaimKind::Together:
    case ClaimKind::RechargeTime:
    case ClaimKind::PassThrough: return 2.0;
    default: return 1.0;
    }
}

struct Lasts {
    double seconds, spread;
};

class OfBank {
public:
    OfBank(const Evidence& e, const Circumstances& given, DrawnUp& into) : e_(e), given_(given), into_(into) {}

    void add() {
        Problem& p = into_.problem;
        bank_ = p.banks.size();
        p.banks.push_back({e_.name, stateNow()});
        std::vector<std::size_t> wanted;
        for (const auto& [what, settles] : open()) {
            const auto& [kind, recipe] = what;
            const Work& work = workOf(kind);
            Job j = job(e_.name + ": " + records::kindWords(kind) + (recipe.empty() ? "" : ", " + recipe), work,
                        lasts(kind, recipe));
            j.value = settles.value;
            if (recipe.empty() && !work.byEnergy)
                j.unattended = Unattended::Never; // it is hands that do it
            if (work.last)
                j.after = wanted;
            wanted.push_back(p.jobs.size());
            p.jobs.push_back(std::move(j));
            into_.jobs.push_back({e_.bank, kind, recipe, settles.claims});
        }
        // One that may break the bank waits for all others, also for those that come after it in the list.
        for (const std::size_t k : wanted) {
            if (!workOf(into_.jobs[k].kind).last)
                continue;
            p.jobs[k].after.clear();
            for (const std::size_t other : wanted) {
                if (!workOf(into_.jobs[other].kind).last)
                    p.jobs[k].after.push_back(other);
            }
        }
        if (wanted.empty())
            return;
        for (const Kind kind : {Kind::Recharge, Kind::Drain}) {
            Job j = job(e_.name + (kind == Kind::Recharge ? ": fill it" : ": empty it"), workOf(kind), lasts(kind, ""),
                        false);
            j.begin = State();
            j.value = 0.0;
            j.asNeeded = true;
            p.jobs.push_back(std::move(j));
            into_.jobs.push_back({e_.bank, kind, "", {}});
        }
    }

private:
    struct Settles {
        double value = 0.0;
        std::vector<std::string> claims;
    };

    // The runs that verdicts ask for, with what each would settle.
    [[nodiscard]] std::map<std::pair<Kind, std::string>, Settles> open() const {
        std::map<std::pair<Kind, std::string>, Settles> all;
        for (const judgement::Held& row : judgement::holdClaims(e_).rows) {
            if ((row.verdict != Verdict::NotTested && row.verdict != Verdict::TooClose) || !row.next.kind)
                continue;
            Settles& s = all[{*row.next.kind, row.next.recipe}];
            s.value += weightOf(row.claim.kind);
            s.claims.push_back(row.claim.words);
        }
        return all;
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

    [[nodiscard]] Lasts lasts(Kind kind, const std::string& recipe) const {
        if (kind == Kind::Recharge) {
            std::optional<double> quickest; // as its own recharges took
            for (const together::InputRow& row : e_.together.inputs) {
                if (row.full)
                    quickest = std::min(quickest.value_or(row.full->value.value()), row.full->value.value());
            }
            if (quickest)
                return {*quickest, *quickest * kOwnSpread};
            if (e_.label.rechargeTime) {
                const double s = e_.label.rechargeTime->value * 3600.0;
                return {s, s * kPrintedSpread};
            }
            if (const auto wh = rated()) {
                const double s = *wh * kGoesIn / inputWatts().value_or(kUsualInput) * 3600.0;
                return {s, s * kPrintedSpread};
            }
        }
        const auto wh = kind == Kind::Recharge ? rated() : portWattHours();
        if (!recipe.empty() && given_.estimate) {
            if (const auto s = given_.estimate(recipe, e_.label, wh, inputWatts()); s && *s > 0.0)
                return {*s, *s * (e_.together.usableFigure ? kOwnSpread : kPrintedSpread)};
        }
        if (workOf(kind).byEnergy && wh) {
            const double s = *wh / kUsualOutput * 3600.0;
            return {s, s * kPrintedSpread};
        }
        const double s = workOf(kind).minutes * 60.0;
        return {s, s * kPrintedSpread};
    }

    Job job(const std::string& id, const Work& work, const Lasts& lasts, bool measured = true) {
        Job j;
        j.id = id;
        j.kind = records::kindKey(work.kind);
        j.seconds = std::max(lasts.seconds, kSetUp + kTakeOff);
        j.spread = lasts.spread;
        j.bank = bank_;
        j.begin = work.begin;
        j.end = work.end;
        j.rest = work.rest * 60.0;
        if (const auto wh = portWattHours(); !work.end && wh && *wh > 0.0)
            j.uses = std::min(100.0, std::ceil(outputWatts() * work.output * j.seconds / 3600.0 / *wh * 100.0));
        else if (!work.end && work.output > 0.0)
            j.uses = 100.0; // who knows
        j.hands = {{0.0, kSetUp, "lay out, plug in, start"}, {-kTakeOff, kTakeOff, "take off"}};
        for (const GearKind kind : work.needs) {
            if (kind == GearKind::Meter && !measured)
                continue;
            Need need{records::gearKey(kind), {}};
            for (std::size_t k = 0; k < given_.gear.size(); ++k) {
                if (given_.gear[k].kind == kind)
                    need.anyOf.push_back(k);
            }
            if (!need.anyOf.empty())
                j.needs.push_back(std::move(need));
            else
                missing_.insert(kind);
        }
        for (const GearKind kind : missing_) {
            const std::string words = "The gear drawer has no " + records::gearKey(kind) +
                                      ": the plan takes for granted that there is always one.";
            if (std::find(into_.warnings.begin(), into_.warnings.end(), words) == into_.warnings.end())
                into_.warnings.push_back(words);
        }
        return j;
    }

    const Evidence& e_;
    const Circumstances& given_;
    DrawnUp& into_;
    std::size_t bank_ = 0;
    std::set<GearKind> missing_;
};

} // namespace

DrawnUp drawUp(std::span<const Evidence> banks, const Circumstances& given) {
    DrawnUp d;
    Problem& p = d.problem;
    for (const records::Gear& g : given.gear)
        p.pieces.push_back({g.name, records::gearKey(g.kind), 1});
    p.hours = given.hours;
    p.unattended = given.unattended;
    p.until = given.until;
    p.midnight = given.midnight;
    for (const Evidence& e : banks)
        OfBank(e, given, d).add();
    return d;
}

} // namespace otterstone::plan::campaign
