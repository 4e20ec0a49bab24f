#include "core/records/kind.h"

#include "core/quantity/say.h"

namespace otterstone::records {

namespace {

constexpr bool inOrder() {
    for (std::size_t k = 0; k < kKinds.size(); ++k) {
        if (static_cast<std::size_t>(kKinds[k].kind) != k)
            return false;
    }
    return static_cast<std::size_t>(Kind::Cells) + 1 == kKinds.size();
}
static_assert(inOrder(), "each kind has its row, in the order of Kind");

const KindName& of(Kind kind) { return kKinds[static_cast<std::size_t>(kind)]; }

} // namespace

std::string kindKey(Kind kind) { return of(kind).key; }
std::string kindWords(Kind kind) { return sayAsItStands(of(kind).words); }
std::string runWords(Kind kind) { return sayAsItStands(of(kind).run); }
bool hasSheet(Kind kind) { return of(kind).sheet; }

std::optional<Kind> kindFromKey(std::string_view key) {
    for (const KindName& k : kKinds) {
        if (key == k.key)
            return k.kind;
    }
    // Older files: a charge on the pad is written into a notebook now.
    return key == "pad" ? std::optional(Kind::Notebook) : std::nullopt;
}

const std::vector<Kind>& sheetKinds() {
    static const std::vector<Kind> kSheets = [] {
        std::vector<Kind> all;
        for (const KindName& k : kKinds) {
            if (k.sheet)
                all.push_back(k.kind);
        }
        return all;
    }();
    return kSheets;
}

} // namespace otterstone::records
