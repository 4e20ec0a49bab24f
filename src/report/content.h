// What a published sheet says, as data: sections of sentences, tables and pictures. Every writer (HTML, PDF, Markdown,
// CSV, JSON) renders this one tree, so that all say the same digits.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "core/quantity/say.h"
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
    [[nodiscard]] static Cell words(Spoken text);
    /// A figure, with the digits its uncertainty allows.
    [[nodiscard]] static Cell figure(const Working& working);
};

struct Column {
    Column(std::string k, Spoken words, bool right = false)
        : key(std::move(k)), heading(std::move(words).text()), number(right) {}
    std::string key;
    std::string heading;
    bool number; ///< set right
};

struct Table {
    std::string key; ///< "verdicts", "figures"
    std::vector<Column> columns;
    std::vector<std::vector<Cell>> rows;
    std::string note; ///< below it
};

/// Drawn by whoever can draw: the writer gets its SVG or paints it.
struct Picture {
    Picture(std::string k, Spoken words) : key(std::move(k)), caption(std::move(words).text()) {}
    std::string key;     ///< "ribbon:12", "trace:12", "usable", "behaviour:31", "overlay:recharge"
    std::string caption; ///< also what a reader who cannot see it gets
};

struct Paragraph {
    explicit Paragraph(Spoken words, bool leads = false) : text(std::move(words).text()), lead(leads) {}
    std::string text;
    bool lead; ///< the sentence to quote
};

struct Points {
    std::vector<std::string> items;
};

using Block = std::variant<Paragraph, Table, Picture, Points>;

struct Section {
    Section(std::string k, Spoken words, std::vector<Block> all = {}, bool page = false)
        : key(std::move(k)), heading(std::move(words).text()), blocks(std::move(all)), newPage(page) {}
    std::string key;
    std::string heading;
    std::vector<Block> blocks;
    bool newPage; ///< begins a page where there are pages
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

/// What a sheet was made with, by which method, and when.
[[nodiscard]] std::string imprint(const Content& content);
/// All tables of a key, in order.
[[nodiscard]] std::vector<const Table*> tablesOf(const Content& content, std::string_view key);

} // namespace otterstone::report
