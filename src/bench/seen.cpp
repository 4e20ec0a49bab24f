#include "bench/seen.h"

#include <algorithm>
#include <cmath>

#include "core/quantity/format.h"

namespace otterstone::bench {

namespace {

constexpr double kGoneVolts = 1.0;
constexpr double kFlowsAmps = 0.005;
constexpr double kGoneShare = 0.25; // of the set current
constexpr double kSameTier = 0.12;

std::string digits(double v) { return plainDigits(v, 3); }

std::string digits(const std::optional<double>& v) { return v ? digits(*v) : std::string(); }
std::string seconds(double s) { return showNumber(s, 3) + " s"; }

} // namespace

void StepWatch::begin(const Step& step, double askedVolts, double level, double now) {
    seen_ = {};
    seen_.step = step;
    seen_.askedVolts = askedVolts;
    seen_.level = level;
    from_ = now;
    out_.clear();
    in_.clear();
}

void StepWatch::reading(double time, double volts, double amps) {
    last_ = Reading{time, volts, amps};
    if (keep_)
        out_.push_back(*last_);
}

void StepWatch::inReading(double time, double volts, double amps) {
    if (keep_)
        in_.push_back({time, volts, amps});
}
void StepWatch::secondReading(double volts, double amps) { second_ = Reading{0.0, volts, amps}; }

bool StepWatch::flows() const { return last_ && last_->volts >= kGoneVolts && last_->amps >= kFlowsAmps; }

bool StepWatch::gone() const {
    return (firstLoaded_ && last_ && !flows()) ||
           (secondLoaded_ && second_ && (second_->volts < kGoneVolts || second_->amps < kFlowsAmps));
}

SeenStep StepWatch::end(double now) const {
    SeenStep s = seen_;
    s.seconds = now - from_;
    const double half = from_ + 0.5 * s.seconds;
    const auto mean = [half](const std::vector<Reading>& all, std::optional<double>& volts,
                             std::optional<double>& amps) {
        double v = 0.0, a = 0.0;
        int n = 0;
        for (const Reading& r : all) {
            if (r.time < half)
                continue;
            v += r.volts;
            a += r.amps;
            ++n;
        }
        if (n > 0) {
            volts = v / n;
            amps = a / n;
        }
    };
    mean(out_, s.volts, s.amps);
    mean(in_, s.inVolts, s.inAmps);
    if (secondLoaded_ && second_) {
        s.secondVolts = second_->volts;
        s.secondAmps = second_->amps;
    }
    const double expected =
        s.step.what == Step::Do::Load && s.step.load == 1 && s.step.mode == Mode::Current ? s.level : 4.0 * kFlowsAmps;
    for (std::size_t k = 0; k < out_.size(); ++k) {
        const bool on = out_[k].volts >= kGoneVolts && out_[k].amps >= kGoneShare * expected;
        if (on && !s.flowedAfter)
            s.flowedAfter = out_[k].time - from_;
        if (on)
            s.wentOffAfter.reset();
        else if (!s.wentOffAfter)
            s.wentOffAfter = out_[k].time - from_;
        if (!on && k > 0)
            s.outFor += out_[k].time - out_[k - 1].time;
    }
    return s;
}

namespace {

using behaviour::Kind;
using behaviour::Sheet;

bool isOn(const SeenStep& s) { return s.volts && *s.volts >= kGoneVolts && s.amps && *s.amps >= kGoneShare * s.level; }

void survey(const SeenStep& s, Sheet& sheet) {
    if (s.step.as != "tier" || !s.volts)
        return;
    const bool there = *s.volts < kGoneVolts || std::fabs(*s.volts - s.askedVolts) <= kSameTier * s.askedVolts;
    if (!there)
        sheet.add({{"port", s.step.port}, {"way", "out"}, {"asked_v", showNumber(s.askedVolts)}, {"offered", "no"}});
    else
        sheet.add({{"port", s.step.port},
                   {"way", "out"},
                   {"asked_v", showNumber(s.askedVolts)},
                   {"offered", "yes"},
                   {"amps", digits(isOn(s) ? *s.amps : s.level)},
                   {"volts", digits(s.volts)}});
}

void staircase(const SeenStep& s, Sheet& sheet) {
    if (s.step.what != Step::Do::Load || s.step.off)
        return;
    if (s.step.as.empty()) {
        const bool on = isOn(s) && !s.wentOffAfter;
        sheet.add({{"port", s.step.port},
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
    row[sheet.column("back")] = back ? s.step.as : "not yet";
    if (back && s.step.as == "by itself")
        row[sheet.column("after")] = seconds(*s.flowedAfter);
}

void lightLoad(const SeenStep& s, Sheet& sheet) {
    if (s.step.as.empty() || s.step.what != Step::Do::Load)
        return;
    const bool off = s.volts && *s.volts < kGoneVolts;
    const bool went = off || s.wentOffAfter;
    sheet.add({{"what", s.step.as},
               {"amps", digits(s.level)},
               {"state", went ? "goes off" : "stays on"},
               {"after", seconds(went ? s.wentOffAfter.value_or(0.0) : s.seconds)}});
}

void passThrough(const SeenStep& s, double outBefore, Sheet& sheet) {
    if (s.step.as.empty())
        return;
    if (s.step.as == "source removed") {
        const bool on = !s.wentOffAfter;
        const double out = outBefore + s.outFor;
        sheet.add({{"corner", s.step.as},
                   {"time", on && out > 0.0 ? showNumber(out * 1000.0, 3) + " ms" : ""},
                   {"back", !on         ? "stays off"
                            : out > 0.0 ? "by itself"
                                        : "never went off"}});
        return;
    }
    const bool in = s.step.as != "out alone", out = s.step.as != "in alone";
    sheet.add({{"corner", s.step.as},
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
                sheet.add({{"round", std::to_string(round)},
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

void matrix(const SeenStep& s, const std::vector<Source>& sources, Sheet& sheet) {
    if (s.step.as != "source" || s.step.source < 0 || static_cast<std::size_t>(s.step.source) >= sources.size())
        return;
    // The input meter is the main one here.
    const Source& from = sources[static_cast<std::size_t>(s.step.source)];
    sheet.add({{"charger", from.charger},
               {"cable", from.cable},
               {"port", from.port},
               {"volts", digits(s.volts)},
               {"amps", digits(s.amps)},
               {"watts", s.volts && s.amps ? digits(*s.volts * *s.amps) : ""}});
}

} // namespace

std::optional<Sheet> sheetFromSteps(Kind kind, const std::vector<SeenStep>& steps, const std::vector<Source>& sources) {
    if (!findings::hasSheet(kind))
        return std::nullopt;
    Sheet sheet{kind, {}};
    if (kind == Kind::Sharing)
        sharing(steps, sheet);
    double outBefore = 0.0; // while the source was being pulled
    for (const SeenStep& s : steps) {
        switch (kind) {
        case Kind::Survey: survey(s, sheet); break;
        case Kind::Staircase: staircase(s, sheet); break;
        case Kind::LightLoad: lightLoad(s, sheet); break;
        case Kind::PassThrough: passThrough(s, outBefore, sheet); break;
        case Kind::Matrix: matrix(s, sources, sheet); break;
        default: break;
        }
        outBefore = s.step.what == Step::Do::Tell ? s.outFor : 0.0;
    }
    return sheet.rows.empty() ? std::nullopt : std::optional(sheet);
}

} // namespace otterstone::bench
