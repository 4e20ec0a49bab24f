#include "core/model/heat.h"

#include <algorithm>
#include <cmath>

namespace otterstone::model {

namespace {

constexpr double kShortestSeconds = 1.0; // a bank without heat capacity would leave the step undefined

} // namespace

void Heat::step(double watts, double seconds) {
    const double settled = ambient_ + watts * thermal_.kelvinPerWatt;
    const double whole = std::max(kShortestSeconds, thermal_.seconds);
    if (thermal_.coreKelvinPerWatt <= 0.0) {
        case_ += (settled - case_) * -std::expm1(-seconds / whole);
        core_ = case_;
    } else {
        // C₁·dT₁/dt = P − (T₁ − T₂)/R₁;  C₂·dT₂/dt = (T₁ − T₂)/R₁ − (T₂ − Tₐ)/R₂: the trapezoidal rule, stable at any
        // step.
        const double capacity = whole / thermal_.kelvinPerWatt;
        const double a = seconds / (2.0 * capacity * thermal_.coreShare * thermal_.coreKelvinPerWatt);
        const double b = seconds / (2.0 * capacity * (1.0 - thermal_.coreShare) * thermal_.coreKelvinPerWatt);
        const double c = seconds / (2.0 * capacity * (1.0 - thermal_.coreShare) * thermal_.kelvinPerWatt);
        const double first = core_ - a * (core_ - case_) + watts * seconds / (capacity * thermal_.coreShare);
        const double second = case_ + b * (core_ - case_) - c * (case_ - ambient_) + c * ambient_;
        const double determinant = (1.0 + a) * (1.0 + b + c) - a * b;
        core_ = (first * (1.0 + b + c) + a * second) / determinant;
        case_ = ((1.0 + a) * second + b * first) / determinant;
    }
    if (core_ >= thermal_.tripCelsius)
        tripped_ = true;
    else if (thermal_.restartCelsius > 0.0 && core_ <= thermal_.restartCelsius)
        tripped_ = false;
}

} // namespace otterstone::model
