// What is printed on banks, chargers and meters.
#include "core/label/decoder.h"
#include "core/label/label.h"
#include "core/label/port_text.h"
#include "core/label/rating.h"
#include "core/label/size_text.h"
#include "core/path/meter.h"
#include "core/plan/use.h"
#include "entry.h"

using namespace otterstone;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    fuzz::Bytes in(data, size);
    const unsigned which = in.byte();
    label::Label l;
    if (which & 1u)
        l.capacity = AmpHours(in.number());
    if (which & 2u)
        l.cellVolts = Volts(in.number());
    if (which & 4u)
        l.energy = WattHours(in.number());
    const std::string_view text = in.rest();
    l.alsoPrinted = text;
    if (const auto tiers = label::parseTiers(text, "here")) {
        for (const label::Tier& t : *tiers)
            fuzz::must(std::isfinite(t.low.value) && std::isfinite(t.high.value) && std::isfinite(t.amps.value),
                       "a tier is finite");
        const std::string shown = label::showTiers(*tiers);
        fuzz::must(label::parseTiers(shown, "here").has_value(), "a tier that is shown can be read again");
        l.ports.push_back({"C", label::Direction::Both, *tiers, {}, {}});
    }
    if (const auto shared = label::parseShared(text, "here"))
        (void)label::showShared(*shared);
    if (const auto port = label::parsePort(text, "here")) {
        const auto again = label::parsePort(label::showPort(*port), "here");
        fuzz::must(again.has_value(), "a port that is shown can be read again");
        fuzz::must(again->name == port->name && again->direction == port->direction &&
                       again->tiers.size() == port->tiers.size(),
                   "and is the same");
    }
    if (const auto sides = label::parseSize(text, "here"))
        (void)label::showSize(*sides);
    if (const auto charges = label::parseCharges(text, "here"))
        (void)label::showCharges(*charges);
    if (const auto meter = path::parseMeter(text, "here"))
        (void)path::showMeter(*meter);
    if (const auto need = plan::parseNeed(text, "here"))
        (void)plan::showNeed(*need);
    for (const auto& printed : label::scanPrinted(text))
        fuzz::must(std::isfinite(printed.low) && std::isfinite(printed.high), "what is printed is finite");
    (void)label::decode(l);
    (void)label::ratedEnergy(l);
    return 0;
}
