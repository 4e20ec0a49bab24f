#include "core/judgement/rank.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <random>

#include "core/judgement/chances.h"
#include "core/judgement/verdict.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::judgement {

namespace {

std::vector<double> sharesOf(std::vector<double> weights) {
    double sum = 0.0;
    for (const double w : weights)
        sum += w;
    for (double& w : weights)
        w /= sum;
    return weights;
}

std::vector<double> weightsOf(const Purpose& p) {
    std::vector<double> w;
    for (const Scale& s : p.scales)
        w.push_back(s.weight);
    return w;
}

// The bank with the highest expected score under these weights, among those that may lead.
std::size_t leader(const std::vector<Ranked>& banks, const std::vector<double>& weights) {
    const auto shares = sharesOf(weights);
    std::size_t best = banks.size();
    double most = -1.0;
    for (std::size_t b = 0; b < banks.size(); ++b) {
        double score = 0.0;
        for (std::size_t k = 0; k < shares.size(); ++k)
            score += shares[k] * banks[b].parts[k].placed;
        if (banks[b].passes() && score > most) {
            most = score;
            best = b;
        }
    }
    return best;
}

void drawChances(const Comparison& c, const Purpose& p, const Draw& draw, std::vector<Ranked>& banks) {
    std::vector<bool> mayLead;
    mayLead.reserve(banks.size());
    for (const Ranked& bank : banks)
        mayLead.push_back(bank.passes());
    const std::vector<Chance> all = chancesOf(c, p, sharesOf(weightsOf(p)), mayLead, draw);
    for (std::size_t b = 0; b < banks.size(); ++b) {
        banks[b].chanceBest = all[b].best;
        double points = 0.0;
        for (const Contributed& part : banks[b].parts)
            points += part.points();
        banks[b].score =
            Measured(points, 100.0 * all[b].spread, ErrorSource::ofBank(c.banks[banks[b].bank], "its figures"));
    }
}

void changeWeights(const Comparison& c, const Purpose& p, const Draw& draw, Ranking& r) {
    const auto weights = weightsOf(p);
    const std::size_t now = leader(r.banks, weights);
    if (now == r.banks.size())
        return;
    std::mt19937_64 random(draw.seed + 1);
    std::uniform_real_distribution<double> exponent(-1.0, 1.0);
    for (int k = 0; k < draw.weightings; ++k) {
        auto changed = weights;
        for (double& w : changed)
            w *= std::exp2(exponent(random));
        r.banks[leader(r.banks, changed)].leadsUnderWeights += 1.0 / draw.weightings;
    }
    for (std::size_t k = 0; k < p.scales.size() && p.scales.size() > 1; ++k) {
        Turning t;
        t.figure = p.scales[k].figure;
        const auto leads = [&](double factor) {
            auto changed = weights;
            changed[k] *= factor;
            return leader(r.banks, changed);
        };
        for (int step = 1; step <= 100 && !t.below; ++step) {
            const double factor = 1.0 - step / 100.0;
            if (const std::size_t b = leads(factor); b != now) {
                t.below = factor;
                t.leaderBelow = c.banks[r.banks[b].bank];
            }
        }
        for (int step = 1; step <= 90 && !t.above; ++step) {
            const double factor = 1.0 + step / 10.0;
            if (const std::size_t b = leads(factor); b != now) {
                t.above = factor;
                t.leaderAbove = c.banks[r.banks[b].bank];
            }
        }
        r.turnings.push_back(std::move(t));
    }
}

constexpr double kHalf = 0.5; // of the weight: with as much unknown a ranking rests on nothing

// "of Menhir 27 60 % of the weight is not known: usable near full load (a complete drain at …), …"
std::string whatIsMissing(const Ranked& b, const Comparison& c) {
    std::string s =
        say("of {}, which would lead, {} % of the weight is not known. What would say it: ", c.banks[b.bank],
            showNumber(100.0 * b.unknownWeight(), 2));
    bool first = true;
    for (const Contributed& part : b.parts) {
        if (!part.unknown)
            continue;
        const FigureKind& kind = *figureKind(part.figure);
        s += (first ? "" : "; ") + kind.words + " (" + kind.meant + ")";
        first = false;
    }
    return s + ".";
}

std::string sentenceOf(const Ranking& r, const Comparison& c, const Purpose& p) {
    const auto passing = std::count_if(r.banks.begin(), r.banks.end(), [](const Ranked& b) { return b.passes(); });
    if (passing == 0)
        return r.banks.empty() ? say("There is no bank to choose from.")
                               : say("No bank passes the gates of “{}”.", p.words);
    const Ranked& first = r.banks.front();
    const auto name = [&](const Ranked& b) { return c.banks[b.bank]; };
    const std::string marked =
        first.notKnown.empty() ? "" : say(" Whether it passes is not known: {}.", first.notKnown.front());
    if (passing == 1 && first.notKnown.empty())
        return say("{} is the only one that passes the gates of “{}”.", name(first), p.words);
    if (passing == 1)
        return say("Only {} may pass the gates of “{}”.{}", name(first), p.words, marked);
    if (first.unknownWeight() >= kHalf)
        return say("It cannot be said which is the best for “{}”: {}{}", p.words, whatIsMissing(first, c), marked);
    const auto likeliest = std::max_element(
        r.banks.begin(), r.banks.end(), [](const Ranked& a, const Ranked& b) { return a.chanceBest < b.chanceBest; });
    std::string beside;
    if (likeliest->bank != first.bank)
        beside =
            say(", though {} has {} by what is not known of it", name(*likeliest), chanceWords(likeliest->chanceBest));
    else if (r.banks[1].chanceBest >= 0.05)
        beside = say(", before {} with {}", name(r.banks[1]), chanceWords(r.banks[1].chanceBest));
    std::string unheard; // who stands somewhere by what is not known alone
    std::size_t unheardOf = 0;
    for (const Ranked& b : r.banks) {
        if (!b.passes() || b.unknownWeight() < kHalf)
            continue;
        unheard += (unheardOf++ > 0 ? ", " : "") + name(b);
    }
    if (unheardOf > 0)
        unheard =
            unheardOf == 1
                ? say(" Of {} half of the weight or more is not known, so its place says nothing.", unheard)
                : say(" Of these half of the weight or more is not known, so their places say nothing: {}.", unheard);
    return say("{} comes out first for “{}”: the best with a chance of {}{}. It stays first with {} of the weightings "
               "between half and twice these.{}{}",
               name(first), p.words, chanceWords(first.chanceBest), beside, chanceWords(first.leadsUnderWeights),
               unheard, marked);
}

} // namespace

