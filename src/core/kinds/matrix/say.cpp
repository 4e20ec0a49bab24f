// What worked best, what is as good, what never worked, and the figures.
#include <cmath>

#include "core/kinds/matrix/parts.h"
#include "core/kinds/parts.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"
#include "core/records/money.h"

namespace otterstone::kinds {

namespace {

constexpr double kNearBest = 0.95;     // of its watts: as good, when it is cheaper
constexpr double kWanders = 0.02;      // of its watts: what a charge goes up and down by itself. No published source.
constexpr std::size_t kMostLayers = 6; // in one sentence; the rest stands in the picture
constexpr std::size_t kMostNothings = 3;

std::string wattsOf(const MatrixCell& c) { return showNumber(*c.watts, *c.watts < 10.0 ? 2 : 3) + " W"; }
std::string tierWords(const MatrixCell& c) { return c.volts ? tierAndWatts(*c.volts, *c.watts) : wattsOf(c); }

class Speaker {
public:
    Speaker(const Facts& facts, MatrixFinding& f) : facts_(facts), f_(f) {}

    void run() {
        for (MatrixLayer& l : f_.layers)
            choose(l);
        if (f_.cells.empty())
            return;
        if (!std::ranges::any_of(f_.cells, &MatrixCell::flows)) {
            say(otterstone::say("Nothing flows with {}.",
                                (f_.cells.size() == 1
                                     ? placeOf(f_.cells.front())
                                     : otterstone::say("any of the {} tried",
                                                       counted(f_.cells.size(), "combination", "combinations")))));
        } else {
            sayLayers();
            sayNever();
            sayStates();
            sayNothings();
        }
        sayHow();
        for (const MatrixCell& c : f_.cells)
            f_.said.figures.push_back(figureOf(c));
        againstOwn();
    }

private:
    void say(const std::string& words) { f_.said.sentence += (f_.said.sentence.empty() ? "" : " ") + words; }
    void warn(const char* code, std::string words) { f_.said.warnings.push_back({code, std::move(words)}); }

    // Of charger and cable, where both are known in one currency.
    [[nodiscard]] std::optional<records::Money> priceOf(const MatrixCell& c) const {
        const Source* charger = pieceNamed(facts_.chargers, c.source);
        const Wire* cable = pieceNamed(facts_.cables, c.cable);
        if (!charger || !cable || !charger->price || !cable->price ||
            charger->price->currency != cable->price->currency)
            return std::nullopt;
        return records::Money{charger->price->amount + cable->price->amount, charger->price->currency};
    }

    [[nodiscard]] static bool same(const MatrixCell& a, const MatrixCell& b) {
        const Measured off = *a.measured - *b.measured;
        return std::fabs(off.value()) <= std::max(off.expanded(), kWanders * *a.watts);
    }

    // A device's own charger is what the others are measured by; it takes no part where there are others.
    void choose(MatrixLayer& l) const {
        const auto flows = [](const MatrixCell* c) { return c->watts && *c->watts > 0.0; };
        l.ownApart = std::ranges::any_of(l.cells, [](const MatrixCell* c) { return isOwnCharger(*c); }) &&
                     std::ranges::any_of(l.cells, [&](const MatrixCell* c) { return flows(c) && !isOwnCharger(*c); });
        std::vector<const MatrixCell*> cells;
        std::vector<std::string> pairs;
        for (const MatrixCell* c : l.cells) {
            if (l.ownApart && isOwnCharger(*c))
                continue;
            if (flows(c))
                cells.push_back(c);
            if (std::ranges::find(pairs, pairOf(*c)) == pairs.end())
                pairs.push_back(pairOf(*c));
        }
        l.combinations = pairs.size();
        for (const MatrixCell* c : cells) {
            if (!l.best || *c->watts > *l.best->watts)
                l.best = c;
        }
        if (!l.best)
            return;
        std::optional<records::Money> least;
        bool alike = true; // prices in several currencies cannot be compared
        for (const MatrixCell* c : cells) {
            if (pairOf(*c) != pairOf(*l.best) && same(*l.best, *c))
                l.ties.push_back(c);
            const auto price = priceOf(*c);
            if (*c->watts < kNearBest * *l.best->watts || !price)
                continue;
            alike = alike && (!least || price->currency == least->currency);
            if (!least || price->amount < least->amount) {
                least = price;
                l.affordable = c;
            }
        }
        if (!alike)
            l.affordable = nullptr;
    }

