#include "core/model/hands.h"

#include <algorithm>
#include <cmath>

#include "core/model/bench.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::model {

namespace {

using records::Kind;
using records::Sheet;

constexpr double kStep = 0.1;                    // s
constexpr double kSettle = 8.0;                  // s a step is held before it is read
constexpr double kFlows = 0.02;                  // A
constexpr double kReplugAfter = 15.0;            // s without anything coming back by itself
constexpr double kWaits[] = {30.0, 60.0, 120.0}; // s, before further replugs

void pass(Bench& bench, double seconds) {
    for (double left = seconds; left > kStep / 2.0; left -= kStep)
        bench.step(kStep);
}

std::string written(double v, const Tools& tools) { return plainDigits(v, tools.decimals); }

Load amps(double a) { return {Load::Mode::ConstantCurrent, a, true}; }

// A lone load, read once it has settled.
Flow loaded(Bench& bench, std::size_t port, double volts, double a, const Tools& tools) {
    bench.plugLoad(port, tools.cable, {volts, 5.0});
    bench.setLoad(port, amps(a));
    pass(bench, kSettle);
    return bench.flow(port);
}

std::optional<label::Tier> promised(const label::Label& label, const std::string& port, double volts) {
    const label::Port* p = label::portNamed(label, port);
    std::optional<label::Tier> best;
    for (const label::Tier& t : p && p->gives() ? p->tiers : std::vector<label::Tier>{}) {
        if (volts >= t.low.value - 0.3 && volts <= t.high.value + 0.3 && (!best || t.amps > best->amps))
            best = t;
    }
    if (best && p->watts)
        best->amps = std::min(best->amps, Amps(p->watts->value / volts));
    return best;
}

bool gives(const Port& p) { return p.direction != label::Direction::In; }

} // namespace

Sheet surveyByHand(const Bank& bank, const label::Label& label, const Tools& tools) {
    Sheet sheet{Kind::Survey, {}};
    for (std::size_t k = 0; k < bank.ports.size(); ++k) {
        if (!gives(bank.ports[k]) || bank.ports[k].gives.empty())
            continue;
        for (const double volts : tools.askVolts) {
            Bench bench(bank, tools.stateOfCharge, tools.ambient);
            const auto tier = promised(label, bank.ports[k].name, volts);
            const Flow f = loaded(bench, k, volts, 0.1, tools);
            if (std::fabs(f.tierVolts - volts) > 0.3) {
                kinds::addRow(
                    sheet,
                    {{"port", bank.ports[k].name}, {"way", "out"}, {"asked_v", showNumber(volts)}, {"offered", "no"}});
                continue;
            }
            const double a = tier ? tier->amps.value : 1.0;
            bench.setLoad(k, amps(a));
            pass(bench, kSettle);
            const Flow& g = bench.flow(k);
            kinds::addRow(sheet, {{"port", bank.ports[k].name},
                                  {"way", "out"},
                                  {"asked_v", showNumber(volts)},
                                  {"offered", "yes"},
                                  {"amps", written(g.amps > kFlows ? g.amps : a, tools)},
                                  {"volts", written(g.farVolts, tools)},
                                  {"handshake", volts > 5.5 ? "USB PD fixed" : "Type-C current"}});
        }
    }
    return sheet;
}

Sheet staircaseByHand(const Bank& bank, std::size_t port, double volts, double ratedAmps, const Tools& tools,
                      double stepShare) {
    Sheet sheet{Kind::Staircase, {}};
    Bench bench(bank, tools.stateOfCharge, tools.ambient);
    bench.plugLoad(port, tools.cable, {volts, 10.0});
    const std::string name = bank.ports[port].name, asked = showNumber(volts);
    const auto flows = [&] { return bench.flow(port).amps > kFlows; };
    for (double a = 0.2 * ratedAmps; a <= 2.0 * ratedAmps + 1e-9; a += stepShare * ratedAmps) {
        bench.setLoad(port, amps(a));
        double gone = 0.0; // since it went off
        for (double t = 0.0; t < kSettle; t += kStep) {
            bench.step(kStep);
            gone = flows() ? 0.0 : gone + kStep;
        }
        if (gone == 0.0) {
            kinds::addRow(sheet, {{"port", name},
                                  {"asked_v", asked},
                                  {"amps", written(a, tools)},
                                  {"volts", written(bench.flow(port).farVolts, tools)},
                                  {"state", "holds"}});
            continue;
        }
        // Gone: a small load shows what brings it back.
        bench.setLoad(port, amps(0.2 * ratedAmps));
        std::string back = "not yet";
        double after = gone;
        for (; after < kReplugAfter && !flows(); after += kStep)
            bench.step(kStep);
        if (flows()) {
            back = "by itself";
        } else {
            const auto replug = [&] {
                bench.plugLoad(port, tools.cable, {volts, 10.0});
                bench.setLoad(port, amps(0.2 * ratedAmps));
                pass(bench, 3.0);
            };
            bench.pressButton();
            pass(bench, 3.0);
            if (flows()) {
                back = "button";
            } else {
                replug();
                if (flows())
                    back = "replug";
                for (const double wait : kWaits) {
                    if (flows())
                        break;
                    pass(bench, wait);
                    after += wait;
                    replug();
                    if (flows())
                        back = "wait, then replug";
                }
            }
        }
        kinds::addRow(
            sheet, {{"port", name},
                    {"asked_v", asked},
                    {"amps", written(a, tools)},
                    {"volts", "0"},
                    {"state", bench.off(port) == Off::TooHot ? "hot" : "tripped"},
                    {"back", back},
                    {"after",
                     back == "by itself" || back == "wait, then replug" ? showNumber(std::round(after)) + " s" : ""}});
        break;
    }
    return sheet;
}

