// What a bank is to be chosen for, a simulated bank, and what was published, as JSON from anywhere.
#include "core/judgement/purpose.h"
#include "core/model/bank_json.h"
#include "core/quantity/json_text.h"
#include "entry.h"
#include "report/history.h"

using namespace otterstone;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string_view text = fuzz::text(data, size);
    if (const auto purpose = judgement::purposeFromJson(text, "here"))
        fuzz::must(judgement::purposeFromJson(judgement::purposeToJson(*purpose), "again").has_value(),
                   "a purpose that is written can be read again");
    (void)report::fromJson(std::string(text), "2026-11-27", 1);
    if (const auto json = parseJson(text, "here")) {
        (void)jsonText(*json);
        if (const auto bank = model::bankFromJson(*json))
            (void)model::toJson(*bank);
    }
    return 0;
}
