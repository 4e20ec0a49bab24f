#include "cli/hand_over.h"

#include <unistd.h>

#include <filesystem>

#include "cli/commands.h"

namespace otterstone::cli {

int handOver(const std::string& program, std::vector<std::string> arguments, const std::string& what,
             const std::string& mend) {
    std::error_code failed;
    const std::filesystem::path here = std::filesystem::read_symlink("/proc/self/exe", failed).parent_path();
    std::filesystem::path found = here / program;
    // As it is installed, and in the build folder.
    for (const char* folder : {"../libexec/otterstone", "../app", "../live"}) {
        if (!std::filesystem::exists(found))
            found = here / folder / program;
    }
    arguments.insert(arguments.begin(), found.string());
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