Sheet sharingByHand(const Bank& bank, const Tools& tools, double share) {
    Sheet sheet{Kind::Sharing, {}};
    int round = 0;
    for (std::size_t a = 0; a < bank.ports.size(); ++a) {
        for (std::size_t b = 0; b < bank.ports.size(); ++b) {
            const auto best = [&](std::size_t k) {
                return gives(bank.ports[k]) ? label::bestTier(bank.ports[k].gives) : std::nullopt;
            };
            if (a == b || !best(a) || !best(b))
                continue;
            ++round;
            const auto draw = [&](std::size_t k) { return share * best(k)->amps.value; };
            Flow alone[2];
            for (const std::size_t which : {0u, 1u}) {
                Bench bench(bank, tools.stateOfCharge, tools.ambient);
                const std::size_t k = which == 0 ? a : b;
                alone[which] = loaded(bench, k, best(k)->high.value, draw(k), tools);
            }
            Bench bench(bank, tools.stateOfCharge, tools.ambient);
            (void)loaded(bench, a, best(a)->high.value, draw(a), tools);
            (void)loaded(bench, b, best(b)->high.value, draw(b), tools);
            // What a device would do: it takes what it is offered, so a load that tripped the port is turned down and
            // plugged in anew.
            double drawn[2] = {draw(a), draw(b)};
            for (int turns = 0; turns < 200 && (bench.off(a) == Off::Tripped || bench.off(b) == Off::Tripped);
                 ++turns) {
                for (const std::size_t which : {0u, 1u}) {
                    const std::size_t k = which == 0 ? a : b;
                    if (bench.off(k) != Off::Tripped)
                        continue;
                    bench.plugLoad(k, tools.cable, {best(k)->high.value, 5.0});
                    bench.pressButton();
                    if (bench.off(k) == Off::Tripped) { // needs its time
                        bench.setLoad(k, {});
                        pass(bench, 15.0);
                        continue;
                    }
                    drawn[which] *= 0.97;
                    bench.setLoad(k, amps(drawn[which]));
                    pass(bench, 1.0);
                }
            }
            pass(bench, kSettle);
            for (const std::size_t which : {0u, 1u}) {
                const std::size_t k = which == 0 ? a : b;
                const Flow& f = bench.flow(k);
                kinds::addRow(sheet, {{"round", std::to_string(round)},
                                      {"port", bank.ports[k].name},
                                      {"alone_v", written(alone[which].farVolts, tools)},
                                      {"alone_a", written(alone[which].amps, tools)},
                                      {"together_v", written(f.farVolts, tools)},
                                      {"together_a", written(f.amps, tools)}});
            }
        }
    }
    return sheet;
}

