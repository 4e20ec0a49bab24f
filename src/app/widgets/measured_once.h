// Columns as wide as what they hold, measured once all of it is there and not with each cell and heading that comes.
#pragma once

#include <QHeaderView>

namespace otterstone::app {

/// While it lives, the header measures nothing; afterwards all its sections fit what they hold.
class MeasuredOnce {
public:
    explicit MeasuredOnce(QHeaderView* header) : header_(header) {
        header_->setSectionResizeMode(QHeaderView::Interactive);
    }
    ~MeasuredOnce() { header_->setSectionResizeMode(QHeaderView::ResizeToContents); }
    MeasuredOnce(const MeasuredOnce&) = delete;
    MeasuredOnce& operator=(const MeasuredOnce&) = delete;

private:
    QHeaderView* header_;
};

} // namespace otterstone::app
