#include "core/behaviour/judge.h"

#include "core/behaviour/cells.h"
#include "core/behaviour/directions.h"
#include "core/behaviour/light_load.h"
#include "core/behaviour/matrix.h"
#include "core/behaviour/pad.h"
#include "core/behaviour/pass_through.h"
#include "core/behaviour/sharing.h"
#include "core/behaviour/staircase.h"
#include "core/behaviour/survey.h"

namespace otterstone::behaviour {

namespace {

Said saidBy(const Sheet& sheet, const Facts& facts) {
    switch (sheet.kind) {
    case Kind::Survey: return survey(sheet, facts).said;
    case Kind::Staircase: return staircase(sheet, facts).said;
    case Kind::Sharing: return sharing(sheet, facts).said;
    case Kind::PassThrough: return passThrough(sheet, facts).said;
    case Kind::LightLoad: return lightLoad(sheet, facts).said;
    case Kind::Matrix: return matrix(sheet, facts).said;
    case Kind::Pad: return pad(sheet, facts).said;
    case Kind::Directions: return directions(sheet, facts).said;
    case Kind::Cells: return cells(sheet, facts).said;
    case Kind::Drain:
    case Kind::Recharge: break;
    }
    return {};
}

} // namespace

Result<Said> judge(const Sheet& sheet, const Facts& facts) {
    Said said = saidBy(sheet, facts);
    if (!said.figures.empty() || !said.sentence.empty())
        return said;
    if (!said.remarks.empty())
        return tl::unexpected(said.remarks.front().problem);
    return problem("nothing_yet", findings::kindWords(sheet.kind), "no row says enough yet.",
                   "Fill in what was seen; holes may stay.");
}

} // namespace otterstone::behaviour
