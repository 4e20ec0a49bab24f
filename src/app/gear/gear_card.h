// One piece in the gear drawer: its name, a small drawing of what it means for energy, its facts.
#pragma once

#include <QAbstractButton>

#include "book/records.h"

namespace otterstone::app {

class GearCard : public QAbstractButton {
    Q_OBJECT

public:
    GearCard(book::Gear gear, int runs, QWidget* parent = nullptr);
    [[nodiscard]] const book::Gear& gear() const { return gear_; }
    [[nodiscard]] QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    void paintDrawing(QPainter& p, const QRectF& in) const;

    book::Gear gear_;
    QString facts_;
    int runs_;
};

} // namespace otterstone::app
