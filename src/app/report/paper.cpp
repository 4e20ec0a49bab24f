#include "app/report/paper.h"

#include <cmath>

#include <QAbstractTextDocumentLayout>
#include <QPagedPaintDevice>
#include <QPainter>
#include <QTextCursor>
#include <QTextFrame>
#include <QTextObjectInterface>
#include <QTextTable>

#include "app/report/pages.h"
#include "app/theme.h"
#include "core/quantity/version.h"

namespace otterstone::app {

namespace {

constexpr int kDrawingObject = QTextFormat::UserObject + 1;
constexpr int kDrawing = QTextFormat::UserProperty + 1;
constexpr int kAlone = QTextFormat::UserProperty + 2;
constexpr std::size_t kShortLine = 160;

// A drawing that stands in the text, at the text's own scale.
class DrawingObject : public QObject, public QTextObjectInterface {
    Q_OBJECT
    Q_INTERFACES(QTextObjectInterface)

public:
    DrawingObject(const std::map<std::string, Drawing>& all, double width, QObject* parent)
        : QObject(parent), all_(all), width_(width) {}

    QSizeF intrinsicSize(QTextDocument*, int, const QTextFormat& format) override {
        const QSizeF size = all_.at(format.property(kDrawing).toString().toStdString()).size;
        const double scale = std::min(1.0, width_ / size.width());
        return size * scale;
    }
    void drawObject(QPainter* p, const QRectF& rect, QTextDocument*, int, const QTextFormat& format) override {
        const Drawing& d = all_.at(format.property(kDrawing).toString().toStdString());
        p->save();
        p->translate(rect.topLeft());
        p->scale(rect.width() / d.size.width(), rect.width() / d.size.width());
        p->drawPicture(0, 0, d.picture);
        p->restore();
    }

private:
    const std::map<std::string, Drawing> all_;
    double width_;
};

// Inter draws ± ÷ − × between digits as variants that no character stands for, and a reader who copies from the paper
// would lose them. A format of their own keeps them from being shaped with their neighbours.
void insertCopyable(QTextCursor& at, const QString& text, const QTextCharFormat& format) {
    static const QString kSigns = QString::fromUtf8("±÷−×→≥≤+-·:=");
    QTextCharFormat alone = format;
    alone.setProperty(kAlone, true);
    qsizetype from = 0;
    for (qsizetype k = 0; k <= text.size(); ++k) {
        if (k < text.size() && !kSigns.contains(text[k]))
            continue;
        at.insertText(text.mid(from, k - from), format);
        if (k < text.size())
            at.insertText(text.mid(k, 1), alone);
        from = k + 1;
    }
}

class Layout {
public:
    Layout(QTextDocument& document, const std::map<std::string, Drawing>& pictures, double width)
        : cursor_(&document), pictures_(pictures), width_(width) {}

    void heading(const std::string& text, double scale, double above, bool newPage = false) {
        line(text, app::font(scale, QFont::DemiBold), theme().ink, above, true);
        QTextBlockFormat f = cursor_.blockFormat();
        f.setProperty(kNewPage, newPage);
        cursor_.setBlockFormat(f);
    }
    void paragraph(const report::Paragraph& p, bool withNext) {
        line(p.text, p.lead ? app::font(1.08, QFont::DemiBold) : app::font(0.95), theme().ink, 4.0, withNext);
    }
    void operator()(const report::Paragraph& p) { paragraph(p, false); }
    void operator()(const report::Points& p) {
        for (const std::string& item : p.items) {
            line("·  " + item, app::font(0.95), theme().ink, 2.0);
            QTextBlockFormat f = cursor_.blockFormat();
            f.setLeftMargin(14);
            f.setTextIndent(-10);
            cursor_.setBlockFormat(f);
        }
    }
    void operator()(const report::Picture& p) {
        if (!pictures_.contains(p.key))
            return;
        QTextBlockFormat block;
        block.setTopMargin(10);
        block.setProperty(kWithNext, true); // its caption
        newBlock(block);
        QTextCharFormat object;
        object.setObjectType(kDrawingObject);
        object.setProperty(kDrawing, qs(p.key));
        cursor_.insertText(QString(QChar::ObjectReplacementCharacter), object);
        line(p.caption, app::font(0.82), theme().faint, 0.0);
    }
    void operator()(const report::Table& t) {
        if (t.rows.empty())
            return;
        // Many columns are set smaller, so that twelve banks still fit on a page.
        const double scale = t.columns.size() > 9 ? 0.58 : t.columns.size() > 6 ? 0.72 : 0.84;
        QTextTableFormat format;
        format.setBorder(0);
        format.setCellPadding(scale < 0.7 ? 2 : 3);
        format.setCellSpacing(0);
        format.setHeaderRowCount(1);
        format.setTopMargin(6);
        format.setBottomMargin(6);
        format.setWidth(QTextLength(QTextLength::PercentageLength, 100));
        QTextTable* table =
            cursor_.insertTable(static_cast<int>(t.rows.size()) + 1, static_cast<int>(t.columns.size()), format);
        const auto fill = [&](int row, int column, const std::string& text, const QFont& font, const QColor& colour,
                              bool number) {
            QTextTableCell cell = table->cellAt(row, column);
            QTextTableCellFormat look;
            look.setPadding(format.cellPadding());
            look.setBottomBorder(0.5);
            look.setBottomBorderStyle(QTextFrameFormat::BorderStyle_Solid);
            look.setBottomBorderBrush(theme().line);
            if (number)
                look.setRightPadding(9);
            cell.setFormat(look);
            QTextCursor at = cell.firstCursorPosition();
            QTextBlockFormat block;
            block.setAlignment(number ? Qt::AlignRight : Qt::AlignLeft);
            at.setBlockFormat(block);
            QTextCharFormat chars;
            chars.setFont(font);
            chars.setForeground(colour);
            insertCopyable(at, qs(text), chars);
        };
        for (int k = 0; k < table->columns(); ++k) {
            const report::Column& c = t.columns[static_cast<std::size_t>(k)];
            fill(0, k, c.heading, app::font(scale), theme().faint, c.number);
            for (int r = 0; r + 1 < table->rows(); ++r) {
                const auto& row = t.rows[static_cast<std::size_t>(r)];
                if (k < static_cast<int>(row.size())) {
                    const report::Cell& cell = row[static_cast<std::size_t>(k)];
                    fill(r + 1, k, cell.text, look(scale, cell),
                         cell.bad      ? theme().warn
                         : cell.marked ? theme().faint
                                       : theme().ink,
                         c.number);
                }
            }
        }
        cursor_.movePosition(QTextCursor::End);
        first_ = true; // a table is followed by an empty block of its own
        if (!t.note.empty())
            line(t.note, app::font(0.78), theme().faint, 0.0);
    }

private:
    static QFont look(double scale, const report::Cell& cell) {
        QFont f = app::font(scale, cell.bad ? QFont::DemiBold : QFont::Normal);
        f.setItalic(cell.marked);
        return f;
    }
    void newBlock(const QTextBlockFormat& format) {
        if (first_)
            cursor_.setBlockFormat(format);
        else
            cursor_.insertBlock(format);
        first_ = false;
    }
    void line(const std::string& text, const QFont& font, const QColor& colour, double above, bool withNext = false) {
        QTextBlockFormat block;
        block.setTopMargin(above);
        block.setProperty(kWithNext, withNext);
        newBlock(block);
        QTextCharFormat chars;
        chars.setFont(font);
        chars.setForeground(colour);
        insertCopyable(cursor_, qs(text), chars);
    }

