// What a published sheet says, as data: sections of sentences, tables and pictures. Every writer (HTML, PDF, Markdown,
// CSV, JSON) renders this one tree, so that all say the same digits.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "core/quantity/working.h"

namespace otterstone::report {

struct Cell {
    std::string text;            ///< as shown, wherever it is shown
    std::optional<double> value; ///< behind it, in the unit below; shares are fractions
    std::optional<double> expanded;
    std::string unit;    ///< symbol; "fraction" for a share
    std::string code;    ///< for scripts: a verdict's words, a flight class
    bool marked = false; ///< found under unlike conditions
    bool bad = false;    ///< falls short; writers also show its words
    [[nodiscard]] static Cell words(std::string text);
    /// A figure, with the digits its uncertainty allows.
    [[nodiscard]] static Cell figure(const Working& working);
};

struct Column {
    std::string key;
    std::string heading;
    bool number = false; ///< set right
};

struct Table {
    std::string key; ///< "verdicts", "figures"
    std::vector<Column> columns;
    std::vector<std::vector<Cell>> rows;
    std::string note; ///< below it
};

/// Drawn by whoever can draw: the writer gets its SVG or paints it.
struct Picture {
    std::string key;     ///< "ribbon:12", "trace:12", "usable", "behaviour:31", "overlay:recharge"
    std::string caption; ///< also what a reader who cannot see it gets
};

struct Paragraph {
    std::string text;
    bool lead = false; ///< the sentence to quote
};

struct Points {
    std::vector<std::string> items;
};

using Block = std::variant<Paragraph, Table, Picture, Points>;

struct Section {
    std::string key;
    std::string heading;
    std::vector<Block> blocks;
    bool newPage = false; ///< begins a page where there are pages
};

struct Choice; ///< what a comparison rests on (material.h)

struct Content {
    std::string title;
    std::string sentence;
    std::string at; ///< ISO 8601: when it was published
    int method = 0;
    std::vector<Section> sections;
    std::shared_ptr<const Choice> choice; ///< of a comparison, for its picture
};

/// All tables of a key, in order.
[[nodiscard]] std::vector<const Table*> tablesOf(const Content& content, std::string_view key);

} // namespace otterstone::report
