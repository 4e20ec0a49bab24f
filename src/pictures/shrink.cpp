#include "pictures/shrink.h"

#include <algorithm>

#include <QBuffer>
#include <QColorSpace>
#include <QFile>
#include <QFileInfo>
#include <QImageReader>
#include <QMimeDatabase>

namespace otterstone::pictures {

using book::kHugeSide;
using book::kLargestFile;
using book::Prepared;

namespace {

// What decodes raster pictures alone: no document that could name others.
constexpr const char* kFormats[] = {"jpeg", "jpg", "png", "webp", "bmp", "gif", "tiff", "tif"};
constexpr int kQuality = 88;

tl::unexpected<Problem> damaged(const QString& name, const QString& why) {
    return problem("damaged_picture", name.toStdString(), "the picture cannot be read: " + why.toStdString() + ".",
                   "Open it in a viewer and save it anew, or take another copy.");
}

QByteArray written(const QImage& image, const char* format) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    return image.save(&buffer, format, qstrcmp(format, "JPG") == 0 ? kQuality : -1) ? bytes : QByteArray();
}

QSize fitted(QSize size, int side) {
    return std::max(size.width(), size.height()) <= side ? size : size.scaled(side, side, Qt::KeepAspectRatio);
}

// Whether a reader can be had for it; nothing is decoded yet.
bool isPicture(QImageReader& reader) {
    const QByteArray format = reader.format();
    return std::any_of(std::begin(kFormats), std::end(kFormats), [&](const char* f) { return format == f; });
}

Result<QImage> decoded(const QString& name, QImageReader& reader, int side) {
    const QSize size = reader.size();
    if (!size.isValid() || size.isEmpty())
        return damaged(name, QObject::tr("it has no size"));
    if (std::max(size.width(), size.height()) > kHugeSide || double(size.width()) * size.height() > kHugePixels)
        return problem("huge_picture", name.toStdString(),
                       "the picture is " + std::to_string(size.width()) + " × " + std::to_string(size.height()) +
                           " pixels, more than can be looked at.",
                       "Make it smaller first.");
    reader.setAutoTransform(true);
    reader.setScaledSize(fitted(size, side));
    QImage image = reader.read();
    if (image.isNull())
        return damaged(name, reader.errorString());
    // Texts that came with it, PNG's and a camera's alike, stay outside.
    for (const QString& key : image.textKeys())
        image.setText(key, QString());
    return image;
}

QByteArray smallOf(const QImage& image) {
    const QImage small =
        image.scaled(fitted(image.size(), kThumbnailSide), Qt::KeepAspectRatio, Qt::SmoothTransformation);
    return written(small.hasAlphaChannel() ? small.convertToFormat(QImage::Format_RGB32) : small, "JPG");
}

Result<Prepared> fromImage(const QString& name, const QImage& source, bool keepSharp) {
    Prepared p;
    QImage image = source.scaled(fitted(source.size(), kLongestSide), Qt::KeepAspectRatio, Qt::SmoothTransformation);
    if (image.colorSpace().isValid())
        image.convertToColorSpace(QColorSpace::SRgb);
    image.setColorSpace({});
    const bool sharp = keepSharp || image.hasAlphaChannel();
    p.bytes = written(image, sharp ? "PNG" : "JPG");
    p.thumbnail = smallOf(image);
    if (p.bytes.isEmpty() || p.thumbnail.isEmpty())
        return damaged(name, QObject::tr("it cannot be written anew"));
    p.attachment.name = name.toStdString();
    p.attachment.type = sharp ? "image/png" : "image/jpeg";
    p.attachment.width = image.width();
    p.attachment.height = image.height();
    p.attachment.size = p.bytes.size();
    p.attachment.onSheet = false;
    return p;
}

// Its name as a book may keep it: no folders, nothing that is not seen.
QString plain(const QString& name) {
    QString kept;
    for (const QChar c : QFileInfo(name).fileName()) {
        if (c.isPrint() && c != QLatin1Char('/') && c != QLatin1Char('\\'))
            kept += c;
    }
    return kept.left(120).isEmpty() ? QStringLiteral("file") : kept.left(120);
}

} // namespace

Result<Prepared> prepared(const QString& path, const QByteArray& bytes) {
    const QString name = plain(path);
    if (bytes.isEmpty())
        return problem("empty_file", name.toStdString(), "the file is empty.", "Choose another.");
    QByteArray content = bytes;
    QBuffer buffer(&content);
    buffer.open(QIODevice::ReadOnly);
    QImageReader reader(&buffer);
    reader.setDecideFormatFromContent(true);
    const QByteArray format = reader.format(); // known until it is read
    if (isPicture(reader)) {
        const auto image = decoded(name, reader, kLongestSide);
        if (!image)
            return tl::unexpected(image.error());
        return fromImage(name, *image, format == "png" || format == "gif");
    }
    const QMimeType type = QMimeDatabase().mimeTypeForFileNameAndData(name, bytes);
    if (type.name().startsWith(QLatin1String("image/")) && type.name() != QLatin1String("image/svg+xml"))
        return damaged(name, QObject::tr("it is no picture that can be read here"));
    if (bytes.size() > kLargestFile)
        return problem("huge_file", name.toStdString(),
                       "the file is larger than " + std::to_string(kLargestFile >> 20) + " MB.",
                       "Keep it beside the book, and write down where.");
    Prepared p;
    p.bytes = bytes;
    p.attachment.name = name.toStdString();
    p.attachment.type = type.name().toStdString();
    p.attachment.size = bytes.size();
    return p;
}

Result<Prepared> preparedFile(const QString& path) {
    QFile file(path);
    if (!QFileInfo(path).isFile() || !file.open(QIODevice::ReadOnly))
        return problem("no_file", path.toStdString(), "the file cannot be opened.", "Check its name.");
    // A picture may be larger than what is kept of it.
    if (file.size() > 8 * kLargestFile)
        return problem("huge_file", plain(path).toStdString(),
                       "the file is larger than " + std::to_string((8 * kLargestFile) >> 20) + " MB.",
                       "Make it smaller first.");
    return prepared(path, file.readAll());
}

Result<Prepared> preparedPicture(const QString& name, const QImage& picture) {
    if (picture.isNull())
        return damaged(name, QObject::tr("there is none"));
    return fromImage(plain(name), picture, true);
}

QImage shown(const QByteArray& bytes, int side) {
    QByteArray content = bytes;
    QBuffer buffer(&content);
    buffer.open(QIODevice::ReadOnly);
    QImageReader reader(&buffer);
    reader.setDecideFormatFromContent(true);
    const auto image = isPicture(reader) ? decoded({}, reader, side) : Result<QImage>(QImage());
    return image ? *image : QImage();
}

} // namespace otterstone::pictures