    QTextCursor cursor_;
    const std::map<std::string, Drawing>& pictures_;
    double width_;
    bool first_ = true;
};

} // namespace

std::unique_ptr<QTextDocument> makeDocument(const report::Content& content,
                                            const std::map<std::string, Drawing>& pictures, double width) {
    const PaperScope paper;
    auto document = std::make_unique<QTextDocument>();
    document->setDocumentMargin(0);
    document->documentLayout()->registerHandler(kDrawingObject, new DrawingObject(pictures, width, document.get()));
    document->setUndoRedoEnabled(false);
    document->setLayoutEnabled(false); // once all is there, not with each cell
    document->setTextWidth(width);
    QTextCursor whole(document.get());
    whole.beginEditBlock();
    Layout layout(*document, pictures, width);
    layout.heading(content.title, 1.7, 0.0);
    layout(report::Paragraph{content.sentence, true});
    for (const report::Section& s : content.sections) {
        layout.heading(s.heading, 1.18, 18.0, s.newPage);
        for (const report::Block& b : s.blocks) {
            const auto* p = std::get_if<report::Paragraph>(&b);
            // A short line below a heading belongs to it: where and how it was measured.
            if (p && &b == &s.blocks.front() && s.blocks.size() > 1 && p->text.size() < kShortLine)
                layout.paragraph(*p, true);
            else
                std::visit(layout, b);
        }
    }
    whole.endEditBlock();
    return document;
}

bool printOn(QPagedPaintDevice& device, const report::Content& content,
             const std::map<std::string, Drawing>& pictures) {
    QPainter painter;
    if (!painter.begin(&device))
        return false;
    const double scale =
        device.logicalDpiX() / static_cast<double>(QPicture().logicalDpiX()); // drawings and words were made for that
    const QSizeF page(device.width() / scale, device.height() / scale);
    constexpr double kFoot = 26.0, kLine = 1.0; // the rule under a row
    const auto document = makeDocument(content, pictures, page.width());
    document->documentLayout()->setPaintDevice(nullptr);
    document->setLayoutEnabled(true);
    document->setTextWidth(page.width());
    const std::vector<Page> pages = cutIntoPages(piecesOf(*document), page.height() - kFoot);
    painter.scale(scale, scale);
    const auto drawBand = [&](const Band& band, double at) {
        painter.save();
        painter.translate(0.0, at - band.from);
        QAbstractTextDocumentLayout::PaintContext context;
        context.clip = QRectF(0.0, band.from, page.width(), band.tall() + kLine);
        painter.setClipRect(context.clip);
        document->documentLayout()->draw(&painter, context);
        painter.restore();
    };
    for (std::size_t k = 0; k < pages.size(); ++k) {
        if (k > 0)
            device.newPage();
        if (pages[k].head)
            drawBand(*pages[k].head, 0.0);
        drawBand(pages[k].band, pages[k].head ? pages[k].head->tall() : 0.0);
        painter.setFont(app::font(0.78));
        painter.setPen(QColor(0x5F, 0x66, 0x6B));
        const QRectF foot(0.0, page.height() - 16.0, page.width(), 16.0);
        painter.drawText(foot, Qt::AlignLeft | Qt::AlignBottom,
                         qs(content.title) + QStringLiteral(" · Otterstone ") + qs(version()) + QStringLiteral(", ") +
                             qs(content.at.substr(0, 10)));
        painter.drawText(foot, Qt::AlignRight | Qt::AlignBottom,
                         QStringLiteral("%1 / %2").arg(k + 1).arg(pages.size()));
    }
    return painter.end();
}

} // namespace otterstone::app

#include "paper.moc"
