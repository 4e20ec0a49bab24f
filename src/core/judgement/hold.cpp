#include "core/judgement/hold.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/evidence/observe.h"
#include "core/judgement/hold_parts.h"
#include "core/kinds/parts.h"
#include "core/quantity/repeats.h"
#include "core/quantity/say.h"

namespace otterstone::judgement {

namespace {

constexpr double kAssumedAccuracy = 0.03; // half-width; common practice for pocket meters, no published source
constexpr double kRuleMillimetres = 0.5;
constexpr double kRoundedMillimetres = 1.0; // on a printed side. Common practice, no published source.

std::string limitWords(const Held& row) {
    const Limits& l = row.claim.limits;
    const auto shown = [&](double v) { return show(Measured(v), row.claim.unit); };
    return l.low && l.high ? say("{} to {}", shown(*l.low), shown(*l.high))
           : l.low         ? say("at least {}", shown(*l.low))
                           : say("at most {}", shown(*l.high));
}

void holdWeight(const Case& c, Held& row) {
    const Evidence& e = c.e;
    row.next = {{}, {}, say("Put it on a scale, and write the grams beside the printed ones.")};
    if (!e.scale.grams)
        return notTested(row, "it has not been weighed");
    Working w;
    w.key = "weight_g";
    w.label = say("on the scale");
    w.unit = Unit::Gram;
    w.value = e.scale.grams->measured(ErrorSource::ofBench("", "the scale"));
    w.formula = say("as read");
    decideRow(row, pool({{std::move(w), 0}}));
}

void holdSize(const Case& c, Held& row) {
    const Evidence& e = c.e;
    row.next = {{}, {}, say("Measure its three sides, and write them beside the printed ones.")};
    if (!e.scale.size)
        return notTested(row, "it has not been measured");
    const auto sides = [](const label::SizeMm& s) {
        std::array all{s.length, s.width, s.height};
        std::sort(all.begin(), all.end());
        return all;
    };
    const auto found = sides(*e.scale.size), printed = sides(*e.label.size);
    std::size_t worst = 0;
    for (std::size_t k = 1; k < 3; ++k) {
        if (found[k] - printed[k] > found[worst] - printed[worst])
            worst = k;
    }
    row.claim.limits = {{}, printed[worst] + kRoundedMillimetres};
    Working w;
    w.key = "size_mm";
    w.label = say("side that differs most");
    w.unit = Unit::Millimetre;
    w.value = Measured(found[worst], rectangular(kRuleMillimetres), ErrorSource::ofBench("", "the rule"));
    w.formula = say("as read, against {} mm printed", showNumber(printed[worst]));
    decideRow(row, pool({{std::move(w), 0}}));
}

// Each claim, and what it asks.
constexpr std::pair<ClaimKind, void (*)(const Case&, Held&)> kHolders[] = {{ClaimKind::Energy, holdEnergy},
                                                                           {ClaimKind::RatedOutput, holdRatedOutput},
                                                                           {ClaimKind::Tier, holdTier},
                                                                           {ClaimKind::PortWatts, holdPortWatts},
                                                                           {ClaimKind::TotalWatts, holdTotal},
                                                                           {ClaimKind::Together, holdTogether},
                                                                           {ClaimKind::InputWatts, holdInput},
                                                                           {ClaimKind::RechargeTime, holdRecharge},
                                                                           {ClaimKind::PassThrough, holdPassThrough},
                                                                           {ClaimKind::LowCurrent, holdLowCurrent},
                                                                           {ClaimKind::DeviceCharges, holdCharges},
                                                                           {ClaimKind::Weight, holdWeight},
                                                                           {ClaimKind::Size, holdSize}};
constexpr bool inOrder() {
    for (std::size_t k = 0; k < std::size(kHolders); ++k) {
        if (static_cast<std::size_t>(kHolders[k].first) != k)
            return false;
    }
    return std::size(kHolders) == static_cast<std::size_t>(ClaimKind::Size) + 1;
}
static_assert(inOrder(), "each kind of claim has its question to the evidence, in the order of ClaimKind");

std::string sentenceOf(const Judged& j) {
    if (j.rows.empty())
        return say("The label claims nothing that could be tested yet: write it down on the intake page.");
    std::string parts;
    const auto part = [&](Verdict v, Pattern<1> one, Pattern<1> many) {
        if (const std::size_t n = j.count(v))
            parts += (parts.empty() ? "" : ", ") + say(n == 1 ? one : many, std::to_string(n));
    };
    part(Verdict::Meets, "{} is met", "{} are met");
    part(Verdict::FallsShort, "{} falls short", "{} fall short");
    part(Verdict::TooClose, "{} is too close to call", "{} are too close to call");
    part(Verdict::NotTested, "{} is not tested", "{} are not tested");
    return j.rows.size() == 1 ? say("Of 1 claim {}.", parts)
                              : say("Of {} claims {}.", std::to_string(j.rows.size()), parts);
}

} // namespace

Working withAssumedAccuracy(Working w) {
    if (!w.partialDoubt)
        return w;
    w.value = w.value.with(ErrorSource::ofRun("", "the meter's accuracy, not stated"),
                           std::fabs(w.value.value()) * rectangular(kAssumedAccuracy));
    w.partialDoubt = false;
    w.note += (w.note.empty() ? "" : "; ") + say("the meter's accuracy is not stated: ± 3 % assumed");
    return w;
}

Pooled pool(const std::vector<Sample>& samples) {
    Pooled p;
    std::vector<Measured> values;
    std::vector<Working> parts;
    for (const Sample& s : samples) {
        Working w = withAssumedAccuracy(s.working);
        w.others.clear();
        w.question.clear();
        values.push_back(w.value);
        parts.push_back(std::move(w));
        if (s.run != 0)
            p.runs.push_back(s.run);
    }
    p.working = parts.front();
    if (samples.size() == 1)
        return p;
    std::string runs;
    for (const long long run : p.runs)
        runs += std::to_string(run) + " ";
    const Repeats r = repeats(values, ErrorSource::scatterOf(runs + p.working.key));
    p.working.value = r.mean;
    p.working.formula =
        say("mean of {}, s = {} {}", std::to_string(r.count), showNumber(r.spread, 2), symbol(p.working.unit));
    p.working.parts = std::move(parts);
    p.spread = r.spread;
    return p;
}

void decideRow(Held& row, const Pooled& finding) {
    const Decision d = decide(finding.working.value, row.claim.limits);
    row.verdict = d.verdict;
    row.chance = d.chance;
    row.finding = finding.working;
    for (const long long run : finding.runs)
        row.runs.push_back(run);
    const std::string compared =
        say("{} against {}", show(finding.working.value, finding.working.unit), limitWords(row));
    row.why = compared + (d.verdict == Verdict::TooClose ? say(": the limit lies within the doubt") : "");
    Working verdict = remark("verdict", say("{}: {}; the claim holds with a chance of {} (guard band U, JCGM 106)",
                                            verdictWords(d.verdict), compared, chanceWords(d.chance)));
    auto& parts = row.finding->parts.changed();
    parts.insert(parts.begin(), std::move(verdict));
    if (d.verdict == Verdict::TooClose) {
        const Settling s = whatWouldSettle(finding.working.value, row.claim.limits, finding.spread,
                                           std::max<std::size_t>(1, finding.runs.size()));
        if (s.another)
            row.next.words = say("{} {}", s.words, row.next.words);
        else
            row.next = s.repeats ? NextRun{row.next.kind, row.next.recipe, s.words}
                                 : NextRun{{}, {}, s.words}; // what no run can settle is not planned
    } else {
        row.next = {};
    }
}

void decideBy(Held& row, const Observation& o, const Working& value) {
    Working w = value;
    w.label = o.where() + (w.label.empty() || w.label == o.title ? "" : ", " + w.label);
    decideRow(row, pool({{std::move(w), o.run}}));
}

std::string watts(double w) { return showNumber(w, 3) + " W"; }

void decideRow(Held& row, bool kept, Working seen, long long run) {
    row.verdict = kept ? Verdict::Meets : Verdict::FallsShort;
    row.why = seen.note;
    row.finding = std::move(seen);
    row.runs = {run};
    row.next = {};
}

void notTested(Held& row, Spoken why) {
    row.verdict = Verdict::NotTested;
    row.why = std::move(why).text();
}

double loadOf(const kinds::RunEntry& r) { return kinds::loadOf(r.finding); }

std::size_t Judged::count(Verdict v) const {
    return static_cast<std::size_t>(
        std::count_if(rows.begin(), rows.end(), [&](const Held& r) { return r.verdict == v; }));
}

std::vector<const Held*> Judged::inOrder() const {
    std::vector<const Held*> all;
    for (const Held& r : rows)
        all.push_back(&r);
    const auto place = [](const Held* r) {
        return r->verdict == Verdict::NotTested ? 2 : r->verdict == Verdict::TooClose ? 1 : 0;
    };
    std::stable_sort(all.begin(), all.end(), [&](const Held* a, const Held* b) { return place(a) < place(b); });
    return all;
}

std::string Judged::untested() const {
    struct Next {
        records::Kind kind;
        std::vector<std::string> ports;
        std::size_t count = 0;
    };
    std::vector<Next> runs;
    for (const Held& r : rows) {
        if (r.verdict != Verdict::NotTested || !r.next.kind)
            continue;
        auto at = std::find_if(runs.begin(), runs.end(), [&](const Next& n) { return n.kind == *r.next.kind; });
        if (at == runs.end())
            at = runs.insert(runs.end(), Next{*r.next.kind, {}, 0});
        ++at->count;
        if (!r.claim.port.empty() && std::find(at->ports.begin(), at->ports.end(), r.claim.port) == at->ports.end())
            at->ports.push_back(r.claim.port);
    }
    const std::size_t open = count(Verdict::NotTested);
    if (open == 0)
        return {};
    std::stable_sort(runs.begin(), runs.end(), [](const Next& a, const Next& b) { return a.count > b.count; });
    std::string s = say("{} not tested", std::to_string(open));
    for (std::size_t k = 0; k < runs.size(); ++k) {
        const bool survey = runs[k].kind == records::Kind::Survey;
        s += (k == 0 ? ": " : ", ") + records::runWords(runs[k].kind) +
             (survey ? say(" of {}", kinds::listed(runs[k].ports)) : "") +
             (k > 0                   ? " " + std::to_string(runs[k].count)
              : open == 1             ? say(" would settle it")
              : runs[k].count == open ? say(" would settle all of them")
                                      : say(" would settle {} of them", std::to_string(runs[k].count)));
    }
    return s + ".";
}

const Held* Judged::row(std::string_view key) const {
    const auto at = std::find_if(rows.begin(), rows.end(), [&](const Held& r) { return r.claim.key == key; });
    return at == rows.end() ? nullptr : &*at;
}

Judged holdClaims(const Evidence& e) {
    Judged j;
    const Case c{e, evidence::observe(e)};
    for (Claim& claim : claimsOf(e.label)) {
        Held row;
        row.claim = std::move(claim);
        kHolders[static_cast<std::size_t>(row.claim.kind)].second(c, row);
        // The same seen twice is told once.
        std::vector<std::string> once;
        for (std::string& line : row.seen) {
            if (std::find(once.begin(), once.end(), line) == once.end())
                once.push_back(std::move(line));
        }
        row.seen = std::move(once);
        // Several that speak of it stand side by side in its sum.
        for (const std::string& line : row.seen) {
            if (row.finding && row.seen.size() > 1)
                row.finding->parts.push_back(remark("seen", line));
        }
        j.rows.push_back(std::move(row));
    }
    j.sentence = sentenceOf(j);
    return j;
}

} // namespace otterstone::judgement
