#include "core/plan/campaign/aims.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/judgement/figure_keys.h"
#include "core/judgement/hold.h"
#include "core/judgement/purpose.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::plan::campaign {

namespace {

using evidence::Evidence;
using judgement::ClaimKind;
using judgement::Verdict;
using records::Kind;
using Source = std::pair<Kind, const char*>;

constexpr const char* kGentle = "gentle-drain";
constexpr const char* kTopTier = "top-tier-drain";
constexpr const char* kSteady = "steady-power-drain";
constexpr double kGentleWatts = 5.0; // 1 A at 5 V
constexpr double kUsualTop = 18.0;   // W, where the label says nothing
constexpr double kSameLoad = 1.2;    // loads nearer than this factor are one point of the curve
constexpr double kSmallest = 1e-9;

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

class Wants {
public:
    Wants(const Evidence& e, const Wishes& wishes) : e_(e), wishes_(wishes) {}

    Want& at(Kind kind, const std::string& recipe, const std::string& variant = {}) {
        Want& w = all_[{e_.bank, kind, recipe, variant}];
        w.key = {e_.bank, kind, recipe, variant};
        if (w.words.empty())
            w.words = records::kindWords(kind) + (recipe.empty() ? "" : ", " + recipe);
        return w;
    }

    void claims() {
        for (const judgement::Held& row : judgement::holdClaims(e_).rows) {
            if ((row.verdict != Verdict::NotTested && row.verdict != Verdict::TooClose) || !row.next.kind)
                continue;
            Want& w = at(*row.next.kind, row.next.recipe);
            w.value += weightOf(row.claim.kind);
            w.settles.push_back(row.claim.words);
        }
    }

    void figures(const judgement::Purpose& purpose) {
        const judgement::Comparison known = judgement::compare({e_});
        const auto want = [&](const std::string& figure, double weight) {
            const judgement::FigureRow* row = known.row(figure);
            if (!row || (row->cells.front().known() && !row->cells.front().unlike))
                return;
            for (const auto& [kind, recipe] : runsFor(figure)) {
                Want& w = at(kind, recipe);
                w.value += weight;
                if (std::find(w.settles.begin(), w.settles.end(), row->kind.words) == w.settles.end())
                    w.settles.push_back(row->kind.words);
            }
        };
        for (const judgement::Gate& gate : purpose.gates)
            want(gate.figure, 1.0);
        for (const judgement::Scale& scale : purpose.scales)
            want(scale.figure, 1.0);
    }

    // Loads spread evenly by their ratio from a gentle one to the most that its ports give, as the curve bends at both
    // ends; those at which it was drained already are left out.
    void loads(int many) {
        double top = 0.0;
        for (const label::Port& port : e_.label.ports) {
            if (const auto watts = port.wattsFor(label::Way::Out); port.gives() && watts)
                top = std::max(top, watts->value);
            else if (const auto tier = label::bestTier(port.tiersFor(label::Way::Out)); port.gives() && tier)
                top = std::max(top, tier->watts().value);
        }
        top = std::max(top > 0.0 ? top : kUsualTop, kGentleWatts);
        std::vector<double> known;
        if (e_.together.usable) {
            for (const together::UsablePoint& p : e_.together.usable->points())
                known.push_back(p.watts);
        }
        for (const together::UsablePoint& p : e_.together.otherDrains)
            known.push_back(p.watts);
        for (int k = 0; k < many; ++k) {
            const double share = many > 1 ? static_cast<double>(k) / (many - 1) : 0.0;
            const double watts = kGentleWatts * std::pow(top / kGentleWatts, share);
            const bool told = std::any_of(known.begin(), known.end(), [&](double w) {
                return w > 0.0 && std::max(w / watts, watts / w) < kSameLoad;
            });
            if (told || (k > 0 && watts < kGentleWatts * kSameLoad))
                continue;
            const std::string text = showNumber(watts, 2) + " W";
            const bool first = k == 0, last = k == many - 1;
            Want& w = at(Kind::Drain, first ? kGentle : last ? kTopTier : kSteady, first || last ? "" : text);
            if (!first && !last)
                w.words = say("drain at {}", text);
            w.watts = watts;
            w.value += 1.0;
            w.settles.push_back(say("usable energy at {}", text));
        }
    }

