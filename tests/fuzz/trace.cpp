// The sums over any trace at all: odd numbers, odd lengths, odd windows.
#include "core/kinds/traced/finding.h"
#include "entry.h"
#include "finite.h"

using namespace otterstone;

namespace {

constexpr std::size_t kMostSamples = 400;

// As an instrument would say it, or any double.
double reading(fuzz::Bytes& in, double step) {
    const unsigned code = in.byte();
    if (code == 255u)
        return in.number();
    return static_cast<double>(code) * step;
}

} // namespace

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    fuzz::Bytes in(data, size);
    const unsigned columns = in.byte(), options = in.byte();
    setup::Setup setup;
    setup.run = "fuzz";
    if (options & 1u)
        setup.meter = path::parseMeter("V 0.5 % + 2 mV; A 1 % + 5 mA", "fuzz").value_or(path::Meter{});
    if (options & 2u)
        setup.pathOhms = Measured(0.1, 0.01, ErrorSource::ofBench("cable", "cable"));
    if (options & 4u)
        setup.from = reading(in, 10.0);
    if (options & 8u)
        setup.to = reading(in, 100.0);
    if (options & 16u)
        setup.clock = Measured(reading(in, 0.01), 0.001, ErrorSource::ofBench("clock", "clock"));
    if (options & 32u) {
        label::Label printed;
        printed.energy = WattHours(reading(in, 0.5));
        printed.capacity = AmpHours(reading(in, 0.1));
        printed.cellVolts = Volts(reading(in, 0.1));
        setup::setRating(setup, printed);
    }
    if (options & 64u)
        setup.hand = options & 128u ? trace::Between::Held : trace::Between::Joined;
    trace::Trace t;
    double now = 0.0;
    while (in.left() > 0 && t.size() < kMostSamples) {
        const unsigned code = in.byte();
        now = code == 255u ? in.number() : now + static_cast<double>(code) * 0.5;
        t.time.push_back(now);
        if (columns & 1u)
            t.watts.push_back(reading(in, 0.2));
        else {
            const double volts = reading(in, 0.1);
            t.volts.append({volts});
            t.amps.append({reading(in, 0.02)});
        }
        if (columns & 2u)
            t.temperature.push_back(reading(in, 0.5));
        if (columns & 4u)
            t.percent.push_back(reading(in, 0.5));
    }
    if (columns & 8u) // a column of another length
        t.temperature.append(trace::Column(in.byte(), 20.0));
    for (const auto kind : {records::Kind::Drain, records::Kind::Recharge}) {
        if (const auto finding = kinds::analyse(t, kind, setup))
            fuzz::mustBeFinite(*finding);
    }
    return 0;
}
