// The photographs and files of a book: listed without what they hold, so that a book with many opens as fast as one
// without. On connections of their own.
#pragma once

#include <vector>

#include <QByteArray>

#include "book/store/book.h"
#include "core/records/attachment.h"

namespace otterstone::book {

class Connection;

/// A larger picture, by its sides, or a larger file is refused.
inline constexpr int kHugeSide = 30000;
inline constexpr qint64 kLargestFile = 25LL << 20;

/// A file as a book takes it (src/pictures makes one): what it is, what it holds, and a small picture of it.
struct Prepared {
    records::Attachment attachment;
    QByteArray bytes, thumbnail; ///< no thumbnail: no picture
};

/// Of a bank alone, of a run, or of a bank and all its runs, in the order in which they were added.
[[nodiscard]] std::vector<records::Attachment> attachmentsOfBank(const Book& book, Id bank);
[[nodiscard]] std::vector<records::Attachment> attachmentsOfRun(const Book& book, Id run);
[[nodiscard]] std::vector<records::Attachment> allAttachments(const Book& book, Id bank);

/// Problems: no_attachment; damaged_attachment when it is not what was put in.
[[nodiscard]] Result<QByteArray> bytesOf(const Book& book, Id attachment);
/// Empty when it is no picture.
[[nodiscard]] QByteArray thumbnailOf(const Book& book, Id attachment);

/// To a bank or a run, as `attachment` says; the id. Problems: too_many_attachments, those of the book.
Result<Id> attach(Book& book, const Prepared& prepared);
/// Its caption, and whether it is on the sheet.
Result<void> change(Book& book, const records::Attachment& attachment);
/// It stays in the file until the book is next opened, so that undo can bring it back.
Result<void> setAttachmentRemoved(Book& book, Id id, bool removed);

/// More of one bank or run nobody looks through.
inline constexpr int kMostAttachments = 500;

/// For those who look through a whole book: damaged ones are passed over and told.
[[nodiscard]] std::vector<records::Attachment> loadAttachments(Connection& c, Id bank);

} // namespace otterstone::book
