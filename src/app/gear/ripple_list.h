// What a corrected figure changed, run by run, as it becomes known: the first ones at once, the others when asked for.
#pragma once

#include <QWidget>

#include "book/store/ripples.h"

class QLabel;
class QPushButton;

namespace otterstone::app {

class RippleList : public QWidget {
    Q_OBJECT

public:
    explicit RippleList(QWidget* parent = nullptr);
    void clear();
    /// A correction was made; what it changes follows.
    void begin();
    void add(const std::vector<book::Ripple>& ripples);
    /// There are no more.
    void finish();

private:
    void draw(const std::vector<book::Ripple>& ripples);
    void drawRest();
    void tell(bool all);

    std::vector<book::Ripple> folded_;
    std::size_t runs_ = 0, changed_ = 0, drawn_ = 0;
    QString text_;
    QLabel *title_, *count_, *rows_;
    QPushButton* rest_;
};

} // namespace otterstone::app