Sheet passThroughByHand(const Bank& bank, std::size_t in, std::size_t out, const Tools& tools) {
    Sheet sheet{Kind::PassThrough, {}};
    const auto tier = label::bestTier(bank.ports[out].gives).value_or(label::Tier{Volts(5.0), Volts(5.0), Amps(2.0)});
    const double a = 0.5 * tier.amps.value;
    const auto put = [&](const char* corner, const Flow* into, const Flow* from) {
        std::vector<std::pair<std::string_view, std::string>> cells{{"corner", corner}};
        if (into) {
            cells.emplace_back("in_v", written(into->portVolts, tools));
            cells.emplace_back("in_a", written(into->amps, tools));
        }
        if (from) {
            cells.emplace_back("out_v", written(from->farVolts, tools));
            cells.emplace_back("out_a", written(from->amps, tools));
        }
        kinds::addRow(sheet, cells);
    };
    const auto plugLoad = [&](Bench& bench) {
        bench.plugLoad(out, tools.cable, {tier.high.value, 5.0});
        bench.setLoad(out, amps(a));
    };
    {
        Bench bench(bank, tools.stateOfCharge, tools.ambient);
        bench.plugCharger(in, tools.charger, tools.cable);
        pass(bench, kSettle);
        put("in alone", &bench.flow(in), nullptr);
    }
    {
        Bench bench(bank, tools.stateOfCharge, tools.ambient);
        plugLoad(bench);
        pass(bench, kSettle);
        put("out alone", nullptr, &bench.flow(out));
    }
    Bench bench(bank, tools.stateOfCharge, tools.ambient);
    plugLoad(bench);
    bench.plugCharger(in, tools.charger, tools.cable);
    pass(bench, kSettle);
    put("both", &bench.flow(in), &bench.flow(out));
    if (bench.flow(out).amps <= kFlows)
        return sheet; // nothing runs that could drop out
    bench.unplug(in);
    double away = 0.0;
    bool went = false;
    for (double t = 0.0; t < 60.0; t += kStep / 10.0) {
        bench.step(kStep / 10.0);
        if (bench.flow(out).amps <= kFlows) {
            went = true;
            away += kStep / 10.0;
        } else if (went) {
            break;
        }
    }
    const bool back = bench.flow(out).amps > kFlows;
    kinds::addRow(sheet, {{"corner", "source removed"},
                          {"time", went && back ? say("{} ms", showNumber(away * 1000.0, 3)) : ""},
                          {"back", !went  ? "never went off"
                                   : back ? "by itself"
                                          : "stays off"}});
    return sheet;
}

Sheet lightLoadByHand(const Bank& bank, std::size_t port, const Tools& tools, double watch, bool lowMode) {
    Sheet sheet{Kind::LightLoad, {}};
    const auto ladder = [&](bool low) {
        for (const double a : {0.20, 0.15, 0.12, 0.10, 0.09, 0.08, 0.07, 0.06, 0.05, 0.04, 0.03, 0.02, 0.01}) {
            Bench bench(bank, tools.stateOfCharge, tools.ambient);
            bench.setLowCurrentMode(low);
            bench.plugLoad(port, tools.cable, {5.0, 3.0});
            bench.setLoad(port, amps(a));
            double t = 0.0;
            for (; t < watch && bench.off(port) != Off::Asleep; t += kStep)
                bench.step(kStep);
            const bool off = bench.off(port) == Off::Asleep;
            kinds::addRow(sheet, {{"what", low ? "load, low-current mode" : "load"},
                                  {"amps", showNumber(a)},
                                  {"state", off ? "goes off" : "stays on"},
                                  {"after", showNumber(std::round(t)) + " s"}});
            if (low && off)
                break;
        }
    };
    ladder(false);
    if (lowMode)
        ladder(true);
    if (bank.standbyWatts > 0.0)
        kinds::addRow(sheet, {{"what", "idle bank"}, {"watts", showNumber(bank.standbyWatts, 2)}});
    if (tools.charger.idleWatts > 0.0)
        kinds::addRow(sheet, {{"what", "idle charger"}, {"watts", showNumber(tools.charger.idleWatts, 2)}});
    return sheet;
}

Sheet matrixByHand(const Bank& bank, std::size_t port, const std::vector<NamedCharger>& chargers,
                   const std::vector<NamedCable>& cables, const Tools& tools) {
    Sheet sheet{Kind::Matrix, {}};
    for (const NamedCharger& charger : chargers) {
        for (const NamedCable& cable : cables) {
            Bench bench(bank, tools.stateOfCharge, tools.ambient);
            bench.plugCharger(port, charger.charger, cable.cable);
            pass(bench, kSettle);
            const Flow& f = bench.flow(port);
            kinds::addRow(sheet, {{"charger", charger.name},
                                  {"cable", cable.name},
                                  {"port", bank.ports[port].name},
                                  {"volts", written(f.portVolts, tools)},
                                  {"amps", written(f.amps, tools)},
                                  {"watts", written(f.portVolts * f.amps, tools)}});
        }
    }
    return sheet;
}

Sheet directionsByHand(const Bank& bank, std::size_t port, const Bank& other, const std::string& otherName,
                       const Tools& tools) {
    Sheet sheet{Kind::Directions, {}};
    for (const bool forced : {false, true}) {
        Bench bench(bank, tools.stateOfCharge, tools.ambient);
        bench.plugDevice(port, other, 0.5, tools.cable, forced);
        pass(bench, kSettle);
        const Flow& f = bench.flow(port);
        kinds::addRow(sheet, {{"port", bank.ports[port].name},
                              {"other", otherName},
                              {"other_port", other.ports.empty() ? "" : other.ports.front().name},
                              {"how", forced ? "forced" : "as it comes"},
                              {"result", f.amps <= kFlows ? "nothing"
                                         : f.in           ? "takes"
                                                          : "gives"},
                              {"watts", f.amps > kFlows ? written(f.portVolts * f.amps, tools) : ""}});
    }
    return sheet;
}

} // namespace otterstone::model
