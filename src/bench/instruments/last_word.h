// The last word of a program that dies: "off", to every load that is connected, whatever the end is. What a run says in
// order is ScpiDevice's; this is for a crash, an abort, and an exit() from below (a display server that is gone).
#pragma once

#include <QByteArray>

namespace otterstone::bench {

/// From now on a crash (SEGV, BUS, FPE, ILL, ABRT) and any exit() first write what is prepared. Call it once, in
/// main().
void prepareLastWords();

/// What is written to a load in the end. At most 16 stand at a time; a further one has none.
class LastWord {
public:
    LastWord() = default;
    ~LastWord() { withdraw(); }
    LastWord(const LastWord&) = delete;
    LastWord& operator=(const LastWord&) = delete;

    /// `fd` is open for writing and stays so until withdraw(); `bytes` at most 250.
    void prepare(int fd, const QByteArray& bytes);
    void withdraw();

private:
    int place_ = -1;
};

} // namespace otterstone::bench