    // Of one whose price is not known nobody can say that another is cheaper.
    [[nodiscard]] bool nearOnesHavePrices(const MatrixLayer& l) const {
        return std::ranges::all_of(l.cells, [&](const MatrixCell* c) {
            return !c->watts || *c->watts < kNearBest * *l.best->watts || (l.ownApart && isOwnCharger(*c)) ||
                   priceOf(*c);
        });
    }

    void sayOne(const MatrixLayer& l) {
        if (l.combinations == 1) {
            const std::string best = otterstone::say("{} brings {}", placeOf(*l.best), tierWords(*l.best));
            say(l.ownApart ? otterstone::say("Besides its own charger one combination was tried: {}.", best)
                           : otterstone::say("One combination was tried: {}.", best));
            return;
        }
        const bool cheaper = l.affordable && l.affordable != l.best;
        std::string words = l.ownApart
                                ? otterstone::say("Its own charger apart, most comes in with {}: {}", placeOf(*l.best),
                                                  tierWords(*l.best))
                                : otterstone::say("Most comes in with {}: {}", placeOf(*l.best), tierWords(*l.best));
        std::vector<std::string> ties;
        for (const MatrixCell* c : l.ties) {
            if (!cheaper || c != l.affordable)
                ties.push_back(pairOf(*c) + " (" + wattsOf(*c) + ")");
        }
        if (ties.size() > 3)
            ties = {otterstone::say("{} others", std::to_string(ties.size()))};
        if (!ties.empty())
            words = otterstone::say("{}; as much comes with {}", words, listed(ties));
        say(words + ".");
        if (cheaper)
            say(otterstone::say("As good for less: {} ({} for {}).", placeOf(*l.affordable), wattsOf(*l.affordable),
                                records::showMoney(*priceOf(*l.affordable))));
        else if (l.affordable && nearOnesHavePrices(l) &&
                 std::ranges::any_of(l.cells,
                                     [&](const MatrixCell* c) { // there are others to be cheaper than
                                         return c->watts && *c->watts >= kNearBest * *l.best->watts &&
                                                pairOf(*c) != pairOf(*l.best) && !(l.ownApart && isOwnCharger(*c));
                                     }))
            say(otterstone::say("{} is also the cheapest that comes near.", pairOf(*l.best)));
    }

    // By what brings most, each with all the places into which it does.
    struct Brings {
        std::string pair;
        std::vector<std::string> into;
    };
    static void add(std::vector<Brings>& all, const std::string& pair, std::string into) {
        auto at = std::ranges::find(all, pair, &Brings::pair);
        if (at == all.end())
            at = all.insert(at, {pair, {}});
        at->into.push_back(std::move(into));
    }
    [[nodiscard]] static std::string words(const std::vector<Brings>& all, bool asMuch) {
        std::vector<std::string> each;
        each.reserve(all.size());
        for (const Brings& b : all)
            each.push_back(asMuch ? otterstone::say("{} brings as much into {}", b.pair, listed(b.into))
                                  : otterstone::say("{} brings most into {}", b.pair, listed(b.into)));
        std::string text;
        for (std::size_t k = 0; k < each.size(); ++k)
            text += (k == 0 ? "" : "; ") + each[k];
        return text + ".";
    }

    void sayLayers() {
        std::vector<const MatrixLayer*> flowing;
        for (const MatrixLayer& l : f_.layers) {
            if (l.best)
                flowing.push_back(&l);
        }
        if (flowing.empty())
            return;
        if (f_.layers.size() == 1)
            return sayOne(*flowing.front());
        std::vector<Brings> most, alone, besideOwn, asMuch;
        for (std::size_t k = 0; k < std::min(flowing.size(), kMostLayers); ++k) {
            const MatrixLayer& l = *flowing[k];
            const std::string into = (l.into.empty() ? otterstone::say("a place not stated") : l.into) + " (" +
                                     (l.state.empty() ? "" : l.state + ", ") + tierWords(*l.best) + ")";
            add(l.combinations > 1 ? most : l.ownApart ? besideOwn : alone, pairOf(*l.best), into);
            for (const MatrixCell* c : l.ties)
                add(asMuch, pairOf(*c), intoWords(l.into, l.state));
        }
        const bool apart =
            std::ranges::any_of(flowing, [](const MatrixLayer* l) { return l->ownApart && l->combinations > 1; });
        if (!most.empty())
            say((apart ? otterstone::say("Own chargers apart, ") : "") + words(most, false));
        if (!asMuch.empty())
            say(asMuch.size() > 3 ? otterstone::say("{} others bring as much.", std::to_string(asMuch.size()))
                                  : words(asMuch, true));
        for (const Brings& b : alone)
            say(otterstone::say("Only {} was tried into {}.", b.pair, listed(b.into)));
        for (const Brings& b : besideOwn)
            say(otterstone::say("Besides own chargers only {} was tried into {}.", b.pair, listed(b.into)));
        if (flowing.size() > kMostLayers)
            say(otterstone::say("{} in the picture.", counted(flowing.size() - kMostLayers, "more is", "more are")));
    }

