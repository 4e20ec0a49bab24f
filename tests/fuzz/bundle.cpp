// A bundle's book.json from anywhere: its records, one by one.
#include "book/store/json_put.h"
#include "book/store/json_records.h"
#include "core/quantity/json_text.h"
#include "entry.h"

using namespace otterstone;

namespace {

// What was read must be written as it was read, so that nothing is lost on the way out.
template<class F>
void each(const nlohmann::json& all, const char* key, F read) {
    for (const auto& j : book::list(all, key)) {
        try {
            const auto record = read(j);
            fuzz::must(read(nlohmann::json::parse(jsonText(book::toJson(record)))) == record,
                       "a record that is written is read again as it was");
        } catch (const book::Damage&) {
            // refused, with words
        }
    }
}

} // namespace

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto all = parseJson(fuzz::text(data, size), "here");
    if (!all)
        return 0;
    try {
        each(*all, "banks", book::bankFromJson);
        each(*all, "gear", book::gearFromJson);
        each(*all, "runs", book::runFromJson);
    } catch (const book::Damage&) {
        // no lists where lists should be
    }
    (void)book::mappingFromJson(*all);
    return 0;
}
