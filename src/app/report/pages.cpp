#include "app/report/pages.h"

#include <algorithm>
#include <limits>

#include <QAbstractTextDocumentLayout>
#include <QTextBlock>
#include <QTextLayout>
#include <QTextTable>

namespace otterstone::app {

namespace {

constexpr int kShort = 3; // lines of a paragraph that are not worth a cut

void addBlock(const QTextBlock& block, const QAbstractTextDocumentLayout& layout, std::vector<Piece>& pieces) {
    const QRectF rect = layout.blockBoundingRect(block);
    const bool withNext = block.blockFormat().boolProperty(kWithNext);
    const int lines = block.layout()->lineCount();
    if (lines <= kShort || withNext) {
        pieces.push_back({{rect.top(), rect.bottom()}, withNext, {}, block.blockFormat().boolProperty(kNewPage)});
        return;
    }
    for (int k = 0; k < lines; ++k) {
        const QRectF line = block.layout()->lineAt(k).rect();
        // Neither the first line nor the last one stands alone.
        pieces.push_back({{rect.top() + line.top(), rect.top() + line.bottom()}, k == 0 || k == lines - 2});
    }
}

void addTable(QTextTable* table, const QAbstractTextDocumentLayout& layout, std::vector<Piece>& pieces) {
    std::vector<double> tops;
    for (int r = 0; r < table->rows(); ++r) {
        double top = std::numeric_limits<double>::max();
        for (int c = 0; c < table->columns(); ++c)
            top = std::min(top, layout.blockBoundingRect(table->cellAt(r, c).firstCursorPosition().block()).top() -
                                    table->format().cellPadding());
        tops.push_back(top);
    }
    // Of the frame's rectangle only the size can be relied on: its place is off by a cell's padding.
    const double tall =
        layout.frameBoundingRect(table).height() - table->format().topMargin() - table->format().bottomMargin();
    tops.push_back(tops.front() + tall);
    const Band head{tops[0], tops[1]};
    const int heads = table->format().headerRowCount();
    for (int r = 0; r < table->rows(); ++r) {
        const auto k = static_cast<std::size_t>(r);
        pieces.push_back({{tops[k], tops[k + 1]}, r < heads, r < heads ? std::nullopt : std::optional(head)});
    }
}

} // namespace

std::vector<Piece> piecesOf(const QTextDocument& document) {
    std::vector<Piece> pieces;
    const QAbstractTextDocumentLayout& layout = *document.documentLayout();
    for (auto at = document.rootFrame()->begin(); !at.atEnd(); ++at) {
        if (auto* table = qobject_cast<QTextTable*>(at.currentFrame()))
            addTable(table, layout, pieces);
        else if (at.currentBlock().isValid())
            addBlock(at.currentBlock(), layout, pieces);
    }
    return pieces;
}

std::vector<Page> cutIntoPages(const std::vector<Piece>& pieces, double tall) {
    std::vector<Page> pages;
    std::size_t first = 0;
    while (first < pieces.size()) {
        const std::optional<Band> head = pages.empty() ? std::nullopt : pieces[first].head;
        const double from = pieces[first].band.from, room = tall - (head ? head->tall() : 0.0);
        std::size_t end = first; // behind the last piece on this page
        while (end < pieces.size() && pieces[end].band.to - from <= room && (end == first || !pieces[end].newPage))
            ++end;
        if (end == first) { // taller than a page
            double at = from;
            for (; pieces[first].band.to - at > room; at += room)
                pages.push_back({{at, at + room}, head});
            pages.push_back({{at, pieces[first].band.to}, head});
            ++first;
            continue;
        }
        std::size_t kept = end;
        while (end < pieces.size() && !pieces[end].newPage && kept > first && pieces[kept - 1].withNext)
            --kept;
        if (kept > first)
            end = kept;
        pages.push_back({{from, pieces[end - 1].band.to}, head});
        first = end;
    }
    return pages;
}

} // namespace otterstone::app
