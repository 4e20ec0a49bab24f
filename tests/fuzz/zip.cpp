// A zipped bundle from anywhere: unpacked inside its folder or refused, and no larger than a bundle is.
#include <filesystem>
#include <fstream>

#include <QTemporaryDir>

#include "book/exchange/zip_folder.h"
#include "entry.h"

using namespace otterstone;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static QTemporaryDir outside(std::filesystem::exists("/dev/shm") ? QStringLiteral("/dev/shm/otterstone-zip-XXXXXX")
                                                                     : QString());
    const QString zip = outside.filePath(QStringLiteral("fuzz.zip")),
                  folder = outside.filePath(QStringLiteral("folder"));
    const std::filesystem::path inside = folder.toStdString();
    {
        std::ofstream out(zip.toStdString(), std::ofstream::binary);
        out.write(reinterpret_cast<const char*>(data), static_cast<std::streamsize>(size));
    }
    std::filesystem::create_directory(inside);
    if (book::unzip(zip, folder)) {
        std::uintmax_t bytes = 0;
        for (const auto& entry : std::filesystem::recursive_directory_iterator(inside)) {
            fuzz::must(!entry.is_symlink(), "nothing unpacked is a link");
            bytes += entry.is_regular_file() ? entry.file_size() : 0;
        }
        fuzz::must(bytes <= (16u << 20) + 200 * size, "what is unpacked is bounded by the zip's size");
    }
    std::filesystem::remove_all(inside);
    int things = 0;
    for ([[maybe_unused]] const auto& entry : std::filesystem::directory_iterator(outside.path().toStdString()))
        ++things;
    fuzz::must(things == 1, "nothing lands outside the folder");
    return 0;
}
