// Photographs and files in a book: what is taken, what is left outside, what is refused; that a book with many opens
// without reading them, and that a bundle brings each back bit by bit.
#include <QBuffer>
#include <QImage>
#include <QTemporaryDir>
#include <QtTest>

#include "book/attached/attachments.h"
#include "book/exchange/bundle.h"
#include "book/store/check.h"
#include "book/store/sql.h"
#include "pictures/shrink.h"

using namespace otterstone;
using records::Attachment;
using records::kNew;

namespace {

QImage chequered(int width, int height) {
    QImage image(width, height, QImage::Format_RGB32);
    for (int y = 0; y < height; ++y) {
        for (int x = 0; x < width; ++x)
            image.setPixel(x, y, (x / 16 + y / 16) % 2 == 0 ? qRgb(240, 200, 40) : qRgb(x % 255, y % 255, 90));
    }
    return image;
}

QByteArray written(const QImage& image, const char* format) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, format);
    return bytes;
}

// As a camera writes it: after the first two bytes an APP1 segment, big-endian (Exif 2.3, from memory), with the way
// the camera was held (tag 0x0112, 6: turned by 90°) and a place (tag 0x8825 leads to latitude 0x0002).
QByteArray byACamera(QByteArray jpeg) {
    const char tiff[] = "MM\0*\0\0\0\x08"
                        "\0\x02"
                        "\x01\x12\0\x03\0\0\0\x01\0\x06\0\0"
                        "\x88\x25\0\x04\0\0\0\x01\0\0\0\x26"
                        "\0\0\0\0"
                        "\0\x01"
                        "\0\x02\0\x05\0\0\0\x03\0\0\0\x38"
                        "\0\0\0\0"
                        "SKERRYPOINTLATITUDE12345";
    const QByteArray content = QByteArray("Exif\0\0", 6) + QByteArray(tiff, sizeof tiff - 1);
    const auto length = static_cast<quint16>(content.size() + 2);
    QByteArray segment("\xFF\xE1");
    segment += static_cast<char>(length >> 8);
    segment += static_cast<char>(length & 0xFF);
    return jpeg.insert(2, segment + content);
}

} // namespace

class AttachedTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;
    [[nodiscard]] QString in(const char* name) const { return folder_.filePath(QString::fromLatin1(name)); }

    static std::unique_ptr<book::Book> bookAt(const QString& path, records::Id& bank, records::Id& run) {
        auto book = book::Book::create(path);
        records::Bank b;
        b.name = "Cobble 10";
        bank = *(*book)->save(b);
        records::Run r;
        r.bank = bank;
        r.kind = records::Kind::Notebook;
        r.sheet = records::Sheet{r.kind, {}};
        run = *(*book)->addRun(r, {});
        return std::move(*book);
    }
    static book::Prepared of(book::Prepared p, records::Id bank, records::Id run = kNew) {
        p.attachment.bank = run == kNew ? bank : kNew;
        p.attachment.run = run;
        return p;
    }

