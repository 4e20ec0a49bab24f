#include "book/store/history.h"

namespace otterstone::book {

Result<void> History::perform(Command command) {
    if (auto result = command.redo(); !result)
        return result;
    const QString sentence = command.removed;
    note(std::move(command));
    if (!sentence.isEmpty())
        Q_EMIT removed(sentence);
    return {};
}

void History::note(Command done) {
    commands_.resize(done_);
    commands_.push_back(std::move(done));
    ++done_;
    Q_EMIT changed();
}

Result<void> History::undo() {
    if (!canUndo())
        return {};
    if (auto result = commands_[done_ - 1].undo(); !result)
        return result;
    --done_;
    Q_EMIT changed();
    return {};
}

Result<void> History::redo() {
    if (!canRedo())
        return {};
    if (auto result = commands_[done_].redo(); !result)
        return result;
    ++done_;
    Q_EMIT changed();
    return {};
}

void History::clear() {
    if (commands_.empty())
        return;
    commands_.clear();
    done_ = 0;
    Q_EMIT changed();
}

} // namespace otterstone::book
