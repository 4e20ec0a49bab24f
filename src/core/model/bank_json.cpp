#include "core/model/bank_json.h"

#include <array>
#include <cmath>

#include <nlohmann/json.hpp>

#include "core/label/rating.h"
#include "core/quantity/say.h"

namespace otterstone::model {

namespace {

using nlohmann::json;

template<class E, std::size_t N>
struct Words {
    std::array<std::pair<E, const char*>, N> rows;
    [[nodiscard]] const char* word(E e) const {
        for (const auto& [value, text] : rows) {
            if (value == e)
                return text;
        }
        return rows.front().second;
    }
};

constexpr Words<Chemistry, 2> kChemistry{{{{Chemistry::Nmc, "nmc"}, {Chemistry::Lfp, "iron phosphate"}}}};
constexpr Words<label::Direction, 3> kDirection{
    {{{label::Direction::In, "in"}, {label::Direction::Out, "out"}, {label::Direction::Both, "both"}}}};
constexpr Words<Sharing::Policy, 4> kSharing{{{{Sharing::Policy::Independent, "independent"},
                                               {Sharing::Policy::FallBackToFive, "fall back to 5 V"},
                                               {Sharing::Policy::FirstKeeps, "first keeps"},
                                               {Sharing::Policy::SplitAmps, "split amps"}}}};
constexpr Words<PassThrough, 5> kPassThrough{{{{PassThrough::Refuses, "refuses"},
                                               {PassThrough::SourceFirst, "source first"},
                                               {PassThrough::LoadFirst, "load first"},
                                               {PassThrough::Shares, "shares"},
                                               {PassThrough::SlowsBoth, "slows both"}}}};
constexpr Words<Recovery::How, 4> kRecovery{{{{Recovery::How::ByItself, "by itself"},
                                              {Recovery::How::Replug, "replug"},
                                              {Recovery::How::Button, "button"},
                                              {Recovery::How::WaitThenReplug, "wait then replug"}}}};
constexpr Words<DualRole, 2> kDualRole{
    {{{DualRole::GivesFirst, "gives first"}, {DualRole::TakesFirst, "takes first"}}}};

// Reads and writes with the same list of members, so that neither can forget one.
class Reader {
public:
    Reader(const json& j, std::string place) : j_(j), place_(std::move(place)) {}
    void operator()(const char* key, double& v, double least = 0.0, double most = 1e9) { number(key, v, least, most); }
    void operator()(const char* key, int& v) {
        double d = v;
        number(key, d, 0.0, 1000.0);
        v = static_cast<int>(d);
    }
    void operator()(const char* key, std::string& v) {
        const auto at = j_.find(key);
        if (at == j_.end())
            return;
        if (at->is_string())
            v = at->get<std::string>();
        else
            wrong(key, "a text");
    }
    void operator()(const char* key, std::vector<double>& v) {
        const auto at = j_.find(key);
        if (at == j_.end())
            return;
        if (!at->is_array() || at->size() < 2 ||
            !std::all_of(at->begin(), at->end(), [](const json& n) { return n.is_number(); }))
            wrong(key, "a list of at least two numbers");
        else
            v = at->get<std::vector<double>>();
    }
    void operator()(const char* key, std::vector<label::Tier>& v) {
        const auto at = j_.find(key);
        if (at == j_.end())
            return;
        const auto tiers = at->is_string() ? label::parseTiers(at->get<std::string>(), place_ + "." + key)
                                           : Result<std::vector<label::Tier>>{};
        if (!at->is_string())
            wrong(key, "tiers as text, like \"5 V 3 A, 9 V 2 A\"");
        else if (!tiers)
            problem_ = problem_ ? problem_ : std::optional(tiers.error());
        else
            v = *tiers;
    }
    template<class E, std::size_t N>
    void word(const char* key, E& v, const Words<E, N>& words) {
        const auto at = j_.find(key);
        if (at == j_.end())
            return;
        std::string all;
        for (const auto& [value, text] : words.rows) {
            if (at->is_string() && at->get<std::string>() == text) {
                v = value;
                return;
            }
            all += (all.empty() ? "\"" : ", \"") + std::string(text) + "\"";
        }
        wrong(key, say("one of {}", all));
    }
    template<class F>
    void part(const char* key, F f) {
        const auto at = j_.find(key);
        if (at == j_.end())
            return;
        if (!at->is_object()) {
            wrong(key, "an object");
            return;
        }
        Reader inner(*at, place_ + "." + key);
        f(inner);
        problem_ = problem_ ? problem_ : inner.problem_;
    }
    template<class F>
    void parts(const char* key, std::vector<Port>& all, F f) {
        const auto at = j_.find(key);
        if (at == j_.end())
            return;
        if (!at->is_array() || at->empty()) {
            wrong(key, "a list of ports");
            return;
        }
        all.assign(at->size(), Port{});
        for (std::size_t k = 0; k < all.size(); ++k) {
            Reader inner((*at)[k], place_ + "." + key + "[" + std::to_string(k) + "]");
            f(inner, all[k]);
            problem_ = problem_ ? problem_ : inner.problem_;
        }
    }
    [[nodiscard]] const std::optional<Problem>& problem() const { return problem_; }

private:
    void number(const char* key, double& v, double least, double most) {
        const auto at = j_.find(key);
        if (at == j_.end())
            return;
        if (!at->is_number() || !(at->get<double>() >= least && at->get<double>() <= most))
            wrong(key, say("a number from {} to {}", std::to_string(least), std::to_string(most)));
        else
            v = at->get<double>();
    }
    void wrong(const char* key, Spoken wanted) {
        if (!problem_)
            problem_ = Problem{"bad_bank", place_ + "." + key, say("this should be {}.", std::move(wanted).text()), ""};
    }
    const json& j_;
    std::string place_;
    std::optional<Problem> problem_;
};

class Writer {
public:
    template<class T, class... Limits>
    void operator()(const char* key, const T& v, Limits...) {
        if constexpr (std::is_same_v<T, std::vector<label::Tier>>)
            j_[key] = label::showTiers(v);
        else
            j_[key] = v;
        if (j_[key].empty() || j_[key] == "")
            j_.erase(key);
    }
    template<class E, std::size_t N>
    void word(const char* key, E v, const Words<E, N>& words) {
        j_[key] = words.word(v);
    }
    template<class F>
    void part(const char* key, F f) {
        Writer inner;
        f(inner);
        j_[key] = inner.j_;
    }
    template<class F>
    void parts(const char* key, std::vector<Port>& all, F f) {
        for (Port& p : all) {
            Writer inner;
            f(inner, p);
            j_[key].push_back(inner.j_);
        }
    }
    json j_ = json::object();
};

void members(auto& io, Converter& c) {
    io("idle", c.idle);
    io("per_amp", c.perAmp);
    io("ohms", c.ohms);
    io("output_ohms", c.outputOhms);
}

void members(auto& io, Bank& b) {
    io.part("cells", [&](auto& j) {
        j.word("chemistry", b.cells.chemistry, kChemistry);
        j("series", b.cells.series);
        j("ah", b.cells.ampHours, 1e-6);
        j("ohms", b.cells.ohms, 1e-9);
        j("full_volts", b.cells.fullVolts);
        j("cut_off_volts", b.cells.cutOffVolts);
        j("open_circuit", b.cells.openCircuit);
        j("slow_ohms", b.cells.slowOhms);
        j("slow_seconds", b.cells.slowSeconds, 1e-6);
    });
    io.part("output", [&](auto& j) { members(j, b.output); });
    io.part("input", [&](auto& j) { members(j, b.input); });
    io.part("thermal", [&](auto& j) {
        j("kelvin_per_watt", b.thermal.kelvinPerWatt, 1e-6);
        j("seconds", b.thermal.seconds);
        j("trip_celsius", b.thermal.tripCelsius);
        j("restart_celsius", b.thermal.restartCelsius);
        j("core_kelvin_per_watt", b.thermal.coreKelvinPerWatt);
        j("core_share", b.thermal.coreShare, 0.01, 0.99);
    });
    io.part("gauge", [&](auto& j) {
        j("lag_seconds", b.gauge.lagSeconds);
        j("error_points", b.gauge.errorPoints, -100.0, 100.0);
        j("hidden_share", b.gauge.hiddenShare, 0.0, 0.99);
        j("leds", b.gauge.leds);
    });
    io("input_watts", b.inputWatts);
    io("charge_amps", b.chargeAmps);
    io("end_of_charge_share", b.endOfChargeShare);
    io("top_off_below", b.topOffBelow);
    io("idle_input_watts", b.idleInputWatts);
    io("over_current_amps", b.overCurrentAmps);
    io("over_current_seconds", b.overCurrentSeconds);
    io("standby_watts", b.standbyWatts);
    io("use_watts", b.useWatts);
    io.parts("ports", b.ports, [](auto& j, Port& p) {
        j("name", p.name);
        j.word("direction", p.direction, kDirection);
        j("gives", p.gives);
        j("takes", p.takes);
        j("watts", p.watts);
        j("trip_amps", p.tripAmps);
    });
    io.part("sharing", [&](auto& j) {
        j.word("policy", b.sharing.policy, kSharing);
        j("total_watts", b.sharing.totalWatts);
        j("total_amps", b.sharing.totalAmps);
    });
    io.word("pass_through", b.passThrough, kPassThrough);
    io.part("light_load", [&](auto& j) {
        j("below_amps", b.lightLoad.belowAmps);
        j("after_seconds", b.lightLoad.afterSeconds);
        j("low_mode_seconds", b.lightLoad.lowModeSeconds);
    });
    io.part("recovery", [&](auto& j) {
        j.word("how", b.recovery.how, kRecovery);
        j("seconds", b.recovery.seconds);
    });
    io.word("dual_role", b.dualRole, kDualRole);
    io("renegotiate_seconds", b.renegotiateSeconds);
}

} // namespace

Result<Bank> bankFromJson(const json& j, const std::string& place) {
    if (!j.is_object())
        return otterstone::problem("bad_bank", place, "this should be an object that describes a bank.");
    Bank bank;
    Reader reader(j, place);
    members(reader, bank);
    if (reader.problem())
        return tl::unexpected(*reader.problem());
    return bank;
}

json toJson(const Bank& bank) {
    Writer writer;
    Bank copy = bank;
    members(writer, copy);
    return writer.j_;
}

Bank bankFromLabel(const label::Label& label) {
    Bank b;
    constexpr double kOrdinaryWattHours = 37.0;
    const auto rating = label::ratedEnergy(label);
    const double wattHours = rating ? rating->energy.value : kOrdinaryWattHours;
    b.cells.ampHours = 1.0;
    b.cells.ampHours = wattHours / b.cells.storedWattHours(1.0);
    b.cells.ohms = 0.3 / b.cells.ampHours; // 10 Ah: 30 mΩ
    b.cells.slowOhms = 0.5 * b.cells.ohms;
    b.ports.clear();
    double most = 0.0;
    for (const label::Port& p : label.ports) {
        Port port{p.name, p.direction, {}, {}, p.watts ? p.watts->value : 0.0, 0.0};
        if (p.gives())
            port.gives = p.tiers;
        if (p.takes())
            port.takes = p.tiers;
        for (const label::Tier& t : port.gives)
            most = std::max(most, t.amps.value);
        b.ports.push_back(std::move(port));
    }
    if (b.ports.empty())
        b.ports.push_back(Port{});
    b.overCurrentAmps = most > 0.0 ? 1.15 * most : 3.3;
    b.overCurrentSeconds = 0.5;
    b.inputWatts = label.inputWatts ? label.inputWatts->value : 18.0;
    b.chargeAmps = 0.5 * b.cells.ampHours;
    b.sharing.totalWatts = label.totalWatts ? 1.1 * label.totalWatts->value : 0.0;
    b.passThrough = label.claimsPassThrough ? PassThrough::Shares : PassThrough::Refuses;
    b.lightLoad = {0.05, 60.0, 7200.0};
    // Case temperature rises by some 15 K at full power, whatever the size.
    b.thermal.kelvinPerWatt = 60.0 / std::max(10.0, wattHours);
    return b;
}

} // namespace otterstone::model
