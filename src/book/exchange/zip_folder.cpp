#include "book/exchange/zip_folder.h"

#include <cstdint>
#include <memory>
#include <string>
#include <vector>

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <unzip.h>

#include "core/quantity/say.h"

namespace otterstone::book {

namespace {

// Traces as text shrink to a tenth or a twentieth, very steady ones to a fiftieth; a zip bomb to a thousandth.
constexpr std::uint64_t kMostTimes = 200;
constexpr std::uint64_t kAlways = std::uint64_t(16) << 20;
constexpr std::uint64_t kMostEntries = 100'000;
constexpr unsigned long kEncrypted = 1; // a bit of an entry's flags

tl::unexpected<Problem> bad(const QString& zip, const std::string& why) {
    return problem("bad_zip", zip.toStdString(), why,
                   "Make the bundle anew, or unpack it by hand and import the folder.");
}

bool safeName(const QString& name) {
    if (name.isEmpty() || name.startsWith(QLatin1Char('/')) || name.contains(QLatin1Char('\\')) ||
        name.contains(QLatin1Char(':')))
        return false;
    const QStringList parts = name.split(QLatin1Char('/'));
    return !parts.contains(QStringLiteral(".."));
}

} // namespace

Result<void> unzip(const QString& zip, const QString& folder) {
    struct Close {
        void operator()(void* archive) const { unzClose(archive); }
    };
    const std::unique_ptr<void, Close> archive(unzOpen64(QFile::encodeName(zip).constData()));
    unz_global_info64 all = {};
    if (!archive || unzGetGlobalInfo64(archive.get(), &all) != UNZ_OK)
        return bad(zip, "this is not a whole zip file.");
    if (all.number_entry > kMostEntries)
        return bad(zip, "it holds too many files.");
    const std::uint64_t most = kAlways + kMostTimes * static_cast<std::uint64_t>(QFileInfo(zip).size());
    std::uint64_t total = 0;
    std::vector<char> buffer(1 << 16);
    for (std::uint64_t k = 0; k < all.number_entry; ++k) {
        unz_file_info64 info = {};
        if ((k == 0 ? unzGoToFirstFile(archive.get()) : unzGoToNextFile(archive.get())) != UNZ_OK ||
            unzGetCurrentFileInfo64(archive.get(), &info, buffer.data(), buffer.size(), nullptr, 0, nullptr, 0) !=
                UNZ_OK)
            return bad(zip, "an entry cannot be read.");
        const QString name = QString::fromUtf8(buffer.data(), static_cast<qsizetype>(info.size_filename));
        if (!safeName(name))
            return bad(zip, say("the entry “{}” points outside the bundle.", name.toStdString()));
        const QString target = QDir(folder).filePath(name);
        if (name.endsWith(QLatin1Char('/'))) {
            QDir().mkpath(target);
            continue;
        }
        QDir().mkpath(QFileInfo(target).absolutePath());
        QFile out(target);
        if ((info.flag & kEncrypted) != 0 || unzOpenCurrentFile(archive.get()) != UNZ_OK ||
            !out.open(QIODevice::WriteOnly))
            return bad(zip, say("the entry “{}” cannot be unpacked.", name.toStdString()));
        int n = 0;
        while ((n = unzReadCurrentFile(archive.get(), buffer.data(), static_cast<unsigned>(buffer.size()))) > 0) {
            total += static_cast<std::uint64_t>(n);
            if (total > most)
                return bad(zip, say("it unpacks to more than {} times its size, which no bundle does.",
                                    std::to_string(kMostTimes)));
            if (out.write(buffer.data(), n) != n)
                return bad(zip, "there is no room to unpack it.");
        }
        if (n < 0 || unzCloseCurrentFile(archive.get()) != UNZ_OK) // only now its sum is looked at
            return bad(zip, say("the entry “{}” is damaged.", name.toStdString()));
    }
    return {};
}

} // namespace otterstone::book
