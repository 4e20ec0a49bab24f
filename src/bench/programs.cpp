#include "bench/programs.h"

#include <filesystem>

namespace otterstone::bench {

std::string programOfOurs(const std::string& name) {
    std::error_code failed;
    const std::filesystem::path here = std::filesystem::read_symlink("/proc/self/exe", failed).parent_path();
    for (const char* folder : {".", "../libexec/otterstone", "../app", "../live", "../watcher", "../standin",
                               "../src/watcher", "../src/standin"}) {
        if (std::filesystem::exists(here / folder / name, failed))
            return (here / folder / name).lexically_normal().string();
    }
    return (here / name).string();
}

} // namespace otterstone::bench
