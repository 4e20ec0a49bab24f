// The pictures of a sheet, drawn once and played onto SVG, paper or a screen.
#pragma once

#include <map>
#include <string>

#include <QImage>
#include <QPicture>
#include <QSizeF>

#include "book/store/book.h"
#include "report/material.h"

namespace otterstone::app {

struct Drawing {
    QSizeF size;
    QPicture picture;
    QImage photograph = {}; ///< of which it is one; else null
};

/// By the keys of the content's pictures, always in the light theme. Those that cannot be drawn (a run without samples)
/// are left out.
[[nodiscard]] std::map<std::string, Drawing> drawPictures(const book::Book& book, const report::Material& material,
                                                          const report::Content& content);
/// What stands in a page: a photograph's data: address, an SVG of all others.
[[nodiscard]] std::string toPage(const Drawing& drawing);

} // namespace otterstone::app
