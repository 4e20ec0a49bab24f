// Undo and redo: every change the window makes to a book goes through here as a command.
#pragma once

#include <functional>
#include <vector>

#include <QObject>
#include <QString>

#include "core/quantity/problem.h"

namespace otterstone::book {

/// A change that can be done, undone and done again. Either step may fail (disk full); then nothing moved.
struct Command {
    QString text; ///< "change the label of Pebble 5"
    std::function<Result<void>()> redo;
    std::function<Result<void>()> undo;
    QString removed = {}; ///< as a sentence, when something is not seen any more: "Pebble 5 is off the shelf."
};

class History : public QObject {
    Q_OBJECT

public:
    /// Does the command and, when that worked, drops what could have been redone.
    Result<void> perform(Command command);
    /// Keeps a command that was done already, by a worker's thread.
    void note(Command done);
    Result<void> undo();
    Result<void> redo();
    void clear();
    [[nodiscard]] bool canUndo() const { return done_ > 0; }
    [[nodiscard]] bool canRedo() const { return done_ < commands_.size(); }
    [[nodiscard]] QString undoText() const { return canUndo() ? commands_[done_ - 1].text : QString(); }
    [[nodiscard]] QString redoText() const { return canRedo() ? commands_[done_].text : QString(); }

Q_SIGNALS:
    void changed();
    /// After changed(), when a command was done that removes something.
    void removed(const QString& sentence);

private:
    std::vector<Command> commands_;
    std::size_t done_ = 0;
};

} // namespace otterstone::book