    // Of each axis but the states: what was tried more than once and never worked, while others did.
    void sayNever() {
        for (const MatrixAxis axis : {MatrixAxis::Source, MatrixAxis::Cable, MatrixAxis::Into}) {
            const auto of = nameOf(axis).of;
            for (const std::string& name : f_.on(axis)) {
                std::size_t tried = 0, flowed = 0;
                for (const MatrixCell& c : f_.cells) {
                    tried += c.*of == name;
                    flowed += c.*of == name && c.flows();
                }
                // A device that one state keeps from charging is told by its states.
                if (flowed > 0 || tried < 2)
                    continue;
                const std::string n = std::to_string(tried);
                say(axis == MatrixAxis::Source ? otterstone::say("Nothing ever came from “{}” ({} tried).", name, n)
                    : axis == MatrixAxis::Cable ? otterstone::say("Nothing ever came through “{}” ({} tried).", name, n)
                                                : otterstone::say("Nothing ever came into “{}” ({} tried).", name, n));
                never_.push_back({axis, name});
            }
        }
    }

    // How many combinations charge a device in each of its states, of those that were tried in all of them.
    void sayStates() {
        for (const std::string& into : f_.on(MatrixAxis::Into)) {
            std::vector<const MatrixLayer*> states;
            for (const MatrixLayer& l : f_.layers) {
                if (l.into == into && !l.state.empty())
                    states.push_back(&l);
            }
            if (states.size() < 2)
                continue;
            std::vector<std::size_t> flowed(states.size());
            std::size_t tried = 0;
            for (const MatrixCell* c : states.front()->cells) {
                std::vector<const MatrixCell*> here = {c};
                for (std::size_t k = 1; k < states.size(); ++k) {
                    const auto at = std::ranges::find_if(states[k]->cells, [c](const MatrixCell* other) {
                        return alikeBut(*c, *other, MatrixAxis::State);
                    });
                    if (at != states[k]->cells.end())
                        here.push_back(*at);
                }
                if (here.size() < states.size())
                    continue;
                ++tried;
                for (std::size_t k = 0; k < here.size(); ++k)
                    flowed[k] += here[k]->flows();
            }
            if (tried == 0 || std::ranges::adjacent_find(flowed, std::not_equal_to<>()) == flowed.end())
                continue;
            std::string words;
            for (std::size_t k = 0; k < states.size(); ++k) {
                const std::string count = flowed[k] == 0 ? otterstone::say("none") : std::to_string(flowed[k]);
                const bool ours = portOf(facts_, into);
                const std::string verb =
                    k > 0 ? (ours ? otterstone::say(", from") : otterstone::say(", by"))
                          : otterstone::say("{} {}", into,
                                            ours ? otterstone::say("takes from") : otterstone::say("is charged by"));
                words += otterstone::say("{} {} of {} when “{}”", verb, count,
                                         k == 0 ? counted(tried, "combination", "combinations") : std::to_string(tried),
                                         states[k]->state);
                if (flowed[k] == 0)
                    toldStates_.push_back(states[k]);
            }
            say(words + ".");
        }
    }

    void sayNothings() {
        std::vector<std::string> nothings;
        for (const MatrixCell& c : f_.cells) {
            const bool told =
                std::ranges::any_of(never_, [&c](const auto& n) { return c.*nameOf(n.first).of == n.second; }) ||
                std::ranges::any_of(toldStates_,
                                    [&c](const MatrixLayer* l) { return l->into == c.into && l->state == c.state; });
            if (!c.flows() && !told)
                nothings.push_back(placeOf(c));
        }
        if (nothings.empty())
            return;
        say(otterstone::say("Nothing flows with {}.",
                            (nothings.size() > kMostNothings ? counted(nothings.size(), "combination", "combinations")
                                                             : listed(nothings))));
    }

