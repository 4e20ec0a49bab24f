// The sheet that a run's steps make, as hands would have filled it in.
#include <algorithm>
#include <cmath>
#include <utility>

#include "bench/runner/seen.h"
#include "core/label/port_rules.h"
#include "core/quantity/format.h"

namespace otterstone::bench {

namespace {

using records::Sheet;

constexpr double kSameTier = 0.12;

std::string digits(double v) { return plainDigits(v, 3); }
std::string digits(const std::optional<double>& v) { return v ? digits(*v) : std::string(); }
std::string seconds(double s) { return showNumber(s, 3) + " s"; }

bool isOn(const SeenStep& s) {
    return s.volts && !label::outputGone(*s.volts) && s.amps && *s.amps >= kGoneShare * s.level;
}

// What a step adds to its run's sheet, and what the one before left for it.
struct Around {
    const std::vector<Source>& sources;
    double outBefore = 0.0; ///< seconds without output while the source was being pulled
};

void survey(const SeenStep& s, const Around&, Sheet& sheet) {
    if (s.step.as != "tier" || !s.volts)
        return;
    const bool there = label::outputGone(*s.volts) || std::fabs(*s.volts - s.askedVolts) <= kSameTier * s.askedVolts;
    if (!there)
        kinds::addRow(
            sheet, {{"port", s.step.port}, {"way", "out"}, {"asked_v", showNumber(s.askedVolts)}, {"offered", "no"}});
    else
        kinds::addRow(sheet, {{"port", s.step.port},
                              {"way", "out"},
                              {"asked_v", showNumber(s.askedVolts)},
                              {"offered", "yes"},
                              {"amps", digits(isOn(s) ? *s.amps : s.level)},
                              {"volts", digits(s.volts)}});
}

void staircase(const SeenStep& s, const Around&, Sheet& sheet) {
    if (s.step.what != Step::Do::Load || s.step.off)
        return;
    if (s.step.as.empty()) {
        const bool on = isOn(s) && !s.wentOffAfter;
        kinds::addRow(sheet, {{"port", s.step.port},
                              {"asked_v", showNumber(s.askedVolts)},
                              {"amps", digits(on ? *s.amps : s.level)},
                              {"volts", on ? digits(s.volts) : "0"},
                              {"state", on ? "holds" : "tripped"}});
        return;
    }
    // What brought it back belongs to the step at which it went.
    if (sheet.rows.empty())
        return;
    auto& row = sheet.rows.back();
    const bool back = s.flowedAfter.has_value();
    row[kinds::columnAt(sheet, "back")] = back ? s.step.as : "not yet";
    if (back && s.step.as == "by itself")
        row[kinds::columnAt(sheet, "after")] = seconds(*s.flowedAfter);
}

void lightLoad(const SeenStep& s, const Around&, Sheet& sheet) {
    if (s.step.as.empty() || s.step.what != Step::Do::Load)
        return;
    const bool off = s.volts && label::outputGone(*s.volts);
    const bool went = off || s.wentOffAfter;
    kinds::addRow(sheet, {{"what", s.step.as},
                          {"amps", digits(s.level)},
                          {"state", went ? "goes off" : "stays on"},
                          {"after", seconds(went ? s.wentOffAfter.value_or(0.0) : s.seconds)}});
}

void passThrough(const SeenStep& s, const Around& around, Sheet& sheet) {
    if (s.step.as.empty())
        return;
    if (s.step.as == "source removed") {
        const bool on = !s.wentOffAfter;
        const double out = around.outBefore + s.outFor;
        kinds::addRow(sheet, {{"corner", s.step.as},
                              {"time", on && out > 0.0 ? showNumber(out * 1000.0, 3) + " ms" : ""},
                              {"back", !on         ? "stays off"
                                       : out > 0.0 ? "by itself"
                                                   : "never went off"}});
        return;
    }
    const bool in = s.step.as != "out alone", out = s.step.as != "in alone";
    kinds::addRow(sheet, {{"corner", s.step.as},
                          {"in_v", in ? digits(s.inVolts) : ""},
                          {"in_a", in ? digits(s.inAmps) : ""},
                          {"out_v", out ? digits(s.volts) : ""},
                          {"out_a", out ? digits(s.amps) : ""}});
}

// Alone readings by port; a pair's later "together" takes the place of an earlier one.
void sharing(const std::vector<SeenStep>& steps, Sheet& sheet) {
    std::vector<std::pair<std::string, SeenStep>> alone;
    std::string first;
    double firstLevel = 0.0;
    int round = 0;
    const auto aloneOf = [&](const std::string& port) -> const SeenStep* {
        const auto at = std::find_if(alone.begin(), alone.end(), [&](const auto& p) { return p.first == port; });
        return at == alone.end() ? nullptr : &at->second;
    };
    for (const SeenStep& s : steps) {
        if (s.step.what != Step::Do::Load || s.step.off)
            continue;
        if (s.step.as == "alone")
            alone.emplace_back(s.step.port, s);
        else if (s.step.as.empty() && s.step.load == 1) {
            first = s.step.port;
            firstLevel = s.level;
        } else if (s.step.as == "together") {
            if (s.step.ifGone && sheet.rows.size() >= 2)
                sheet.rows.resize(sheet.rows.size() - 2);
            else
                ++round;
            // Where a lighter load had to do, it is held against as much alone.
            const auto add = [&](const std::string& port, double level, const std::optional<double>& volts,
                                 const std::optional<double>& amps) {
                const SeenStep* found = aloneOf(port);
                std::optional<SeenStep> a = found ? std::optional(*found) : std::nullopt;
                if (a && a->amps && s.step.ifGone)
                    a->amps = std::min(*a->amps, level);
                kinds::addRow(sheet, {{"round", std::to_string(round)},
                                      {"port", port},
                                      {"alone_v", a ? digits(a->volts) : ""},
                                      {"alone_a", a ? digits(a->amps) : ""},
                                      {"together_v", digits(volts)},
                                      {"together_a", digits(amps)}});
            };
            add(first, firstLevel, s.volts, s.amps);
            add(s.step.port, s.level, s.secondVolts, s.secondAmps);
        }
    }
}

void matrix(const SeenStep& s, const Around& around, Sheet& sheet) {
    if (s.step.as != "source" || s.step.source < 0 || static_cast<std::size_t>(s.step.source) >= around.sources.size())
        return;
    // The input meter is the main one here.
    const Source& from = around.sources[static_cast<std::size_t>(s.step.source)];
    kinds::addRow(sheet, {{"charger", from.charger},
                          {"cable", from.cable},
                          {"port", from.port},
                          {"volts", digits(s.volts)},
                          {"amps", digits(s.amps)},
                          {"watts", s.volts && s.amps ? digits(*s.volts * *s.amps) : ""}});
}

// The kinds that the live bench can write down.
constexpr std::pair<records::Kind, void (*)(const SeenStep&, const Around&, Sheet&)> kStepByStep[] = {
    {records::Kind::Survey, survey},
    {records::Kind::Staircase, staircase},
    {records::Kind::PassThrough, passThrough},
    {records::Kind::LightLoad, lightLoad},
    {records::Kind::Matrix, matrix}};

} // namespace

std::optional<Sheet> sheetFromSteps(records::Kind kind, const std::vector<SeenStep>& steps,
                                    const std::vector<Source>& sources) {
    Sheet sheet{kind, {}};
    if (kind == records::Kind::Sharing) // its rounds are made of steps far apart
        sharing(steps, sheet);
    for (const auto& [which, add] : kStepByStep) {
        if (which != kind)
            continue;
        Around around{sources};
        for (const SeenStep& s : steps) {
            add(s, around, sheet);
            around.outBefore = s.step.what == Step::Do::Tell ? s.outFor : 0.0;
        }
    }
    return sheet.rows.empty() ? std::nullopt : std::optional(sheet);
}

} // namespace otterstone::bench
