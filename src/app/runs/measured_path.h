// Below the rows of a notebook that was measured: the path that energy took past the meter, as a run with a log has it.
#pragma once

#include <QWidget>

#include "app/book_session.h"
#include "core/quantity/working.h"

class QLabel;

namespace otterstone::app {

class PathRibbon;

class MeasuredPath : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit MeasuredPath(BookSession& session, QWidget* parent = nullptr);
    /// Hidden where nothing was measured.
    void show(const records::Run& run, const kinds::Finding& finding);
    [[nodiscard]] PathRibbon* ribbon() const { return ribbon_; }

Q_SIGNALS:
    /// An index of records::kStretches.
    void gearWanted(int place);
    void workingWanted(const otterstone::Working& working);

private:
    void refer(path::Point point, bool explain);

    BookSession& session_;
    kinds::Finding finding_;
    PathRibbon* ribbon_;
    QLabel *referred_, *stamped_;
};

} // namespace otterstone::app
