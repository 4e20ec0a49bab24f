// Runs an entry on kept inputs: files, or all files of folders. The suite's way to keep what a search once found.
#include <filesystem>
#include <fstream>
#include <iterator>
#include <vector>

#include "entry.h"

namespace fs = std::filesystem;

int main(int argc, char** argv) {
    std::vector<fs::path> files;
    for (int k = 1; k < argc; ++k) {
        if (fs::is_directory(argv[k])) {
            for (const auto& entry : fs::recursive_directory_iterator(argv[k])) {
                if (entry.is_regular_file())
                    files.push_back(entry.path());
            }
        } else {
            files.emplace_back(argv[k]);
        }
    }
    for (const fs::path& file : files) {
        std::ifstream in(file, std::ifstream::binary);
        const std::string bytes((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>());
        std::fprintf(stderr, "%s\n", file.c_str());
        LLVMFuzzerTestOneInput(reinterpret_cast<const std::uint8_t*>(bytes.data()), bytes.size());
    }
    std::printf("%zu inputs\n", files.size());
    return files.empty() ? 1 : 0; // a corpus that is gone is no success
}
