// Banks made up from a number: their policies are known, so what is found can be held against them.
#pragma once

#include <random>

#include "core/kinds/staircase/staircase.h"
#include "core/model/bank.h"

namespace otterstone::testing {

inline constexpr int kGeneratedBanks = 44;

inline std::vector<label::Tier> tiersOf(const char* text) { return label::parseTiers(text, "test").value(); }

/// C1 gives and takes, A gives; every fourth has a third output.
inline model::Bank generatedBank(int number) {
    std::mt19937 random(static_cast<unsigned>(20261125 + number));
    const auto between = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random);
    };
    model::Bank b;
    b.cells.series = 2;
    b.cells.ampHours = between(4.0, 9.0);
    b.cells.ohms = 0.05;
    b.chargeAmps = 12.0;
    b.inputWatts = 200.0;
    b.input = {0.1, 0.3, 0.02, 0.0};
    b.output = {0.15, 0.4, 0.03, between(0.01, 0.05)};
    b.overCurrentAmps = between(3.3, 4.6);
    const bool wide = number % 2 == 0;
    b.ports = {{"C1", label::Direction::Both, tiersOf(wide ? "5 V 3 A, 9 V 3 A, 15 V 3 A" : "5 V 3 A, 9 V 2.2 A"),
                tiersOf(number % 3 == 0 ? "5 V 3 A, 9 V 2 A" : "5 V 3 A, 9 V 3 A, 15 V 2 A"), 0.0, 0.0},
               {"A", label::Direction::Out, tiersOf("5 V 2.4 A, 9 V 2 A"), {}, 0.0, between(2.6, 3.2)}};
    if (number % 4 == 3)
        b.ports.push_back({"C2", label::Direction::Out, tiersOf("5 V 3 A, 9 V 2 A"), {}, 0.0, 0.0});
    b.sharing.policy = static_cast<model::Sharing::Policy>(number % 4);
    b.sharing.totalWatts = b.sharing.policy == model::Sharing::Policy::FirstKeeps ? 30.0 : 0.0;
    b.sharing.totalAmps = between(2.2, 3.0);
    b.passThrough = static_cast<model::PassThrough>(number % 5);
    b.lightLoad = {between(0.025, 0.11), between(20.0, 70.0), 7200.0};
    b.recovery.how = static_cast<model::Recovery::How>((number / 2) % 4);
    b.recovery.seconds = b.recovery.how == model::Recovery::How::ByItself ? between(9.0, 14.0) : between(45.0, 80.0);
    b.dualRole = number % 2 == 0 ? model::DualRole::GivesFirst : model::DualRole::TakesFirst;
    b.renegotiateSeconds = number % 3 == 0 ? 0.0 : between(0.3, 1.2);
    b.standbyWatts = 0.02;
    return b;
}

/// An honest label for it.
inline label::Label labelOf(const model::Bank& b) {
    label::Label l;
    l.energy = WattHours(b.cells.storedWattHours(1.0));
    for (const model::Port& p : b.ports)
        l.ports.push_back({p.name, p.direction, p.gives, {}, {}});
    return l;
}

inline kinds::Recovery expected(model::Recovery::How how) {
    switch (how) {
    case model::Recovery::How::ByItself: return kinds::Recovery::ByItself;
    case model::Recovery::How::Replug: return kinds::Recovery::Replug;
    case model::Recovery::How::Button: return kinds::Recovery::Button;
    case model::Recovery::How::WaitThenReplug: break;
    }
    return kinds::Recovery::WaitThenReplug;
}

} // namespace otterstone::testing
