// What a book did not take of a live run, in a file of its own, and on its way back.
#pragma once

#include <QString>

#include "book/store/capture.h"

namespace otterstone::book {

/// All that was not written: every trace's samples, the stamps, why the run ended, and which run of which book it is.
struct Rescue {
    Id run = kNew;
    std::string startedAt;           ///< of that run, so that another book's run of the same number is none
    std::vector<std::string> points; ///< of its traces, the main one first
    Batch batch;
    Closing closing;
};

/// JSON; nothing of it is lost: a column that was not recorded is left out, a sample that lacks one is null. Problem:
/// cannot_write.
[[nodiscard]] Result<void> writeRescue(const QString& path, const Rescue& rescue);
/// Problems: unreadable, and what parseObject and the figures' limits refuse.
[[nodiscard]] Result<Rescue> readRescue(const QString& path);
/// Whether a file is one, by its first bytes.
[[nodiscard]] bool isRescue(const QString& path);
/// Puts it behind what the run has already, and closes the run. Twice is refused, and changes nothing. Problems: those
/// of readRescue, no_run, already_in, and those of Capture.
[[nodiscard]] Result<Id> bringIn(const QString& book, const QString& rescue);

} // namespace otterstone::book
