#include "core/kinds/directions/directions.h"

#include "core/kinds/parts.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

std::string words(Direction d) {
    return d == Direction::Gives   ? "gives"
           : d == Direction::Takes ? "takes"
                                   : otterstone::say("neither gives nor takes");
}

std::string jointWords(const Joint& j) {
    return otterstone::say("{}to {}{}", (j.port.empty() ? "" : j.port + " "), j.other,
                           (j.otherPort.empty() ? "" : " " + j.otherPort));
}

// Sentences pair what happens by itself with what can be forced.
void say(const Facts& facts, DirectionsFinding& f) {
    const std::string bank = facts.bank.empty() ? otterstone::say("this bank") : facts.bank;
    std::vector<const Joint*> done;
    for (const Joint& j : f.joints) {
        if (j.how == "as it comes") {
            f.said.sentence += (f.said.sentence.empty() ? "" : " ") +
                               otterstone::say("Joined {}, {} {}", jointWords(j), bank, words(j.result));
            for (const Joint& other : f.joints) {
                if (&other == &j || jointWords(other) != jointWords(j) || other.how == "as it comes")
                    continue;
                const bool forced = other.how == "forced";
                const std::string does = words(other.result);
                f.said.sentence += other.result != j.result
                                       ? (forced ? otterstone::say("; forced it {}", does)
                                                 : otterstone::say("; with the other end plugged in first it {}", does))
                                       : (forced ? otterstone::say(", also when forced the other way")
                                                 : otterstone::say(", also with the other end plugged in first"));
            }
            f.said.sentence += ".";
        }
        Working w = figure("joint:" + jointWords(j) + ":" + j.how, jointWords(j) + ", " + j.how, "",
                           Measured(j.watts.value_or(0.0)), Unit::Watt,
                           j.result == Direction::Takes ? "bank in" : "bank out", bank + " " + words(j.result));
        w.isText = !j.watts;
        f.said.figures.push_back(std::move(w));
    }
}

} // namespace

DirectionsFinding directions(const Sheet& sheet, const Facts& facts) {
    DirectionsFinding f;
    Rows rows(sheet, f.said.remarks);
    while (rows.next()) {
        Joint j{rows.text("port"),  rows.text("other"), rows.text("other_port"),
                rows.choice("how"), Direction::Nothing, rows.number("watts")};
        const std::string result = rows.choice("result");
        if (j.other.empty() || result.empty()) {
            rows.remark(j.other.empty() ? "other" : "result", "half_row",
                        "the row needs what it was joined to and what happened.");
            continue;
        }
        if (j.how.empty())
            j.how = "as it comes";
        j.result = result == "gives" ? Direction::Gives : result == "takes" ? Direction::Takes : Direction::Nothing;
        f.joints.push_back(std::move(j));
    }
    say(facts, f);
    return f;
}

} // namespace otterstone::kinds
