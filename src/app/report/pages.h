// Where a laid-out document is cut into pages: between rows and lines, never under a heading; a table that goes on
// repeats its head.
#pragma once

#include <optional>
#include <vector>

#include <QTextFormat>

class QTextDocument;

namespace otterstone::app {

/// A block that carries this stays on the page of the next one.
constexpr int kWithNext = QTextFormat::UserProperty + 3;
/// A block that carries this begins a page.
constexpr int kNewPage = QTextFormat::UserProperty + 4;

/// A stretch of the document from top to bottom, in its own pixels.
struct Band {
    double from = 0.0, to = 0.0;
    [[nodiscard]] double tall() const { return to - from; }
};

/// What stays in one piece: a row, a drawing, a line or a short paragraph.
struct Piece {
    Band band;
    bool withNext = false;         ///< a heading, a table's head, a drawing above its caption
    std::optional<Band> head = {}; ///< of the table it is a row of; none for the head itself
    bool newPage = false;
};

struct Page {
    Band band;
    std::optional<Band> head = {}; ///< drawn above the band
};

/// The document must be laid out on one endless page.
[[nodiscard]] std::vector<Piece> piecesOf(const QTextDocument& document);
/// Pages at most this tall. A piece taller than a page is cut where the page ends.
[[nodiscard]] std::vector<Page> cutIntoPages(const std::vector<Piece>& pieces, double tall);

} // namespace otterstone::app
