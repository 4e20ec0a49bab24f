#include "core/kinds/catalogue.h"

#include <array>

#include "core/kinds/cells/cells.h"
#include "core/kinds/directions/directions.h"
#include "core/kinds/light_load/light_load.h"
#include "core/kinds/matrix/matrix.h"
#include "core/kinds/notebook/notebook.h"
#include "core/kinds/pass_through/pass_through.h"
#include "core/kinds/seen.h"
#include "core/kinds/sharing/sharing.h"
#include "core/kinds/staircase/staircase.h"
#include "core/kinds/survey/survey.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

using Also = AlsoRestsOn;

const std::array<KindRow, kKinds.size()>& catalogue() {
    static const std::array<KindRow, kKinds.size()> kAll{
        {{Kind::Drain, TraceKind{observeDrain}, {}},
         {Kind::Recharge, TraceKind{observeRecharge}, {}},
         {Kind::Notebook, {}, notebookKind(), Also::Devices},
         {Kind::Survey, {}, surveyKind()},
         {Kind::Staircase, {}, staircaseKind()},
         {Kind::Sharing, {}, sharingKind()},
         {Kind::PassThrough, {}, passThroughKind(), Also::BanksRoundTrip},
         {Kind::LightLoad, {}, lightLoadKind()},
         {Kind::Matrix, {}, matrixKind(), Also::ChargersAndCables},
         {Kind::Directions, {}, directionsKind()},
         {Kind::Cells, {}, cellsKind()}}};
    return kAll;
}

} // namespace

const KindRow& of(Kind kind) { return catalogue()[static_cast<std::size_t>(kind)]; }

Sheet startingSheet(Kind kind, const label::Label& label) {
    Sheet sheet{kind, {}};
    const KindRow& row = of(kind);
    if (row.sheet && row.sheet->begin)
        row.sheet->begin(sheet, label);
    return sheet;
}

const std::vector<Column>& columnsOf(Kind kind) {
    static const std::vector<std::vector<Column>> kAll = [] {
        std::vector<std::vector<Column>> all;
        for (const KindRow& row : catalogue())
            all.push_back(row.sheet ? row.sheet->columns() : std::vector<Column>());
        return all;
    }();
    return kAll[static_cast<std::size_t>(kind)];
}

Result<Said> judge(const SheetKind& kind, const Sheet& sheet, const Facts& facts) {
    Said said = kind.judge(sheet, facts);
    if (!said.figures.empty() || !said.sentence.empty())
        return said;
    if (!said.remarks.empty())
        return tl::unexpected(said.remarks.front().problem);
    if (!said.warnings.empty() && !sheet.rows.empty())
        return problem("nothing_yet", kindWords(sheet.kind),
                       say("nothing can be said from these rows yet: {}", said.warnings.front().text), "");
    return problem("nothing_yet", kindWords(sheet.kind),
                   "nothing can be said from these rows yet: none has the readings its columns ask for.",
                   "Fill in what was seen; holes may stay.");
}

Result<Said> judge(const Sheet& sheet, const Facts& facts) { return judge(*of(sheet.kind).sheet, sheet, facts); }

bool isMetered(const Sheet& sheet) {
    const auto& metered = of(sheet.kind).sheet->metered;
    return metered && metered->has(sheet);
}

Kind servedAs(const records::Run& run) {
    return run.sheet && isMetered(*run.sheet) ? of(run.kind).sheet->metered->as(*run.sheet) : run.kind;
}

bool saysHowItBegan(const records::Run& run) {
    if (run.ends.began || !run.sheet)
        return run.ends.began.has_value();
    return hasSheet(servedAs(run)) || of(run.kind).sheet->metered->saysBegan(*run.sheet);
}

Finding findingOf(const Sheet& sheet, Said said, const Facts& facts, const Setup& setup) {
    if (isMetered(sheet)) {
        if (auto found = of(sheet.kind).sheet->metered->judge(sheet, facts, setup)) {
            if (*found)
                return std::move(**found);
            said.warnings.push_back({found->error().code, found->error().sentence()});
        }
    }
    return ofSheet(sheet.kind, std::move(said));
}

void observe(const SheetKind& kind, const SheetRun& run, std::vector<Observation>& all) {
    if (!kind.observe)
        return;
    Seen seen(run, all);
    kind.observe(seen);
}

} // namespace otterstone::kinds
