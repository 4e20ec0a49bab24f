#include "book/exchange/attached_files.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QSaveFile>

#include "book/attached/attachments.h"

namespace otterstone::book {

namespace {

using records::Attachment;

constexpr qint64 kLargestThumbnail = 1 << 20;

Result<void> writeFile(const QDir& folder, const std::string& name, const QByteArray& bytes) {
    QSaveFile file(folder.filePath(QString::fromStdString(name)));
    if (!file.open(QIODevice::WriteOnly) || file.write(bytes) != bytes.size() || !file.commit())
        return problem("cannot_write", file.fileName().toStdString(), "the file could not be written.",
                       "Check that the folder may be written and the disk has room.");
    return {};
}

// What the file is, for those who look into the folder; nothing of a stranger's name reaches the disk.
std::string suffixOf(const Attachment& a) {
    const std::size_t dot = a.name.find_last_of('.');
    std::string suffix = a.type == "image/jpeg" ? "jpg" : a.type == "image/png" ? "png" : "";
    for (std::size_t k = dot + 1; suffix.empty() && dot != std::string::npos && k < a.name.size(); ++k) {
        if (std::isalnum(static_cast<unsigned char>(a.name[k])) == 0 || a.name.size() - dot > 9)
            return "bin";
    }
    return !suffix.empty()                                        ? suffix
           : dot == std::string::npos || dot + 1 == a.name.size() ? "bin"
                                                                  : a.name.substr(dot + 1);
}

Result<QByteArray> readFile(const QString& folder, const std::string& name, qint64 most) {
    const auto wrong = [&](const char* what) {
        return problem("bad_bundle", name, what, "Export the bundle anew, with all of its files.");
    };
    if (!name.starts_with("attachments/") || name.find("..") != std::string::npos ||
        name.find('/', 12) != std::string::npos || name.find('\\') != std::string::npos)
        return wrong("this file is not inside attachments/.");
    QFile file(QDir(folder).filePath(QString::fromStdString(name)));
    if (!QFileInfo(file).isFile() || QFileInfo(file).isSymLink() || !file.open(QIODevice::ReadOnly))
        return wrong("the attached file is missing.");
    if (file.size() > most)
        return wrong("the attached file is larger than any book holds.");
    return file.readAll();
}

} // namespace

Result<void> writeAttached(const Book& book, const QString& path, json& all) {
    const QDir folder(path);
    for (const Bank& bank : book.banks()) {
        for (const Attachment& a : allAttachments(book, bank.id)) {
            const auto bytes = bytesOf(book, a.id);
            if (!bytes)
                return tl::unexpected(bytes.error());
            if (!folder.mkpath(QStringLiteral("attachments")))
                return problem("cannot_write", path.toStdString(), "a folder could not be made in it.");
            const std::string stem = "attachments/" + std::to_string(a.id), file = stem + "." + suffixOf(a);
            json j{{"name", a.name},
                   {"caption", a.caption},
                   {"type", a.type},
                   {"width", a.width},
                   {"height", a.height},
                   {"added_at", a.addedAt},
                   {"file", file},
                   {"on_sheet", a.onSheet},
                   {a.run == kNew ? "bank" : "run", a.run == kNew ? a.bank : a.run}};
            if (auto written = writeFile(folder, file, *bytes); !written)
                return written;
            if (const QByteArray small = thumbnailOf(book, a.id); !small.isEmpty()) {
                j["small"] = stem + "-small.jpg";
                if (auto written = writeFile(folder, stem + "-small.jpg", small); !written)
                    return written;
            }
            all["attachments"].push_back(std::move(j));
        }
    }
    return {};
}

Result<void> readAttached(Book& book, const QString& folder, const json& all, const std::map<Id, Id>& banks,
                          const std::map<Id, Id>& runs) {
    for (const json& j : list(all, "attachments")) {
        Prepared p;
        Attachment& a = p.attachment;
        const bool ofRun = has(j, "run");
        const auto& ids = ofRun ? runs : banks;
        const auto owner = ids.find(need<Id>(j, ofRun ? "run" : "bank"));
        if (owner == ids.end())
            return problem("bad_bundle", "book.json, attachments", "its bank or run is not in the bundle.",
                           "Export the bundle anew.");
        (ofRun ? a.run : a.bank) = owner->second;
        a.name = need<std::string>(j, "name");
        a.type = need<std::string>(j, "type");
        getOr(j, "caption", a.caption);
        getOr(j, "width", a.width);
        getOr(j, "height", a.height);
        getOr(j, "added_at", a.addedAt);
        getOr(j, "on_sheet", a.onSheet);
        if (a.width < 0 || a.width > kHugeSide || a.height < 0 || a.height > kHugeSide)
            throw Damage("attachments", "no picture is of this size");
        auto bytes = readFile(folder, need<std::string>(j, "file"), 8 * kLargestFile);
        if (!bytes)
            return tl::unexpected(bytes.error());
        p.bytes = std::move(*bytes);
        a.size = p.bytes.size();
        std::string small;
        getOr(j, "small", small);
        if (!small.empty()) {
            auto thumbnail = readFile(folder, small, kLargestThumbnail);
            if (!thumbnail)
                return tl::unexpected(thumbnail.error());
            p.thumbnail = std::move(*thumbnail);
        }
        if (auto kept = attach(book, p); !kept)
            return tl::unexpected(kept.error());
    }
    return {};
}

} // namespace otterstone::book
