// What a bank is to be chosen for, a simulated bank, a campaign, and what was published, as JSON from anywhere.
#include "core/judgement/purpose.h"
#include "core/model/bank_json.h"
#include "core/plan/campaign/told.h"
#include "core/quantity/json_text.h"
#include "entry.h"
#include "report/history.h"

using namespace otterstone;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string_view text = fuzz::text(data, size);
    if (const auto purpose = judgement::purposeFromJson(text, "here"))
        fuzz::must(judgement::purposeFromJson(judgement::purposeToJson(*purpose), "again").has_value(),
                   "a purpose that is written can be read again");
    if (const auto campaign = plan::campaign::problemFromText(std::string(text), "here");
        campaign && campaign->jobs.size() <= 8) {
        plan::campaign::Told told;
        told.answer = plan::campaign::solve(*campaign, [asked = 0](const auto&) mutable { return ++asked < 5; });
        told.sure = plan::campaign::howSure(*campaign, told.answer.schedule, 5);
        fuzz::must(told.answer.schedule.makespan <= campaign->until.value_or(1e12), "a plan keeps its window");
        fuzz::must(!jsonText(toldJson(*campaign, told)).empty(), "a plan can be told");
    }
    (void)report::fromJson(std::string(text), "2026-11-27", 1);
    if (const auto json = parseJson(text, "here")) {
        (void)jsonText(*json);
        if (const auto bank = model::bankFromJson(*json))
            (void)model::toJson(*bank);
    }
    return 0;
}
