#include "cli/hand_over.h"

#include <unistd.h>

#include "bench/programs.h"
#include "cli/commands.h"

namespace otterstone::cli {

int handOver(const std::string& program, std::vector<std::string> arguments, const std::string& what,
             const std::string& mend) {
    arguments.insert(arguments.begin(), bench::programOfOurs(program));
    std::vector<char*> raw;
    raw.reserve(arguments.size() + 1);
    for (std::string& a : arguments)
        raw.push_back(a.data());
    raw.push_back(nullptr);
    setenv("QT_QPA_PLATFORM", "offscreen", 1); // neither shows a window
    execv(raw.front(), raw.data());
    return complain({"no_program", program, what + " is not there.", mend}, kOutput);
}

} // namespace otterstone::cli
