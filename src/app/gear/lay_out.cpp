#include "app/gear/lay_out.h"

#include <algorithm>

namespace otterstone::app {

namespace {

void put(records::Run& run, const records::Gear& piece) {
    if (piece.kind == records::GearKind::Cable && !run.cable) {
        run.cable = piece.id;
        return;
    }
    const std::optional<records::Id> id = piece.id;
    for (const records::Stretch& s : records::kStretches) {
        if (s.kind == piece.kind && !(run.*(s.piece))) {
            run.*(s.piece) = id;
            return;
        }
    }
}

} // namespace

void layOut(records::Run& run, const std::vector<records::Gear>& drawer, const std::vector<std::string>& names) {
    for (const std::string& name : names) {
        const auto piece =
            std::find_if(drawer.begin(), drawer.end(), [&](const records::Gear& g) { return g.name == name; });
        if (piece != drawer.end())
            put(run, *piece);
    }
}

} // namespace otterstone::app
