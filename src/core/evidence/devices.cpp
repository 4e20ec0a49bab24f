#include "core/evidence/devices.h"

#include <algorithm>
#include <cmath>

#include "core/evidence/observe.h"
#include "core/kinds/catalogue.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::evidence {

namespace {

using kinds::Observation;
using kinds::What;

bool isAsked(What what) { return std::ranges::find(kOfDevices, what) != std::end(kOfDevices); }

bool lessIsBetter(What what) { return what == What::DeviceTo80 || what == What::DeviceHeat; }

// One of this name, whose battery is the same as far as both are known.
std::size_t placeOf(std::vector<DeviceSeen>& all, const std::string& name, std::optional<double> wattHours) {
    const auto at = std::ranges::find_if(all, [&](const DeviceSeen& d) {
        return lowered(d.name) == lowered(name) && (!d.wattHours || !wattHours || sameBattery(d.wattHours, wattHours));
    });
    if (at != all.end()) {
        at->wattHours = at->wattHours ? at->wattHours : wattHours;
        return static_cast<std::size_t>(at - all.begin());
    }
    all.push_back({name, wattHours});
    return all.size() - 1;
}

// In the order of their names, whoever was seen first.
void sortByName(DevicesAcross& all) {
    std::vector<std::size_t> order(all.devices.size()), place(all.devices.size());
    for (std::size_t k = 0; k < order.size(); ++k)
        order[k] = k;
    std::ranges::sort(order, {}, [&](std::size_t k) { return lowered(all.devices[k].name); });
    std::vector<DeviceSeen> sorted;
    for (std::size_t k = 0; k < order.size(); ++k) {
        place[order[k]] = k;
        sorted.push_back(std::move(all.devices[order[k]]));
    }
    all.devices = std::move(sorted);
    for (auto& cell : all.cells)
        cell.device = place[cell.device];
    for (auto& curve : all.curves)
        curve.device = place[curve.device];
}

} // namespace

std::string askedWords(What what) {
    switch (what) {
    case What::Out: return say("power it took");
    case What::DeviceTo80: return say("time to 80 %");
    case What::DevicePace: return say("points an hour");
    case What::Charges: return say("charges of it from a full bank");
    case What::DeviceHeat: return say("heat of its back");
    default: return kinds::whatWords(what);
    }
}

DevicesAcross devicesAcross(std::span<const Evidence> banks) {
    DevicesAcross all;
    for (std::size_t bank = 0; bank < banks.size(); ++bank) {
        const Evidence& e = banks[bank];
        all.banks.push_back(e.name);
        for (Observation& o : observe(e)) {
            if (o.device.empty() || !o.value || o.value->isText || !isAsked(o.what))
                continue;
            const std::size_t device = placeOf(all.devices, o.device, o.deviceWattHours);
            all.cells.push_back({device, bank, std::move(o)});
        }
        for (const kinds::SheetRun& s : e.sheets) {
            const auto& sheet = kinds::of(s.sheet.kind).sheet;
            if (!sheet->charges)
                continue;
            for (kinds::DeviceCurve& c : sheet->charges(s.sheet, s.facts)) {
                const std::size_t device = placeOf(all.devices, c.device, c.wattHours);
                all.curves.push_back({device, bank, s.title, std::move(c)});
            }
        }
    }
    sortByName(all);
    return all;
}

const Observation* DevicesAcross::best(What what, std::size_t device, std::size_t bank) const {
    const Observation* found = nullptr;
    for (const Cell& c : cells) {
        if (c.device != device || c.bank != bank || c.seen.what != what)
            continue;
        const double value = c.seen.value->value.value();
        if (!found || (lessIsBetter(what) ? value < found->value->value.value() : value > found->value->value.value()))
            found = &c.seen;
    }
    return found;
}

std::size_t DevicesAcross::count(What what, std::size_t device, std::size_t bank) const {
    return static_cast<std::size_t>(std::ranges::count_if(
        cells, [&](const Cell& c) { return c.device == device && c.bank == bank && c.seen.what == what; }));
}

std::vector<std::size_t> DevicesAcross::leaders(What what, std::size_t device) const {
    std::vector<std::pair<std::size_t, const Observation*>> tried;
    for (std::size_t bank = 0; bank < banks.size(); ++bank) {
        if (const Observation* o = best(what, device, bank))
            tried.emplace_back(bank, o);
    }
    // Times from other percents on are not of one thing.
    const bool unlike = what == What::DeviceTo80 && std::ranges::any_of(tried, [&tried](const auto& t) {
                            return t.second->note != tried.front().second->note;
                        });
    if (tried.size() < 2 || unlike)
        return {};
    const auto better = [what](const auto& a, const auto& b) {
        const double x = a.second->value->value.value(), y = b.second->value->value.value();
        return lessIsBetter(what) ? x < y : x > y;
    };
    const Measured first = std::ranges::min_element(tried, better)->second->value->value;
    std::vector<std::size_t> all;
    for (const auto& [bank, seen] : tried) {
        const Measured apart = seen->value->value - first;
        if (seen->atLeast || // it may be as much, for all that is known
            std::fabs(apart.value()) <= std::max(apart.expanded(), 1e-9 * std::fabs(first.value())))
            all.push_back(bank);
    }
    return all;
}

} // namespace otterstone::evidence
