// A photograph or a file that belongs to a bank or to a run, without what it holds.
#pragma once

#include <string>

#include "core/records/bank.h"

namespace otterstone::records {

struct Attachment {
    Id id = kNew;
    Id bank = kNew, run = kNew; ///< to which of the two it belongs; the other is kNew
    std::string name;           ///< of the file it came from, without folders
    std::string caption;
    std::string type; ///< "image/jpeg", "application/pdf"
    int width = 0, height = 0;
    long long size = 0;   ///< bytes
    std::string addedAt;  ///< ISO 8601
    bool onSheet = false; ///< shown on the bank's sheet
    [[nodiscard]] bool isPicture() const { return type.starts_with("image/"); }
    bool operator==(const Attachment&) const = default;
};

} // namespace otterstone::records