    // What ended by itself, how long it took, and what was read twice and was not the same.
    void sayHow() {
        double settled = 0.0;
        for (const MatrixCell& c : f_.cells) {
            if (c.stopped)
                warn("stopped", otterstone::say("{} stopped{}.", placeOf(c),
                                                (c.after ? otterstone::say(" after {}", showDuration(*c.after, 1.0))
                                                         : std::string())));
            else
                settled = std::max(settled, c.after.value_or(0.0));
        }
        if (settled > 0.0)
            warn("settled", otterstone::say("It took up to {} to settle.", showDuration(settled, 1.0)));
        std::vector<std::string> told;
        for (const MatrixCell& c : f_.cells) {
            double low = c.watts.value_or(0.0), high = low;
            std::size_t times = 0;
            for (const MatrixCell& other : f_.cells) {
                if (placeOf(other) != placeOf(c) || !other.watts)
                    continue;
                low = std::min(low, *other.watts);
                high = std::max(high, *other.watts);
                ++times;
            }
            if (times < 2 || high - low <= 0.1 * high || std::ranges::find(told, placeOf(c)) != told.end())
                continue;
            told.push_back(placeOf(c));
            warn("read_unlike", otterstone::say("{} was read {} times, from {} to {} W.", placeOf(c),
                                                std::to_string(times), showNumber(low, 3), showNumber(high, 3)));
        }
    }

    [[nodiscard]] static std::string keyOf(const MatrixCell& c) {
        return "cell:" + c.source + ":" + c.cable + ":" + c.into + (c.state.empty() ? "" : ":" + c.state);
    }

    [[nodiscard]] Working figureOf(const MatrixCell& c) const {
        if (!c.watts) {
            Working w = remark(placeOf(c), "it flowed, and stopped; nobody read how much");
            w.key = keyOf(c);
            return w;
        }
        const bool ours = portOf(facts_, c.into);
        Working w = figure(keyOf(c), placeOf(c), "", *c.measured, Unit::Watt,
                           ours                       ? "bank in"
                           : portOf(facts_, c.source) ? "bank out"
                                                      : "meter");
        w.partialDoubt = !c.doubtKnown;
        if (c.product)
            w.formula = otterstone::say("as written; volts times amps beside it are {} W", showNumber(*c.product, 3));
        else if (c.volts && *c.volts > 0.0)
            w.formula = showNumber(*c.volts, 4) + " V × " + showNumber(*c.watts / *c.volts, 3) + " A";
        if (!c.flows())
            w.note = otterstone::say("nothing flows");
        else if (c.after)
            w.note = (c.stopped ? otterstone::say("stopped after ") : otterstone::say("settled after ")) +
                     showDuration(*c.after, 1.0);
        if (c.predicted)
            w.parts.push_back(c.predicted->working);
        for (const std::string& why : c.why)
            w.parts.push_back(otterstone::remark("less than predicted", why));
        return w;
    }

    // The device's own charger is the measure of all others, in each state by itself.
    void againstOwn() {
        for (const MatrixLayer& l : f_.layers) {
            const MatrixCell *own = nullptr, *other = nullptr;
            for (const MatrixCell* c : l.cells) {
                if (!c->watts || *c->watts <= 0.0)
                    continue;
                const MatrixCell*& best = isOwnCharger(*c) ? own : other;
                if (!best || *c->watts > *best->watts)
                    best = c;
            }
            if (!own || !other)
                continue;
            const Measured share = *other->measured / *own->measured;
            const std::string where = intoWords(l.into, l.state);
            Working& w = f_.said.figures.emplace_back(figure(
                "against_own:" + l.into + (l.state.empty() ? "" : ":" + l.state),
                otterstone::say("{}{} against its own charger", (where.empty() ? "" : where + ": "), other->source),
                showNumber(*other->watts, 3) + " W ÷ " + showNumber(*own->watts, 3) + " W", share, Unit::Share,
                "device"));
            w.partialDoubt = !own->doubtKnown || !other->doubtKnown;
            warn("against_own", otterstone::say("{}{} brings {} % of what its own charger brings.",
                                                (where.empty() ? std::string() : otterstone::say("Into {} ", where)),
                                                other->source, showNumber(100.0 * share.value(), 2)));
        }
    }

    const Facts& facts_;
    MatrixFinding& f_;
    std::vector<std::pair<MatrixAxis, std::string>> never_;
    std::vector<const MatrixLayer*> toldStates_;
};

} // namespace

void sayMatrix(const Facts& facts, MatrixFinding& f) { Speaker(facts, f).run(); }

} // namespace otterstone::kinds
