#include "book/attached/attachments.h"

#include <algorithm>

#include <QCryptographicHash>

#include "book/store/sql.h"

#include "core/quantity/say.h"

namespace otterstone::book {

namespace {

using records::Attachment;

constexpr const char* kColumns =
    "SELECT a.id, a.bank_id, a.run_id, a.name, a.caption, a.type, a.width, a.height, a.size, a.added_at, a.on_sheet"
    " FROM attachment a ";

int pixels(const Row& row, int at) {
    const long long n = row.whole(at);
    if (n < 0 || n > kHugeSide)
        throw Damage(at == 6 ? "width" : "height", "no picture is of this size");
    return static_cast<int>(n);
}

std::vector<Attachment> read(Connection& c, Answer q) {
    std::vector<Attachment> all;
    const Row row(q);
    while (q.next()) {
        try {
            Attachment a;
            a.id = row.whole(0);
            a.bank = row.maybeWhole(1).value_or(kNew);
            a.run = row.maybeWhole(2).value_or(kNew);
            a.name = row.text(3);
            a.caption = row.text(4);
            a.type = row.text(5);
            a.width = pixels(row, 6);
            a.height = pixels(row, 7);
            a.size = row.whole(8);
            a.addedAt = row.text(9);
            a.onSheet = row.flag(10);
            if (a.size < 0 || a.size > 8 * kLargestFile)
                throw Damage("size", "no file of a book is that large");
            all.push_back(std::move(a));
        } catch (const Damage& damage) {
            c.passOver(say("attachment {}", q.value(0).text()), damage);
        }
    }
    return all;
}

QByteArray sumOf(const QByteArray& bytes) {
    return QCryptographicHash::hash(bytes, QCryptographicHash::Sha256).toHex();
}

// What cannot be read at all is an empty list: the book's own look-through tells it.
std::vector<Attachment> listed(const Book& book, const char* which, Id id) {
    auto all = guarded(book.path(), [&] {
        Connection c(book.path(), Connection::Mode::ReadOnly);
        const std::string sql = std::string(kColumns) + which + " ORDER BY a.id";
        return read(c, c.run(sql.c_str(), id));
    });
    return all ? std::move(*all) : std::vector<Attachment>();
}

template<class F>
auto changed(Book& book, F f) {
    auto done = guarded(book.path(), [&] {
        Connection c(book.path(), Connection::Mode::ReadWrite);
        Transaction all(c);
        if constexpr (std::is_void_v<decltype(f(c))>) {
            f(c);
            all.commit();
        } else {
            auto result = f(c);
            all.commit();
            return result;
        }
    });
    if (done)
        book.noticeChange();
    return done;
}

} // namespace

std::vector<Attachment> loadAttachments(Connection& c, Id bank) {
    const std::string sql = std::string(kColumns) +
                            "LEFT JOIN run ON run.id = a.run_id WHERE a.removed = 0 AND (a.bank_id = ? OR "
                            "(run.bank_id = ? AND run.removed = 0)) ORDER BY a.run_id IS NOT NULL, a.id";
    return read(c, c.run(sql.c_str(), bank, bank));
}

std::vector<Attachment> attachmentsOfBank(const Book& book, Id bank) {
    return listed(book, "WHERE a.removed = 0 AND a.bank_id = ?", bank);
}

std::vector<Attachment> attachmentsOfRun(const Book& book, Id run) {
    return listed(book, "WHERE a.removed = 0 AND a.run_id = ?", run);
}

std::vector<Attachment> allAttachments(const Book& book, Id bank) {
    auto all = guarded(book.path(), [&] {
        Connection c(book.path(), Connection::Mode::ReadOnly);
        return loadAttachments(c, bank);
    });
    return all ? std::move(*all) : std::vector<Attachment>();
}

Result<QByteArray> bytesOf(const Book& book, Id id) {
    auto read = guarded(book.path(), [&]() -> Result<QByteArray> {
        Connection c(book.path(), Connection::Mode::ReadOnly);
        Answer q = c.run("SELECT b.bytes, a.sum FROM attachment a JOIN attachment_bytes b ON b.attachment_id = a.id "
                         "WHERE a.id = ?",
                         id);
        if (!q.next())
            return problem("no_attachment", book.path().toStdString(), "there is no such attachment.");
        const QByteArray bytes = q.value(0).bytes();
        if (sumOf(bytes) != q.value(1).bytes())
            return problem("damaged_attachment", book.path().toStdString(), "what is attached is not what was put in.",
                           "Take it from the last whole copy, or from a bundle.");
        return bytes;
    });
    return read ? std::move(*read) : tl::unexpected(read.error());
}

QByteArray thumbnailOf(const Book& book, Id id) {
    auto small = guarded(book.path(), [&] {
        Connection c(book.path(), Connection::Mode::ReadOnly);
        Answer q = c.run("SELECT thumbnail FROM attachment WHERE id = ?", id);
        return q.next() ? q.value(0).bytes() : QByteArray();
    });
    return small ? *small : QByteArray();
}

Result<Id> attach(Book& book, const Prepared& p) {
    const Attachment& a = p.attachment;
    if ((a.bank == kNew) == (a.run == kNew))
        return problem("no_owner", a.name, "it belongs to a bank or to a run.");
    const auto there = a.bank != kNew ? attachmentsOfBank(book, a.bank) : attachmentsOfRun(book, a.run);
    if (there.size() >= static_cast<std::size_t>(kMostAttachments))
        return problem("too_many_attachments", a.name,
                       say("there are {} attachments already.", std::to_string(kMostAttachments)),
                       "Take away what nobody looks at.");
    return changed(book, [&](Connection& c) {
        const Id id =
            c.run("INSERT INTO attachment (bank_id, run_id, name, caption, type, width, height, size, added_at, "
                  "on_sheet, sum, thumbnail) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
                  a.bank == kNew ? std::optional<Id>() : a.bank, a.run == kNew ? std::optional<Id>() : a.run, a.name,
                  a.caption, a.type, a.width, a.height, a.size, a.addedAt, a.onSheet,
                  QString::fromLatin1(sumOf(p.bytes)), p.thumbnail)
                .lastInsertId();
        c.run("INSERT INTO attachment_bytes (attachment_id, bytes) VALUES (?, ?)", id, p.bytes);
        return id;
    });
}

Result<void> change(Book& book, const Attachment& a) {
    return changed(book, [&](Connection& c) {
        c.run("UPDATE attachment SET caption = ?, on_sheet = ? WHERE id = ?", a.caption, a.onSheet, a.id);
    });
}

Result<void> setAttachmentRemoved(Book& book, Id id, bool removed) {
    return changed(book, [&](Connection& c) { c.run("UPDATE attachment SET removed = ? WHERE id = ?", removed, id); });
}

} // namespace otterstone::book
