// Markdown and tab-separated text.
#include "report/writers.h"

namespace otterstone::report {

namespace {

// What would make a cell, a line or a piece of HTML of it is written so that it stays text.
std::string plain(const std::string& text) {
    std::string out;
    for (std::size_t k = 0; k < text.size(); ++k) {
        const char c = text[k];
        const bool ofLink = (c == ':' && text.compare(k, 3, "://") == 0) ||
                            (c == '.' && k >= 3 && text.compare(k - 3, 3, "www") == 0) || c == '@';
        if (c == '\n' || c == '\r' || c == '\t')
            out += ' ';
        else if (c == '<')
            out += "&lt;";
        else if (c == '|' || c == '\\' || c == '`' || c == '*' || c == '_' || c == '[' || c == ']' || c == '#' ||
                 ofLink) // many readers make a link of what looks like one
            out += std::string("\\") + c;
        else if (static_cast<unsigned char>(c) >= 0x20)
            out += c;
    }
    return out;
}

std::string flat(std::string text) {
    for (char& c : text) {
        if (static_cast<unsigned char>(c) < 0x20)
            c = ' ';
    }
    // A spreadsheet that a row is pasted into must take it for text.
    return !text.empty() && std::string_view("=+-@").find(text.front()) != std::string_view::npos ? "'" + text : text;
}

struct TextWriter {
    std::string out;
    void operator()(const Paragraph& p) { out += (p.lead ? "**" + plain(p.text) + "**" : plain(p.text)) + "\n\n"; }
    void operator()(const Points& p) {
        for (const std::string& item : p.items)
            out += "- " + plain(item) + "\n";
        out += "\n";
    }
    void operator()(const Picture& p) { out += "*" + plain(p.caption) + "*\n\n"; }
    void operator()(const Table& t) {
        if (!t.rows.empty())
            out += toMarkdown(t) + "\n" + (t.note.empty() ? "" : plain(t.note) + "\n\n");
    }
};

} // namespace

std::string toMarkdown(const Table& t) {
    std::string out = "|", rule = "|";
    for (const Column& c : t.columns) {
        out += " " + plain(c.heading) + " |";
        rule += c.number ? " ---: |" : " --- |";
    }
    out += "\n" + rule + "\n";
    for (const auto& row : t.rows) {
        out += "|";
        for (const Cell& cell : row)
            out += " " + plain(cell.text) + " |";
        out += "\n";
    }
    return out;
}

std::string toTsv(const Table& t) {
    std::string out;
    for (std::size_t k = 0; k < t.columns.size(); ++k)
        out += (k == 0 ? "" : "\t") + flat(t.columns[k].heading);
    out += "\n";
    for (const auto& row : t.rows) {
        for (std::size_t k = 0; k < row.size(); ++k)
            out += (k == 0 ? "" : "\t") + flat(row[k].text);
        out += "\n";
    }
    return out;
}

std::string toMarkdown(const Content& c) {
    TextWriter w;
    w.out = "# " + plain(c.title) + "\n\n**" + plain(c.sentence) + "**\n\n";
    for (const Section& s : c.sections) {
        w.out += "## " + plain(s.heading) + "\n\n";
        for (const Block& b : s.blocks)
            std::visit(w, b);
    }
    return w.out + plain(imprint(c)) + "\n";
}

} // namespace otterstone::report
