#include "cli/hand_over.h"

#include <unistd.h>

#include <filesystem>

#include "cli/commands.h"

namespace otterstone::cli {

int handOver(std::vector<std::string> arguments, const std::string& what, const std::string& mend) {
    std::error_code failed;
    const std::filesystem::path self = std::filesystem::read_symlink("/proc/self/exe", failed);
    std::filesystem::path program = self.parent_path() / "otterstone-report";
    if (!std::filesystem::exists(program))
        program = self.parent_path() / "../app/otterstone-report"; // in the build folder
    arguments.insert(arguments.begin(), program.string());
    std::vector<char*> raw;
    raw.reserve(arguments.size() + 1);
    for (std::string& a : arguments)
        raw.push_back(a.data());
    raw.push_back(nullptr);
    setenv("QT_QPA_PLATFORM", "offscreen", 1);
    execv(raw.front(), raw.data());
    return complain({"no_drawing", program.string(), what + " is not there.", mend}, kOutput);
}

} // namespace otterstone::cli