    void own(const OwnEntry& entry) {
        Want& w = at(entry.kind, entry.recipe);
        w.own = entry.id;
        w.value += 1.0;
        if (w.settles.empty() && !entry.words.empty())
            w.settles.push_back(entry.words);
    }

    std::vector<Want> list(int repeats) {
        std::vector<Want> list;
        for (auto& [key, w] : all_) {
            const bool again = key.kind == Kind::Drain || key.kind == Kind::Recharge;
            for (int r = 1; r <= (again ? repeats : 1); ++r) {
                Want one = w;
                if (r > 1) {
                    one.key.variant += (key.variant.empty() ? "" : " ") + std::string("time ") + std::to_string(r);
                    one.words = say("{}, time {}", one.words, std::to_string(r));
                    one.value /= r;
                    one.own = 0;
                }
                if (std::find(wishes_.out.begin(), wishes_.out.end(), one.key) == wishes_.out.end() || one.own != 0)
                    list.push_back(std::move(one));
            }
        }
        return list;
    }

private:
    const Evidence& e_;
    const Wishes& wishes_;
    std::map<JobKey, Want> all_;
};

} // namespace

std::span<const Source> runsFor(std::string_view figure) {
    static const std::map<std::string_view, std::vector<Source>> kAll = {
        {fig::usableGentle, {{Kind::Drain, kGentle}}},
        {fig::usableNearFull, {{Kind::Drain, kTopTier}}},
        {fig::deliveredShare, {{Kind::Drain, kGentle}}},
        {fig::roundTrip, {{Kind::Drain, kGentle}, {Kind::Recharge, "recharge-to-taper"}}},
        {fig::recharge80, {{Kind::Recharge, "recharge-to-taper"}}},
        {fig::recharge100, {{Kind::Recharge, "recharge-to-taper"}}},
        {fig::deviceTo80, {{Kind::Notebook, ""}}},
        {fig::devicePace, {{Kind::Notebook, ""}}},
        {fig::deviceCharges, {{Kind::Notebook, ""}}},
        {fig::deviceHeat, {{Kind::Notebook, ""}}},
        {fig::wattsAlone, {{Kind::Survey, "port-survey"}}},
        {fig::wattsShared, {{Kind::Sharing, "sharing-round"}}},
        {fig::passThrough, {{Kind::PassThrough, "pass-through"}}},
        {fig::tripMargin, {{Kind::Staircase, "load-staircase"}}},
        {fig::heat25, {{Kind::Drain, "heat-soak"}}},
        {fig::gaugeError, {{Kind::Drain, kGentle}}},
        {fig::whPerKg, {{Kind::Drain, kGentle}}},
        {fig::whPerLitre, {{Kind::Drain, kGentle}}},
        {fig::pricePerWh, {{Kind::Drain, kGentle}}},
    };
    const auto at = kAll.find(figure);
    return at == kAll.end() ? std::span<const Source>() : std::span<const Source>(at->second);
}

std::vector<Want> wantsOf(const Evidence& e, const Wishes& wishes, std::span<const OwnEntry> own) {
    Wants wants(e, wishes);
    const bool asked =
        wishes.banks.empty() || std::find(wishes.banks.begin(), wishes.banks.end(), e.bank) != wishes.banks.end();
    if (asked && wishes.claims)
        wants.claims();
    if (const judgement::Purpose* purpose = judgement::purposeNamed(wishes.purpose); asked && purpose)
        wants.figures(*purpose);
    if (asked && wishes.loads > 0)
        wants.loads(wishes.loads);
    for (const OwnEntry& entry : own) {
        if (entry.bank == e.bank)
            wants.own(entry);
    }
    std::vector<Want> list = wants.list(wishes.repeats);
    std::erase_if(list, [](const Want& w) { return w.value < kSmallest; });
    return list;
}

} // namespace otterstone::plan::campaign
