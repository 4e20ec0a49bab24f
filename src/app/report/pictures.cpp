#include "app/report/pictures.h"

#include <QBuffer>
#include <QPainter>
#include <QSvgGenerator>

#include "app/behaviour/pictures.h"
#include "app/choose/choice_bars.h"
#include "app/choose/overlay_plot.h"
#include "app/choose/use_bands.h"
#include "app/findings/usable_plot.h"
#include "app/runs/path_ribbon.h"
#include "app/theme.h"
#include "book/attached/attachments.h"
#include "pictures/shrink.h"

namespace otterstone::app {

namespace {

constexpr int kPhotoHeight = 420;
constexpr int kPhotoPixels = 1400; // enough for paper
constexpr int kWidth = 900;

template<class F>
Drawing drawn(QSize size, F paint) {
    Drawing d;
    d.size = QSizeF(size);
    QPainter painter(&d.picture);
    painter.setRenderHint(QPainter::Antialiasing);
    paint(painter);
    painter.end();
    return d;
}

class Draughtsman {
public:
    Draughtsman(const book::Book& book, const report::Material& material, const report::Content& content)
        : book_(book), material_(material), content_(content) {}

    std::optional<Drawing> draw(const std::string& key) {
        const std::size_t colon = key.find(':');
        const std::string kind = key.substr(0, colon),
                          which = colon == std::string::npos ? std::string() : key.substr(colon + 1);
        if (kind == "ribbon")
            return ribbon(std::stoll(which));
        if (kind == "trace")
            return trace(std::stoll(which));
        if (kind == "behaviour")
            return behaviour(std::stoll(which));
        if (kind == "usable")
            return usable();
        if (kind == "overlay")
            return overlay(which);
        if (kind == "photo")
            return photo(std::stoll(which));
        if (kind == "use")
            return use();
        return kind == "choice" ? std::optional(choice()) : std::nullopt;
    }

private:
    const report::RunSaid* said(long long id) const {
        for (const report::BankMaterial& b : material_.banks) {
            for (const report::RunSaid& r : b.runs) {
                if (r.run == id)
                    return &r;
            }
        }
        return nullptr;
    }
    std::optional<Drawing> ribbon(long long id) {
        const auto run = book_.run(id);
        const auto bank = run ? book_.bank(run->bank) : std::nullopt;
        const report::RunSaid* r = said(id);
        if (!bank || !r)
            return std::nullopt;
        PathRibbon widget;
        widget.resize(kWidth, widget.sizeHint().height());
        widget.show(makeRibbon(*bank, *run, book_.gear(), r->finding), r->finding.kind == records::Kind::Recharge);
        return drawn(widget.size(), [&](QPainter& p) { widget.paint(p); });
    }
    std::optional<Drawing> trace(long long id) {
        const auto run = book_.run(id);
        if (!run || !run->hasTrace())
            return std::nullopt;
        return curves({overlayOf(book_, *run, qs(run->title), OverlayAxis::Time)}, 260);
    }
    std::optional<Drawing> curves(const std::vector<OverlaySeries>& series, int height) {
        OverlayPlot plot;
        plot.resize(kWidth, height);
        plot.show(series, OverlayAxis::Time);
        return drawn({kWidth, height}, [&](QPainter& p) { plot.paint(p, {kWidth, height}); });
    }
    std::optional<Drawing> overlay(const std::string& what) {
        std::vector<OverlaySeries> series;
        for (const report::BankMaterial& b : material_.banks) {
            if (const auto run = overlayRun(b, what == "recharge"))
                series.push_back(overlayOf(book_, *book_.run(*run), qs(b.evidence.name), OverlayAxis::Time));
        }
        return series.empty() ? std::nullopt : curves(series, std::max(320, 70 + 19 * static_cast<int>(series.size())));
    }
    static std::optional<records::Id> overlayRun(const report::BankMaterial& b, bool recharge) {
        return recharge ? report::firstRecharge(b) : report::gentlestDrain(b);
    }
    std::optional<Drawing> behaviour(long long id) {
        const auto run = book_.run(id);
        const auto bank = run ? book_.bank(run->bank) : std::nullopt;
        if (!bank || !run->sheet)
            return std::nullopt;
        const auto facts = book_.factsFor(*bank, *run);
        const QSize size(kWidth, static_cast<int>(behaviourHeight(*run->sheet, facts)) + 8);
        return drawn(size,
                     [&](QPainter& p) { paintBehaviour(p, QRectF(QPointF(), QSizeF(size)), *run->sheet, facts); });
    }
    std::optional<Drawing> photo(long long id) {
        const auto bytes = book::bytesOf(book_, id);
        const QImage image = bytes ? pictures::shown(*bytes, kPhotoPixels) : QImage();
        if (image.isNull())
            return std::nullopt;
        const QSize size = image.size().boundedTo(image.size().scaled(kWidth, kPhotoHeight, Qt::KeepAspectRatio));
        Drawing d = drawn(size, [&](QPainter& p) { p.drawImage(QRect(QPoint(), size), image); });
        d.photograph = image;
        return d;
    }
    std::optional<Drawing> usable() {
        const auto& together = material_.banks.front().evidence.together;
        if (!together.usable)
            return std::nullopt;
        UsablePlot plot;
        plot.resize(kWidth, 280);
        plot.show(together.usable, together.otherDrains, std::nullopt);
        return drawn({kWidth, 280}, [&](QPainter& p) { plot.paint(p, {kWidth, 280}); });
    }
    Drawing use() {
        const plan::UsePlan& plan = content_.choice->use;
        const QSize size(kWidth, useHeight(plan, material_.needs) + 8);
        return drawn(size, [&](QPainter& p) {
            paintUse(p, QRectF(QPointF(), QSizeF(size)), plan, material_.needs, material_.days);
        });
    }
    Drawing choice() {
        const auto& c = *content_.choice;
        const QSize size(kWidth, choiceHeight(c.ranking, c.purpose, kWidth) + 8);
        return drawn(size, [&](QPainter& p) {
            paintChoice(p, QRectF(QPointF(), QSizeF(size)), c.comparison, c.ranking, c.purpose);
        });
    }

