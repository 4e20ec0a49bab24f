// otterstone-cli devices: what the devices of a book took on its banks, side by side.
#include <iostream>

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

#include "book/store/together.h"
#include "cli/bench_options.h"
#include "cli/commands.h"
#include "cli/options.h"
#include "core/evidence/devices.h"
#include "core/kinds/traced/json.h"
#include "terminal/busy.h"

namespace otterstone::cli {

namespace {

using nlohmann::json;

struct DevicesOptions {
    bool json = false;
    std::string book, device;
};

json asJson(const evidence::DevicesAcross& all, std::size_t d) {
    json figures = json::array(), curves = json::array();
    for (const kinds::What what : evidence::kOfDevices) {
        const auto leaders = all.leaders(what, d);
        for (std::size_t b = 0; b < all.banks.size(); ++b) {
            const kinds::Observation* o = all.best(what, d, b);
            if (!o)
                continue;
            json j = shownJson(*o->value);
            j.update({{"what", kinds::whatKey(what)},
                      {"bank", all.banks[b]},
                      {"at_least", o->atLeast},
                      {"best", std::ranges::find(leaders, b) != leaders.end()},
                      {"seen", all.count(what, d, b)},
                      {"run", o->run},
                      {"note", o->note}});
            figures.push_back(std::move(j));
        }
    }
    for (const auto& c : all.curves) {
        if (c.device == d)
            curves.push_back({{"bank", all.banks[c.bank]},
                              {"run", c.title},
                              {"way", c.curve.way},
                              {"seconds_percent", c.curve.points}});
    }
    const auto& device = all.devices[d];
    return {{"device", device.name},
            {"battery_wh", device.wattHours ? json(*device.wattHours) : json(nullptr)},
            {"figures", figures},
            {"curves", curves}};
}

void printDevice(const evidence::DevicesAcross& all, std::size_t d) {
    std::cout << all.devices[d].name << "\n";
    for (const kinds::What what : evidence::kOfDevices) {
        const auto leaders = all.leaders(what, d);
        for (std::size_t b = 0; b < all.banks.size(); ++b) {
            if (const kinds::Observation* o = all.best(what, d, b))
                std::cout << "  " << evidence::askedWords(what) << "\t" << all.banks[b] << "\t"
                          << (o->atLeast ? "at least " : "") << o->value->shown()
                          << (std::ranges::find(leaders, b) != leaders.end() ? ", the best" : "")
                          << (o->note.empty() ? "" : "\t" + o->note) << "\n";
        }
    }
}

int devices(const DevicesOptions& o) {
    return guard([&] {
        const auto banks = terminal::busyWith(terminal::kJudging,
                                              [&] { return book::gatherEvidence(QString::fromStdString(o.book), {}); });
        if (!banks)
            return complain(banks.error());
        const evidence::DevicesAcross all = evidence::devicesAcross(*banks);
        json out = json::array();
        for (std::size_t d = 0; d < all.devices.size(); ++d) {
            if (!o.device.empty() && all.devices[d].name != o.device)
                continue;
            out.push_back(asJson(all, d));
            if (!o.json)
                printDevice(all, d);
        }
        if (out.empty())
            return complain(
                {"no_device", o.book,
                 o.device.empty() ? "no run says what a device took." : "no run says what “" + o.device + "” took.",
                 "A notebook with a device's percent, or a matrix into devices, does."});
        return o.json ? print({{"devices", out}}) : finish(kDone);
    });
}

} // namespace

void addDevicesCommand(CLI::App& app, int& code) {
    static DevicesOptions o;
    auto* c = app.add_subcommand("devices", "What devices took on the banks of a book, side by side, and their curves");
    c->add_option("book", o.book, "the book")->required();
    c->add_option("device", o.device, "one of them, by its name");
    c->add_flag("--json", o.json, "print one JSON object");
    c->callback([&code] { code = devices(o); });
}

} // namespace otterstone::cli
