// A file on its way into a book: pictures are read, shrunk and written anew, so that nothing of them but the picture
// stays; other files are taken as they are.
#pragma once

#include <QImage>
#include <QString>

#include "book/attached/attachments.h"

namespace otterstone::pictures {

/// The longer side of a picture in a book is at most this long, in pixels; that of a thumbnail.
inline constexpr int kLongestSide = 2048;
inline constexpr int kThumbnailSide = 320;
/// More cannot be decoded with a sane amount of memory.
inline constexpr double kHugePixels = 150e6;

/// By its content, whatever its name says; turned upright, and without what a camera wrote beside the picture (the
/// place above all). Of nobody yet. Problems: empty_file, huge_file, huge_picture, damaged_picture.
[[nodiscard]] Result<book::Prepared> prepared(const QString& name, const QByteArray& bytes);
/// Problems also: no_file.
[[nodiscard]] Result<book::Prepared> preparedFile(const QString& path);
/// Of the clipboard.
[[nodiscard]] Result<book::Prepared> preparedPicture(const QString& name, const QImage& picture);

/// What a book or a stranger's bundle says is a picture, for the eye: by the same few decoders, at most `side` long;
/// null when it cannot be read or is too large.
[[nodiscard]] QImage shown(const QByteArray& bytes, int side = kLongestSide);

} // namespace otterstone::pictures