    const book::Book& book_;
    const report::Material& material_;
    const report::Content& content_;
};

} // namespace

std::map<std::string, Drawing> drawPictures(const book::Book& book, const report::Material& material,
                                            const report::Content& content) {
    const PaperScope paper;
    Draughtsman draughtsman(book, material, content);
    std::map<std::string, Drawing> all;
    for (const report::Section& s : content.sections) {
        for (const report::Block& b : s.blocks) {
            const auto* picture = std::get_if<report::Picture>(&b);
            if (!picture || all.contains(picture->key))
                continue;
            if (auto d = draughtsman.draw(picture->key))
                all.emplace(picture->key, std::move(*d));
        }
    }
    return all;
}

namespace {

std::string addressOf(const QImage& image) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    image.convertToFormat(QImage::Format_RGB32).save(&buffer, "JPG", 85);
    return "data:image/jpeg;base64," + bytes.toBase64().toStdString();
}

} // namespace

std::string toPage(const Drawing& d) {
    if (!d.photograph.isNull())
        return addressOf(d.photograph);
    QByteArray bytes;
    QBuffer buffer(&bytes);
    QSvgGenerator svg;
    svg.setOutputDevice(&buffer);
    svg.setResolution(QPicture().logicalDpiX()); // that of the recording, so that text keeps its size beside lines
    svg.setSize(d.size.toSize());
    svg.setViewBox(QRectF(QPointF(), d.size));
    svg.setTitle(QStringLiteral("Otterstone"));
    QPainter painter(&svg);
    painter.drawPicture(0, 0, d.picture);
    painter.end();
    return bytes.toStdString();
}

} // namespace otterstone::app
