#include "book/exchange/zip_folder.h"

#include <memory>
#include <vector>

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <zip.h>

namespace otterstone::book {

namespace {

// Traces as text shrink to a tenth or a twentieth, very steady ones to a fiftieth; a zip bomb to a thousandth.
constexpr zip_uint64_t kMostTimes = 200;
constexpr zip_uint64_t kAlways = zip_uint64_t(16) << 20;
constexpr zip_int64_t kMostEntries = 100'000;

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
    int error = 0;
    const std::unique_ptr<zip_t, void (*)(zip_t*)> archive(
        zip_open(QFile::encodeName(zip).constData(), ZIP_RDONLY | ZIP_CHECKCONS, &error),
        [](zip_t* z) { zip_discard(z); });
    if (!archive)
        return bad(zip, "this is not a whole zip file.");
    const zip_int64_t entries = zip_get_num_entries(archive.get(), 0);
    if (entries > kMostEntries)
        return bad(zip, "it holds too many files.");
    const zip_uint64_t most = kAlways + kMostTimes * static_cast<zip_uint64_t>(QFileInfo(zip).size());
    zip_uint64_t total = 0;
    for (zip_int64_t k = 0; k < entries; ++k) {
        zip_stat_t info;
        if (zip_stat_index(archive.get(), static_cast<zip_uint64_t>(k), 0, &info) != 0)
            return bad(zip, "an entry cannot be read.");
        const QString name = QString::fromUtf8(info.name);
        if (!safeName(name))
            return bad(zip, "the entry “" + name.toStdString() + "” points outside the bundle.");
        const QString target = QDir(folder).filePath(name);
        if (name.endsWith(QLatin1Char('/'))) {
            QDir().mkpath(target);
            continue;
        }
        QDir().mkpath(QFileInfo(target).absolutePath());
        QFile out(target);
        const std::unique_ptr<zip_file_t, int (*)(zip_file_t*)> in(
            zip_fopen_index(archive.get(), static_cast<zip_uint64_t>(k), 0), zip_fclose);
        if (!in || !out.open(QIODevice::WriteOnly))
            return bad(zip, "the entry “" + name.toStdString() + "” cannot be unpacked.");
        std::vector<char> buffer(1 << 16);
        zip_int64_t n = 0;
        while ((n = zip_fread(in.get(), buffer.data(), buffer.size())) > 0) {
            total += static_cast<zip_uint64_t>(n);
            if (total > most)
                return bad(zip, "it unpacks to more than " + std::to_string(kMostTimes) +
                                    " times its size, which no bundle does.");
            if (out.write(buffer.data(), n) != n)
                return bad(zip, "there is no room to unpack it.");
        }
        if (n < 0)
            return bad(zip, "the entry “" + name.toStdString() + "” is damaged.");
    }
    return {};
}

} // namespace otterstone::book
