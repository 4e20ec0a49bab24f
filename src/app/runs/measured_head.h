// Above what was written into a notebook with a meter: its path, and how it began and ended, as a run with a trace has
// them.
#pragma once

#include <QWidget>

#include "app/book_session.h"
#include "core/quantity/working.h"

class QLabel;

namespace otterstone::app {

class EndsBar;
class PathRibbon;

class MeasuredHead : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit MeasuredHead(BookSession& session, QWidget* parent = nullptr);
    /// Hidden where nothing was measured.
    void show(const records::Run& run, const kinds::Finding& finding);
    [[nodiscard]] PathRibbon* ribbon() const { return ribbon_; }
    [[nodiscard]] EndsBar* ends() const { return ends_; }

Q_SIGNALS:
    /// An index of records::kStretches.
    void gearWanted(int place);
    void workingWanted(const otterstone::Working& working);
    void problem(const QString& sentence);

private:
    void refer(path::Point point, bool explain);

    BookSession& session_;
    kinds::Finding finding_;
    PathRibbon* ribbon_;
    EndsBar* ends_;
    QLabel *referred_, *stamped_;
};

} // namespace otterstone::app
