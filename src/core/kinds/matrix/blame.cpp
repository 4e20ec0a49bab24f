// Whose doing it is: two cells that differ in one thing alone say what that one does.
#include "core/kinds/matrix/parts.h"
#include "core/kinds/parts.h"
#include "core/label/usb_facts.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

constexpr double kAboveTier = 1.12; // times it: a source gives no more on that tier
constexpr double kLosesVolts = 0.9, kCarriesLess = 0.85;
constexpr double kTooModest = 1.10; // times what was to be expected. No published source for any of them.

bool read(const MatrixCell& c) { return c.volts && c.watts && *c.volts > 0.0 && *c.watts > 0.0; }
// A long cable takes volts away, and none gives any: 7.1 V are 9 V on their way.
double tierOf(const MatrixCell& c) {
    for (const double tier : label::kTierVolts) {
        if (*c.volts <= kAboveTier * tier)
            return tier;
    }
    return *c.volts;
}
bool higher(const MatrixCell& high, const MatrixCell& low) { return tierOf(high) > tierOf(low); }
std::string volts(const MatrixCell& c) { return showNumber(tierOf(c), 3) + " V"; }
std::string asRead(const MatrixCell& c) { return showNumber(*c.volts, 3) + " V"; }
std::string watts(const MatrixCell& c) { return showNumber(*c.watts, 3) + " W"; }

class Blamer {
public:
    Blamer(const Facts& facts, MatrixFinding& f) : facts_(facts), f_(f) {}

    void run() {
        for (const std::string& cable : f_.on(MatrixAxis::Cable))
            blameCable(cable);
        for (const std::string& source : f_.on(MatrixAxis::Source))
            blameSource(source);
        tellDevices();
        tellExpected();
    }

private:
    void warn(const char* code, std::string words) { f_.said.warnings.push_back({code, std::move(words)}); }
    [[nodiscard]] static std::string into(const MatrixCell& c) {
        const std::string words = intoWords(c.into, c.state);
        return words.empty() ? "" : say(" into {}", words);
    }

    // Pairs that differ in one axis alone: the cell that has `name` there, and the best of the others.
    struct Pair {
        const MatrixCell *low = nullptr, *high = nullptr;
    };
    [[nodiscard]] std::vector<Pair> pairsOf(MatrixAxis axis, const std::string& name) const {
        std::vector<Pair> pairs;
        for (const MatrixCell& low : f_.cells) {
            if (low.*nameOf(axis).of != name || !read(low))
                continue;
            const MatrixCell* best = nullptr;
            for (const MatrixCell& high : f_.cells) {
                if (read(high) && alikeBut(low, high, axis) &&
                    (!best || std::pair(tierOf(high), *high.watts) > std::pair(tierOf(*best), *best->watts)))
                    best = &high;
            }
            if (best)
                pairs.push_back({&low, best});
        }
        return pairs;
    }

    void blameCable(const std::string& cable) {
        const auto pairs = pairsOf(MatrixAxis::Cable, cable);
        const auto lower = [](const Pair& p) { return higher(*p.high, *p.low); };
        const auto first = std::ranges::find_if(pairs, lower);
        if (first == pairs.end()) {
            if (!losesVolts(pairs))
                carriesLess(pairs);
            return;
        }
        const MatrixCell &low = *first->low, &high = *first->high;
        std::string words = say("With {}{} “{}” stays at {} where “{}” reaches {}", low.source, into(low), cable,
                                volts(low), high.cable, volts(high));
        // The same cable at the higher tier elsewhere: it can.
        const auto can = std::ranges::find_if(
            f_.cells, [&](const MatrixCell& c) { return c.cable == cable && read(c) && !higher(high, c); });
        if (can != f_.cells.end()) {
            warn("not_the_cable_alone",
                 say("{}, though it reaches {} with {}{}: not the cable alone. Replug, and try it again.", words,
                     volts(*can), can->source, into(*can)));
            return;
        }
        const auto of = std::ranges::count_if(pairs, lower);
        warn("cable_holds_back",
             say("{}: the cable holds it back{}.", words,
                 (pairs.size() > 1 ? say(" ({} of {} comparisons)", std::to_string(of), std::to_string(pairs.size()))
                                   : std::string())));
    }

    // On one tier fewer volts come out at its end, where the meter stands there.
    [[nodiscard]] bool losesVolts(const std::vector<Pair>& pairs) {
        const auto ratio = [](const Pair& p) { return *p.low->volts / *p.high->volts; };
        const auto worst = std::ranges::min_element(pairs, {}, ratio);
        if (worst == pairs.end() || ratio(*worst) > kLosesVolts)
            return false;
        warn("cable_loses_volts",
             say("With {}{} “{}” arrives with {} where “{}” arrives with {}: the cable loses the rest.",
                 worst->low->source, into(*worst->low), worst->low->cable, asRead(*worst->low), worst->high->cable,
                 asRead(*worst->high)));
        return true;
    }