private Q_SLOTS:
    void pictures_are_shrunk_turned_and_say_nothing_of_the_place() {
        const QByteArray camera = byACamera(written(chequered(3000, 1500), "JPG"));
        QVERIFY(camera.contains("SKERRYPOINT"));
        const auto p = pictures::prepared("/home/somebody/box.JPG", camera);
        QVERIFY(p);
        QVERIFY(!p->bytes.contains("SKERRYPOINT") && !p->bytes.contains("Exif") && !p->thumbnail.contains("Exif"));
        QCOMPARE(p->attachment.name, std::string("box.JPG"));
        QCOMPARE(p->attachment.type, std::string("image/jpeg"));
        QCOMPARE(p->attachment.width, 1024); // upright: it was held sideways
        QCOMPARE(p->attachment.height, 2048);
        QCOMPARE(p->attachment.size, static_cast<long long>(p->bytes.size()));
        const QImage small = pictures::shown(p->thumbnail);
        QCOMPARE(small.size(), QSize(160, 320));
        QVERIFY(QImage::fromData(p->bytes).size() == QSize(1024, 2048));
    }
    void small_ones_keep_their_size_and_texts_stay_outside() {
        QImage image = chequered(200, 100);
        image.setText("Author", "somebody");
        const auto p = pictures::prepared("heat.png", written(image, "PNG"));
        QVERIFY(p);
        QCOMPARE(p->attachment.type, std::string("image/png"));
        QCOMPARE(p->attachment.width, 200);
        QVERIFY(!p->bytes.contains("somebody"));
        QCOMPARE(QImage::fromData(p->bytes).pixel(3, 3), image.pixel(3, 3));
    }
    void other_files_are_taken_as_they_are() {
        const QByteArray pdf = "%PDF-1.4\nmanual\n%%EOF\n";
        const auto p = pictures::prepared("manual.pdf", pdf);
        QVERIFY(p);
        QCOMPARE(p->bytes, pdf);
        QCOMPARE(p->attachment.type, std::string("application/pdf"));
        QVERIFY(p->thumbnail.isEmpty() && !p->attachment.isPicture());
    }
    void what_cannot_be_looked_at_is_refused_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QByteArray>("bytes");
        QTest::addColumn<QString>("code");
        const QByteArray jpeg = written(chequered(400, 300), "JPG"), png = written(chequered(400, 300), "PNG");
        QTest::newRow("empty") << "a.jpg" << QByteArray() << "empty_file";
        QTest::newRow("words that say they are a picture")
            << "a.jpg" << QByteArray("no picture at all") << "damaged_picture";
        QTest::newRow("cut in its head") << "a.jpg" << jpeg.left(60) << "damaged_picture";
        QTest::newRow("a picture cut half way") << "a.png" << png.left(png.size() / 2) << "damaged_picture";
        // Width and height of a BMP are bytes 18 to 25, little-endian; nothing sums its head up.
        QByteArray huge = written(chequered(8, 8), "BMP");
        for (const int at : {18, 22})
            huge.replace(at, 4, QByteArray("\x80\x3E\0\0", 4));
        QTest::newRow("16 000 × 16 000 by its head alone") << "a.bmp" << huge << "huge_picture";
        QTest::newRow("a large file") << "a.bin" << QByteArray((25 << 20) + 1, 'x') << "huge_file";
    }
    void what_cannot_be_looked_at_is_refused() {
        QFETCH(QString, name);
        QFETCH(QByteArray, bytes);
        QFETCH(QString, code);
        const auto p = pictures::prepared(name, bytes);
        QVERIFY(!p);
        QCOMPARE(QString::fromStdString(p.error().code), code);
        QVERIFY(!p.error().text.empty() && !p.error().mend.empty());
    }

    void they_are_kept_listed_changed_taken_away_and_brought_back() {
        records::Id bank = kNew, run = kNew;
        auto book = bookAt(in("a.otterstone"), bank, run);
        const auto picture = *pictures::prepared("label.png", written(chequered(64, 48), "PNG"));
        const auto pdf = *pictures::prepared("manual.pdf", "%PDF-1.4\n");
        const auto ofBank = book::attach(*book, of(picture, bank)), ofRun = book::attach(*book, of(pdf, bank, run));
        QVERIFY(ofBank && ofRun);
        QCOMPARE(book::attachmentsOfBank(*book, bank).size(), std::size_t(1));
        QCOMPARE(book::attachmentsOfRun(*book, run).size(), std::size_t(1));
        QCOMPARE(book::allAttachments(*book, bank).size(), std::size_t(2));
        QCOMPARE(*book::bytesOf(*book, *ofBank), picture.bytes);
        QCOMPARE(book::thumbnailOf(*book, *ofBank), picture.thumbnail);
        QVERIFY(book::thumbnailOf(*book, *ofRun).isEmpty());
        Attachment a = book::attachmentsOfBank(*book, bank).front();
        a.caption = "the label";
        a.onSheet = true;
        QVERIFY(book::change(*book, a));
        QVERIFY(book::attachmentsOfBank(*book, bank).front() == a);
        QVERIFY(book::setAttachmentRemoved(*book, *ofBank, true));
        QVERIFY(book::attachmentsOfBank(*book, bank).empty());
        QVERIFY(book::setAttachmentRemoved(*book, *ofBank, false));
        QCOMPARE(book::attachmentsOfBank(*book, bank).size(), std::size_t(1));
        // With its run or bank it goes.
        QVERIFY(book->setRunRemoved(run, true));
        QCOMPARE(book::allAttachments(*book, bank).size(), std::size_t(1));
        book.reset();
        book = std::move(*book::Book::open(in("a.otterstone")));
        QVERIFY(!book::bytesOf(*book, *ofRun));
        QVERIFY(!book::attach(*book, picture)); // of nobody
    }
    void one_that_is_not_what_was_put_in_is_told() {
        records::Id bank = kNew, run = kNew;
        auto book = bookAt(in("b.otterstone"), bank, run);
        const auto id = book::attach(*book, of(*pictures::prepared("a.png", written(chequered(64, 48), "PNG")), bank));
        book.reset();
        {
            book::Connection c(in("b.otterstone"), book::Connection::Mode::ReadWrite);
            c.run("UPDATE attachment_bytes SET bytes = x'00ff'");
        }
        book = std::move(*book::Book::open(in("b.otterstone")));
        const auto bytes = book::bytesOf(*book, *id);
        QVERIFY(!bytes);
        QCOMPARE(bytes.error().code, std::string("damaged_attachment"));
        QCOMPARE(book::attachmentsOfBank(*book, bank).size(), std::size_t(1));
    }
    void two_hundred_come_back_from_a_bundle_bit_by_bit() {
        records::Id bank = kNew, run = kNew;
        auto book = bookAt(in("c.otterstone"), bank, run);
        std::vector<QByteArray> sums;
        for (int k = 0; k < 200; ++k) {
            auto p = *pictures::prepared(QStringLiteral("photo %1.jpg").arg(k), written(chequered(40 + k, 30), "JPG"));
            p.attachment.caption = "number " + std::to_string(k);
            p.attachment.onSheet = k % 50 == 0;
            QVERIFY(book::attach(*book, of(std::move(p), bank, k % 3 == 0 ? run : kNew)));
        }
        QVERIFY(book::exportBundle(*book, in("bundle")));
        const auto again = book::importBundle(in("bundle"), in("d.otterstone"));
        QVERIFY2(again, again ? "" : again.error().sentence().c_str());
        const auto before = book::allAttachments(*book, bank),
                   after = book::allAttachments(**again, (*again)->banks().front().id);
        QCOMPARE(after.size(), std::size_t(200));
        for (std::size_t k = 0; k < before.size(); ++k) {
            QCOMPARE(*book::bytesOf(**again, after[k].id), *book::bytesOf(*book, before[k].id));
            QCOMPARE(book::thumbnailOf(**again, after[k].id), book::thumbnailOf(*book, before[k].id));
            QCOMPARE(after[k].caption, before[k].caption);
            QCOMPARE(after[k].onSheet, before[k].onSheet);
            QCOMPARE(after[k].run == kNew, before[k].run == kNew);
        }
        const auto report = book::checkBook(in("d.otterstone"));
        QVERIFY(report && report->faults.empty());
        // A file of the bundle that is missing, or not where it should be, is told.
        QFile::remove(folder_.filePath("bundle/attachments/1.jpg"));
        const auto broken = book::importBundle(in("bundle"), in("e.otterstone"));
        QVERIFY(!broken && broken.error().text.find("missing") != std::string::npos);
        QVERIFY(!QFile::exists(in("e.otterstone")));
    }
};

QTEST_GUILESS_MAIN(AttachedTest)
#include "attached_test.moc"
