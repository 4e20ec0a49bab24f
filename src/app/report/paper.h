// A sheet on paper: the content as a document with its drawings, painted on pages for PDF, the printer and the preview.
#pragma once

#include <memory>

#include <QTextDocument>

#include "app/report/pictures.h"

class QPagedPaintDevice;

namespace otterstone::app {

/// For a page of this width, in pixels of the drawings. Not laid out: `setLayoutEnabled(true)`, then whoever shows it
/// gives it the width that it has.
[[nodiscard]] std::unique_ptr<QTextDocument> makeDocument(const report::Content& content,
                                                          const std::map<std::string, Drawing>& pictures, double width);
/// On A4 unless the device has another page. False when it could not begin.
bool printOn(QPagedPaintDevice& device, const report::Content& content, const std::map<std::string, Drawing>& pictures);

} // namespace otterstone::app
