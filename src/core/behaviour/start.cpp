#include "core/behaviour/start.h"

#include "core/quantity/format.h"

namespace otterstone::behaviour {

Sheet startingSheet(Kind kind, const label::Label& label) {
    Sheet sheet{kind, {}};
    std::vector<const label::Port*> outputs;
    for (const label::Port& p : label.ports) {
        if (p.gives())
            outputs.push_back(&p);
    }
    switch (kind) {
    case Kind::Survey:
        for (const label::Port* p : outputs) {
            for (const label::Tier& t : p->tiersFor(label::Way::Out))
                sheet.add({{"port", p->name}, {"way", "out"}, {"asked_v", showNumber(t.high.value)}});
        }
        break;
    case Kind::Sharing: {
        int round = 0;
        for (const label::Port* first : outputs) {
            for (const label::Port* second : outputs) {
                if (first == second)
                    continue;
                sheet.add({{"round", std::to_string(++round)}, {"port", first->name}});
                sheet.add({{"round", std::to_string(round)}, {"port", second->name}});
            }
        }
        break;
    }
    case Kind::PassThrough:
        for (const char* corner : {"in alone", "out alone", "both", "source removed"})
            sheet.add({{"corner", corner}});
        break;
    default: break; // nothing to expect
    }
    return sheet;
}

} // namespace otterstone::behaviour
