// What a notebook says, in words and figures. Each sentence stands on what was written down; what was not is named.
#include "core/quantity/say.h"
#include "core/kinds/notebook/words.h"
#include "core/kinds/traced/heat.h"

namespace otterstone::kinds {

namespace {

void warn(NotebookFinding& f) {
    auto& warnings = f.said.warnings;
    if (f.flow == Flow::Out && !f.taken.empty() && f.bankStood)
        warnings.push_back(
            {"bank_stood",
             say("The bank's display did not go down all the while, so what it charges in all cannot be told.")});
    else if (f.flow == Flow::Out && !f.taken.empty() && !f.used)
        warnings.push_back(
            {"bank_not_read",
             say("How full the bank was before the first device and after the last was not written down, so what it charges in all cannot be told.")});
    if (f.flow == Flow::Out && f.unseen)
        warnings.push_back(
            {"not_looked_at",
             say("{} was not looked at when its charge ended, so what the bank charges in all cannot be told.",
                 f.notes.devices[*f.unseen].name)});
    if (const auto& off = f.notes.offEarly)
        warnings.push_back(
            {"off_early",
             say("Its display had last said {}{}", bare(off->before),
                 (off->died
                      ? say(": that it was empty then rests on the word “died” alone.")
                      : say(": it went off for another reason, or the display misleads. If it was empty, write “died”.")))});
    else if (f.notes.wentOff && !f.toldByMeter) // a meter that read until then says so itself
        warnings.push_back(
            {"went_off", say("It went off, and nothing says how full it was then. If it was empty, write “died”.")});
    double hottest = 0.0;
    for (const Entry& e : f.notes.entries) {
        for (const auto& [where, value] : e.celsius)
            hottest = std::max(hottest, value);
    }
    if (hottest > kHeldSurfaceCelsius)
        warnings.push_back(
            {"hot_surface",
             say("A surface reached {} °C; one held for a minute or longer should stay below {} °C (IEC 62368-1, from memory).",
                 number(hottest), showNumber(kHeldSurfaceCelsius))});
    const bool charge =
        std::ranges::any_of(f.notes.entries, [](const Entry& e) { return e.milliampHours.has_value(); });
    if (f.counted && f.counted->once)
        warnings.push_back(
            {"counter_once", say("The counter was read once: it is taken as set to zero at the beginning.")});
    if (f.counted && f.flow == Flow::Unknown)
        warnings.push_back(
            {"way_unknown",
             say("Nobody wrote which way energy flowed: “out” or “in” under Way tells it, and makes this a drain or a recharge.")});
    if (charge && !f.counted)
        warnings.push_back(
            {"no_volts", say("mAh without the volts they were counted at are no energy: none is told.")});
    if (f.flow == Flow::In && f.bank && f.bank->toFull && !f.stops.empty())
        warnings.push_back({"stopped", say("It was not charged in one go, so its time is held against no claim.")});
    else if (f.flow == Flow::In && f.bank && f.bank->toFull && f.bank->from.value() > records::State::kEmpty) {
        const double least = f.bank->from.value() - f.bank->from.expanded();
        warnings.push_back({"not_from_empty",
                            std::string(least > records::State::kEmpty ? say("It did not begin empty")
                                                                       : say("It is not known that it began empty")) +
                                say(", so its time is not held against a claim from empty to full.")});
    }
}

} // namespace

void sayNotebook(const Facts& facts, NotebookFinding& f) {
    std::vector<Working> ofDevices;
    const std::size_t begins = f.said.sentence.size();
    if (f.flow == Flow::In)
        sayRecharge(facts, f);
    else if (f.sittings.empty())
        sayBankAlone(facts, f);
    else
        ofDevices = sayDevices(facts, f);
    if (f.toldByMeter && f.sittings.empty()) // the course of the bank alone is told with what it moved
        f.said.sentence.resize(begins);
    sayEnergy(facts, f);
    if (f.flow == Flow::Out)
        sayBankByDevices(facts, f);
    warn(f);
    // What is of the bank stands before what is of one device.
    f.said.figures.insert(f.said.figures.end(), std::make_move_iterator(ofDevices.begin()),
                          std::make_move_iterator(ofDevices.end()));
    std::string& s = f.said.sentence;
    s.erase(0, std::min(s.find_first_not_of(' '), s.size()));
}

} // namespace otterstone::kinds