    void carriesLess(const std::vector<Pair>& pairs) {
        const Pair* worst = nullptr;
        const auto ratio = [](const Pair& p) { return *p.low->watts / *p.high->watts; };
        for (const Pair& p : pairs) {
            if (tierOf(*p.low) == tierOf(*p.high) && ratio(p) < kCarriesLess && (!worst || ratio(p) < ratio(*worst)))
                worst = &p;
        }
        if (worst)
            warn(
                "cable_carries_less",
                say("With {}{} “{}” brings {} where “{}” brings {}, both at {}: swap them once more at once, to tell the cable from a charge that goes down by itself.",
                    worst->low->source, into(*worst->low), worst->low->cable, watts(*worst->low), worst->high->cable,
                    watts(*worst->high), volts(*worst->low)));
    }

    // Only of a source whose tiers are known: what it never had it cannot be blamed for.
    void blameSource(const std::string& name) {
        std::vector<label::Tier> tiers;
        if (const Source* charger = pieceNamed(facts_.chargers, name))
            tiers = charger->side.tiers;
        if (const label::Port* port = portOf(facts_, name))
            tiers = port->tiersFor(label::Way::Out);
        for (const auto& [low, high] : pairsOf(MatrixAxis::Source, name)) {
            const double tier = tierOf(*high);
            if (!higher(*high, *low) || !std::ranges::any_of(tiers, [tier](const label::Tier& t) {
                    return t.low.value <= tier && tier <= t.high.value;
                }))
                continue;
            warn("source_holds_back",
                 say("“{}” can give {}, but{}{} it stays at {} where {} reaches {}: the two ends do not agree on more.",
                     name, volts(*high), (low->cable.empty() ? "" : say(" with {}", low->cable)), into(*low),
                     volts(*low), high->source, volts(*high)));
            return;
        }
    }

    // Devices that ask the same source through the same cable for other volts; each at the most it took.
    void tellDevices() {
        for (const std::string& source : f_.on(MatrixAxis::Source)) {
            for (const std::string& cable : f_.on(MatrixAxis::Cable)) {
                const MatrixCell *most = nullptr, *least = nullptr;
                for (const std::string& device : f_.on(MatrixAxis::Into)) {
                    const MatrixCell* its = nullptr;
                    for (const MatrixCell& c : f_.cells) {
                        if (c.source == source && c.cable == cable && c.into == device && !portOf(facts_, device) &&
                            read(c) && (!its || *c.volts > *its->volts))
                            its = &c;
                    }
                    if (its && (!most || *its->volts > *most->volts))
                        most = its;
                    if (its && (!least || *its->volts < *least->volts))
                        least = its;
                }
                if (!most || !higher(*most, *least))
                    continue;
                warn("devices_ask_unlike", say("From {}{} {} takes {} where {} takes {}.", source,
                                               (cable.empty() ? "" : say(" through {}", cable)), most->into,
                                               asRead(*most), least->into, asRead(*least)));
                return;
            }
        }
    }

    void tellExpected() {
        std::size_t below = 0;
        std::vector<const MatrixCell*> above;
        for (const MatrixCell& c : f_.cells) {
            below += !c.why.empty();
            if (c.watts && c.expected && *c.watts > kTooModest * *c.expected)
                above.push_back(&c);
        }
        if (below > 0)
            warn(
                "below_predicted",
                say("{} more than 15 % below what charger, cable and bank could agree on; open the figure for what to ask.",
                    counted(below, "combination stays", "combinations stay")));
        if (above.empty())
            return;
        const MatrixCell& c = **std::ranges::max_element(
            above, {}, [](const MatrixCell* cell) { return *cell->watts / *cell->expected; });
        warn(
            "above_predicted",
            say("{} brings {} % more than the {} W that was to be expected: the promise is too modest, or a reading slipped.{}",
                placeOf(c), showNumber(100.0 * (*c.watts / *c.expected - 1.0), 2), showNumber(*c.expected, 3),
                (above.size() > 1 ? say(" So do {} by more than 10 %.", counted(above.size() - 1, "other", "others"))
                                  : std::string())));
    }

    const Facts& facts_;
    MatrixFinding& f_;
};

} // namespace

void blame(const Facts& facts, MatrixFinding& f) { Blamer(facts, f).run(); }

} // namespace otterstone::kinds
