#include "report/content.h"

#include "core/quantity/version.h"

namespace otterstone::report {

Cell Cell::words(Spoken text) {
    Cell c;
    c.text = std::move(text).text();
    return c;
}

Cell Cell::figure(const Working& w) {
    Cell c;
    if (w.isText) {
        c.text = w.note;
        return c;
    }
    c.text = w.shown();
    c.value = w.value.value();
    if (w.value.hasDoubt() && !w.partialDoubt)
        c.expanded = w.value.expanded();
    c.unit = w.unit == Unit::Share ? "fraction" : symbol(w.unit);
    return c;
}

std::string imprint(const Content& c) {
    return say("Otterstone {}, method version {}, {}", version(), std::to_string(c.method), c.at);
}

std::vector<const Table*> tablesOf(const Content& content, std::string_view key) {
    std::vector<const Table*> all;
    for (const Section& s : content.sections) {
        for (const Block& b : s.blocks) {
            if (const auto* table = std::get_if<Table>(&b); table && table->key == key)
                all.push_back(table);
        }
    }
    return all;
}

} // namespace otterstone::report
