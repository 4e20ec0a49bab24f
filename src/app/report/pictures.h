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
};

/// By the keys of the content's pictures, always in the light theme. Those that cannot be drawn (a run without samples)
/// are left out.
[[nodiscard]] std::map<std::string, Drawing> drawPictures(const book::Book& book, const report::Material& material,
                                                          const report::Content& content);
/// A photograph of the book as a sheet shows it: an image, or the address of one inside a page. Null and empty when it
/// cannot be read.
[[nodiscard]] QImage photoOf(const book::Book& book, long long id);
[[nodiscard]] std::string photoAddress(const book::Book& book, long long id);
[[nodiscard]] std::string toSvg(const Drawing& drawing);

} // namespace otterstone::app
