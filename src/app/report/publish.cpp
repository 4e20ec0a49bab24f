#include "app/report/publish.h"

#include <QBuffer>
#include <QFileInfo>
#include <QPdfWriter>
#include <QSaveFile>

#include "app/report/paper.h"
#include "core/quantity/version.h"
#include "report/writers.h"

namespace otterstone::app {

namespace {

QByteArray pdfOf(const report::Content& content, const std::map<std::string, Drawing>& pictures) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    QPdfWriter pdf(&buffer);
    pdf.setTitle(QString::fromStdString(content.title));
    pdf.setCreator(QStringLiteral("Otterstone ") + QString::fromStdString(version()));
    pdf.setPageSize(QPageSize(QPageSize::A4));
    pdf.setPageMargins(QMarginsF(16, 16, 16, 14), QPageLayout::Millimeter);
    pdf.setResolution(QPicture().logicalDpiX()); // that of the recorded drawings
    return printOn(pdf, content, pictures) ? bytes : QByteArray();
}

} // namespace

Result<void> writeSheet(const book::Book& book, const report::Material& material, const report::Content& content,
                        const QString& path) {
    const QString ending = QFileInfo(path).suffix().toLower();
    QByteArray bytes;
    if (ending == QStringLiteral("html") || ending == QStringLiteral("pdf")) {
        const auto pictures = drawPictures(book, material, content);
        if (ending == QStringLiteral("pdf")) {
            bytes = pdfOf(content, pictures);
        } else {
            report::Pictures svgs;
            for (const auto& [key, drawing] : pictures)
                svgs[key] = toPage(drawing);
            bytes = QByteArray::fromStdString(report::toHtml(content, svgs));
        }
    } else if (ending == QStringLiteral("md")) {
        bytes = QByteArray::fromStdString(report::toMarkdown(content));
    } else if (ending == QStringLiteral("csv")) {
        bytes = QByteArray::fromStdString(report::toCsv(content));
    } else if (ending == QStringLiteral("json")) {
        bytes = QByteArray::fromStdString(report::toJson(content));
    } else {
        return problem("bad_ending", path.toStdString(), "a sheet is written as .html, .pdf, .md, .csv or .json.",
                       "Name the file so.");
    }
    QSaveFile file(path);
    if (bytes.isEmpty() || !file.open(QIODevice::WriteOnly) || file.write(bytes) != bytes.size() || !file.commit())
        return problem("cannot_write", path.toStdString(), "the sheet could not be written.",
                       "Check that the folder is there and may be written, and that the disk has room.");
    return {};
}

} // namespace otterstone::app