double Ranked::unknownWeight() const {
    double sum = 0.0;
    for (const Contributed& p : parts)
        sum += p.unknown ? p.weight : 0.0;
    return sum;
}

Passes passes(const Gate& gate, const Cell& cell, std::string& why) {
    why = cell.shown();
    if (!cell.known())
        return Passes::NotKnown;
    if (!gate.codes.empty())
        return std::find(gate.codes.begin(), gate.codes.end(), cell.code) != gate.codes.end() ? Passes::Yes
                                                                                              : Passes::No;
    if (cell.value->isText)
        return Passes::NotKnown;
    const Verdict v = decide(cell.value->value, {gate.least, gate.most}).verdict;
    if (v == Verdict::Meets)
        return Passes::Yes;
    if (v == Verdict::FallsShort && !cell.unlike && !(cell.atLeast && gate.least))
        return Passes::No;
    if (cell.unlike)
        why = say("{}, at {}", why, cell.condition);
    else if (cell.atLeast)
        why = say("{}: nobody asked for more", why);
    return Passes::NotKnown;
}

Ranking rank(const Comparison& c, const Purpose& p, const Draw& draw) {
    Ranking r;
    const auto shares = sharesOf(weightsOf(p));
    for (std::size_t b = 0; b < c.banks.size(); ++b) {
        Ranked bank;
        bank.bank = b;
        for (const Gate& gate : p.gates) {
            std::string has;
            const FigureRow* row = c.row(gate.figure);
            const Passes it = row ? passes(gate, row->cells[b], has) : Passes::NotKnown;
            if (it != Passes::Yes)
                (it == Passes::No ? bank.stoppedBy : bank.notKnown).push_back(gate.words + ": " + has);
        }
        for (std::size_t k = 0; k < p.scales.size(); ++k) {
            const FigureRow* row = c.row(p.scales[k].figure);
            const bool known = row && row->cells[b].known() && !row->cells[b].value->isText;
            bank.parts.push_back({p.scales[k].figure, shares[k],
                                  known ? placed(p.scales[k], row->cells[b].value->value.value()) : 0.5, !known,
                                  known && row->cells[b].unlike});
        }
        r.banks.push_back(std::move(bank));
    }
    drawChances(c, p, draw, r.banks);
    std::stable_sort(r.banks.begin(), r.banks.end(), [](const Ranked& a, const Ranked& b) {
        return a.passes() != b.passes() ? a.passes() : a.score.value() > b.score.value();
    });
    changeWeights(c, p, draw, r);
    r.sentence = sentenceOf(r, c, p);
    return r;
}

Working Ranking::working(std::size_t place, const Comparison& c, const Purpose& p) const {
    const Ranked& bank = banks[place];
    Working w;
    w.key = "score";
    w.label = say("{} for {}", c.banks[bank.bank], p.words);
    w.value = bank.score;
    w.unit = Unit::Point;
    w.note = say("the best with a chance of {}; first with {} of the weightings between half and twice these",
                 chanceWords(bank.chanceBest), chanceWords(bank.leadsUnderWeights));
    for (std::size_t k = 0; k < bank.parts.size(); ++k) {
        const Contributed& part = bank.parts[k];
        const Scale& scale = p.scales[k];
        const FigureKind& kind = *figureKind(part.figure);
        Working one;
        one.label = kind.words;
        one.unit = Unit::Point;
        one.value = Measured(std::round(part.points() * 10.0) / 10.0);
        const Cell& cell = c.row(part.figure)->cells[bank.bank];
        one.formula = say("100 × {} × {}", showNumber(part.weight, 3), showNumber(part.placed, 3));
        one.note = say("{}, between {} (0) and {} (1){}", cell.shown(), show(Measured(scale.worst), kind.unit),
                       show(Measured(scale.best), kind.unit),
                       (part.unknown  ? say(": not known, so anywhere between")
                        : part.unlike ? say("; found under another condition than is meant: {}", cell.condition)
                                      : ""));
        w.formula += (w.formula.empty() ? "" : " + ") + showNumber(one.value.value(), 3);
        w.parts.push_back(std::move(one));
    }
    for (const std::string& gate : bank.stoppedBy)
        w.parts.push_back(remark("does not pass", gate));
    for (const std::string& gate : bank.notKnown)
        w.parts.push_back(remark("not known whether it passes", gate));
    return w;
}

} // namespace otterstone::judgement
