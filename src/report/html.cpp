#include "core/quantity/version.h"
#include "report/writers.h"

namespace otterstone::report {

namespace {

constexpr const char* kStyle = R"(
:root { color-scheme: light; }
body { font: 15px/1.5 Inter, "DejaVu Sans", sans-serif; color: #22272b; background: #f4f1ea; margin: 0; font-variant-numeric: tabular-nums; }
main { max-width: 60rem; margin: 0 auto; padding: 2rem 1.5rem 3rem; }
h1 { font-size: 1.9rem; margin: 0 0 .25rem; } h2 { font-size: 1.15rem; margin: 2.2rem 0 .5rem; padding-top: .6rem; border-top: 1px solid #d5cfc2; }
p { margin: .4rem 0; } p.lead { font-size: 1.15rem; font-weight: 600; } p.faint, figcaption, td.faint { color: #5f666b; }
div.wide { overflow-x: auto; }
table { border-collapse: collapse; margin: .7rem 0; width: 100%; font-size: .9rem; }
th { text-align: left; color: #5f666b; font-weight: 500; border-bottom: 1px solid #d5cfc2; } td { border-bottom: 1px solid #e6e1d6; }
th, td { padding: .3rem .5rem .3rem 0; vertical-align: top; } th.number, td.number { text-align: right; padding-right: .9rem; }
td.number { white-space: nowrap; } td.bad { color: #a32a1e; font-weight: 600; } td.marked { font-style: italic; color: #5f666b; }
table.dense { font-size: .8rem; } table.dense td.number { white-space: normal; }
figure { margin: 1rem 0; } figure svg { width: 100%; height: auto; display: block; } figure img { max-width: 100%; max-height: 26rem; display: block; } figcaption { font-size: .85rem; }
@media print { body { background: #fff; } table.dense { font-size: .6rem; } div.wide { overflow: visible; } h2, figure, tr { break-inside: avoid; } h2 { break-after: avoid; } section.page { break-before: page; } }
)";

std::string bdi(const std::string& text) { return text.empty() ? text : "<bdi>" + escaped(text) + "</bdi>"; }

// Qt's SVG begins with a prolog, and its ids are the same in every picture.
std::string inlined(std::string svg, int number) {
    if (const auto at = svg.find("<svg"); at != std::string::npos)
        svg.erase(0, at);
    // Millimetres on the screen say nothing; the view box keeps the proportions.
    for (const std::string& size : {std::string(" width=\""), std::string(" height=\"")}) {
        const auto from = svg.find(size), end = svg.find('"', from + size.size());
        if (from != std::string::npos && from < svg.find('>'))
            svg.erase(from, end + 1 - from);
    }
    const std::string prefix = "p" + std::to_string(number) + "-";
    for (const std::string& mark : {std::string("id=\""), std::string("url(#"), std::string("xlink:href=\"#")}) {
        for (std::size_t at = 0; (at = svg.find(mark, at)) != std::string::npos; at += mark.size() + prefix.size())
            svg.insert(at + mark.size(), prefix);
    }
    return svg;
}

class HtmlWriter {
public:
    explicit HtmlWriter(const Pictures& pictures) : pictures_(pictures) {}

    void operator()(const Paragraph& p) {
        out += std::string(p.lead ? "<p class=\"lead\">" : "<p>") + bdi(p.text) + "</p>\n";
    }
    void operator()(const Points& p) {
        if (p.items.empty())
            return;
        out += "<ul>\n";
        for (const std::string& item : p.items)
            out += "<li>" + bdi(item) + "</li>\n";
        out += "</ul>\n";
    }
    void operator()(const Picture& p) {
        const auto at = pictures_.find(p.key);
        if (at == pictures_.end())
            return;
        const std::string shown = at->second.starts_with("data:image/")
                                      ? "<img src=\"" + escaped(at->second) + "\" alt=\"\">"
                                      : inlined(at->second, ++number_);
        out += "<figure role=\"img\" aria-label=\"" + escaped(p.caption) + "\">\n" + shown + "\n<figcaption>" +
               bdi(p.caption) + "</figcaption></figure>\n";
    }
    void operator()(const Table& t) {
        if (t.rows.empty())
            return;
        out += std::string("<div class=\"wide\"><table") + (t.columns.size() > 6 ? " class=\"dense\"" : "") +
               ">\n<thead><tr>";
        for (const Column& c : t.columns)
            out +=
                std::string("<th scope=\"col\"") + (c.number ? " class=\"number\">" : ">") + bdi(c.heading) + "</th>";
        out += "</tr></thead>\n<tbody>\n";
        for (const auto& row : t.rows) {
            out += "<tr>";
            for (std::size_t k = 0; k < row.size(); ++k) {
                std::string kind = t.columns[k].number ? "number" : "";
                for (const auto& [is, name] : {std::pair(row[k].marked, "marked"), {row[k].bad, "bad"}}) {
                    if (is)
                        kind += std::string(kind.empty() ? "" : " ") + name;
                }
                out +=
                    (kind.empty() ? std::string("<td>") : "<td class=\"" + kind + "\">") + bdi(row[k].text) + "</td>";
            }
            out += "</tr>\n";
        }
        out += "</tbody></table></div>\n";
        if (!t.note.empty())
            out += "<p class=\"faint\">" + bdi(t.note) + "</p>\n";
    }

    std::string out;

private:
    const Pictures& pictures_;
    int number_ = 0;
};

} // namespace

std::string escaped(std::string_view text) {
    std::string out;
    for (const char c : text) {
        switch (c) {
        case '&': out += "&amp;"; break;
        case '<': out += "&lt;"; break;
        case '>': out += "&gt;"; break;
        case '"': out += "&quot;"; break;
        case '\'': out += "&#39;"; break;
        default:
            if (static_cast<unsigned char>(c) >= 0x20 || c == '\n' || c == '\t')
                out += c;
        }
    }
    return out;
}

std::string toHtml(const Content& c, const Pictures& pictures) {
    HtmlWriter w(pictures);
    w.out =
        "<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n"
        "<meta http-equiv=\"Content-Security-Policy\" content=\"default-src 'none'; style-src 'unsafe-inline'\">\n"
        "<meta name=\"generator\" content=\"Otterstone " +
        version() + "\">\n<title>" + escaped(c.title) + "</title>\n<style>" + kStyle +
        "</style>\n</head>\n<body>\n<main>\n<h1>" + bdi(c.title) + "</h1>\n";
    w(Paragraph{c.sentence, true});
    for (const Section& s : c.sections) {
        w.out +=
            std::string(s.newPage ? "<section class=\"page\">" : "<section>") + "\n<h2>" + bdi(s.heading) + "</h2>\n";
        for (const Block& b : s.blocks)
            std::visit(w, b);
        w.out += "</section>\n";
    }
    w.out += "<p class=\"faint\">" + escaped(imprint(c)) + "</p>\n</main>\n</body>\n</html>\n";
    return std::move(w.out);
}

} // namespace otterstone::report
