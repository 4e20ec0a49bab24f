// What words are looked for in when a bank is searched, on the shelf and where banks are picked.
#pragma once

#include <QString>

#include "app/theme.h"
#include "core/records/bank.h"
#include "core/records/tags.h"

namespace otterstone::app {

/// Name, tags, maker's model, markings and notes, folded.
[[nodiscard]] inline QString searchedIn(const records::Bank& bank) {
    return (qs(bank.name) + QLatin1Char(' ') + qs(records::showTags(bank.tags)) + QLatin1Char(' ') +
            qs(bank.past.bought.model) + QLatin1Char(' ') + qs(bank.past.bought.markings) + QLatin1Char(' ') +
            qs(bank.notes))
        .toCaseFolded();
}

} // namespace otterstone::app
