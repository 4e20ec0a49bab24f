#include "cli/label_options.h"

#include <CLI/CLI.hpp>

#include "core/label/port_text.h"
#include "core/label/size_text.h"
#include "core/quantity/parse.h"
#include "core/records/bought.h"

namespace otterstone::cli {

namespace {

constexpr double kMostMonths = 1200.0;

// A positive number, where it is given; the first problem is kept.
template<class Make>
void read(const std::string& text, const char* option, std::optional<Problem>& wrong, Make make,
          Expect expect = Expect::AnyNumber) {
    if (text.empty() || wrong)
        return;
    const auto value = parseNumber(text, option, expect);
    if (!value)
        wrong = value.error();
    else if (!(*value > 0.0))
        wrong = Problem{"not_positive", option, "must be greater than 0.", ""};
    else
        make(*value);
}

// What has a reader of its own, where it is given.
template<class Value, class Make>
void take(const std::string& text, std::optional<Problem>& wrong, const Result<Value>& value, Make make) {
    if (text.empty() || wrong)
        return;
    if (value)
        make(*value);
    else
        wrong = value.error();
}

void ports(const LabelOptions& o, std::optional<Problem>& wrong, label::Label& l) {
    label::Port unnamed;
    read(o.portWatts, "--port-watts", wrong, [&](double v) { unnamed.watts = Watts(v); });
    for (const std::string& text : o.tiers)
        take(text, wrong, label::parseTier(text, "--tier"), [&](const label::Tier& t) { unnamed.tiers.push_back(t); });
    if (!unnamed.tiers.empty() || unnamed.watts)
        l.ports.push_back(std::move(unnamed));
    for (const std::string& text : o.ports) {
        take(text, wrong, label::parsePort(text, "--port"), [&](const label::Port& p) {
            if (label::portNamed(l, p.name))
                wrong = Problem{"bad_port", "--port", "there are two ports “" + p.name + "”.", "Name them apart."};
            l.ports.push_back(p);
        });
    }
}

} // namespace

void addLabelOptions(CLI::App& c, LabelOptions& o, bool onePort) {
    c.add_option("--mah", o.mah, "capacity, mAh");
    c.add_option("--cell-volts", o.cellVolts, "nominal cell voltage, V");
    c.add_option("--wh", o.wh, "energy, Wh");
    c.add_option("--printed", o.printed, "other printed figures, e.g. \"15.4V 18.5Wh\"");
    c.add_option("--output-mah", o.outputMah, "rated output capacity, mAh");
    c.add_option("--output-volts", o.outputVolts, "the voltage that is stated at, V");
    c.add_option("--weight-g", o.weight, "weight, g");
    c.add_option("--size-mm", o.size, "size, e.g. 106x68x25");
    if (onePort) {
        c.add_option("--tier", o.tiers, "a tier of the port, e.g. 9Vx2A");
        c.add_option("--port-watts", o.portWatts, "the port's printed watts");
    }
    c.add_option("--port", o.ports, "a port, e.g. \"C1 out 5Vx3A 9Vx3A 27W in 9Vx2A 18W shared 15W\"");
    c.add_option("--shared", o.shared, "what ports give together: \"C1 45W + A 15W; …\"");
    c.add_option("--total-watts", o.totalWatts, "the bank's printed total watts");
    c.add_option("--total-amps", o.totalAmps, "the bank's printed total amps");
    c.add_option("--input-watts", o.inputWatts, "greatest input watts");
    c.add_option("--recharge-hours", o.rechargeTime, "claimed recharge time, h");
    if (onePort)
        return; // what follows says nothing about the rest of a label
    c.add_option("--charges", o.charges, "claimed charges of devices: \"4 x 12.4 Wh tablet; 9 x torch\"");
    c.add_flag("--pass-through", o.passThrough, "it is said to give while it is charged");
    c.add_flag("--low-current", o.lowCurrent, "it is said to have a mode for small loads");
    c.add_option("--price", o.price, "e.g. \"54.90 EUR\"");
    c.add_option("--warranty-months", o.warranty, "warranty, months");
}

Result<label::Label> labelFrom(const LabelOptions& o) {
    label::Label l;
    std::optional<Problem> wrong;
    const Expect whole = Expect::WholeNumber;
    read(
        o.mah, "--mah", wrong, [&](double v) { l.capacity = AmpHours(v / 1000.0); }, whole);
    read(o.cellVolts, "--cell-volts", wrong, [&](double v) { l.cellVolts = Volts(v); });
    read(o.wh, "--wh", wrong, [&](double v) { l.energy = WattHours(v); });
    read(
        o.outputMah, "--output-mah", wrong, [&](double v) { l.outputCapacity = AmpHours(v / 1000.0); }, whole);
    read(o.outputVolts, "--output-volts", wrong, [&](double v) { l.outputVolts = Volts(v); });
    read(o.weight, "--weight-g", wrong, [&](double v) { l.weightGrams = v; });
    read(o.totalWatts, "--total-watts", wrong, [&](double v) { l.totalWatts = Watts(v); });
    read(o.totalAmps, "--total-amps", wrong, [&](double v) { l.totalAmps = Amps(v); });
    read(o.inputWatts, "--input-watts", wrong, [&](double v) { l.inputWatts = Watts(v); });
    read(
        o.warranty, "--warranty-months", wrong,
        [&](double v) {
            if (v > kMostMonths)
                wrong = Problem{"out_of_range", "--warranty-months", "nobody grants that.", "Write it in months."};
            else
                l.warrantyMonths = static_cast<int>(v);
        },
        whole);
    take(o.rechargeTime, wrong, parseDuration(o.rechargeTime, "--recharge-hours", 3600.0),
         [&](double seconds) { l.rechargeTime = Hours(seconds / 3600.0); });
    take(o.size, wrong, label::parseSize(o.size, "--size-mm"), [&](const label::SizeMm& s) { l.size = s; });
    take(o.shared, wrong, label::parseShared(o.shared, "--shared"), [&](const auto& s) { l.shared = s; });
    take(o.charges, wrong, label::parseCharges(o.charges, "--charges"), [&](const auto& c) { l.charges = c; });
    if (records::Bought paid; !o.price.empty() && !wrong) {
        if (auto read = records::parsePaid(o.price, "--price", paid); !read)
            wrong = read.error();
        l.price = paid.paid;
        l.currency = paid.currency;
    }
    ports(o, wrong, l);
    l.alsoPrinted = o.printed;
    l.claimsPassThrough = o.passThrough;
    l.claimsLowCurrentMode = o.lowCurrent;
    return wrong ? Result<label::Label>(tl::unexpected(*wrong)) : std::move(l);
}

} // namespace otterstone::cli
