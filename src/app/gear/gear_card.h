// One piece in the gear drawer: its name, a small drawing of what it means for energy, its facts.
#pragma once

#include <QAbstractButton>

#include "core/records/run.h"

namespace otterstone::app {

class GearCard : public QAbstractButton {
    Q_OBJECT

public:
    GearCard(records::Gear gear, int runs, QWidget* parent = nullptr);
    [[nodiscard]] const records::Gear& gear() const { return gear_; }
    [[nodiscard]] QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    void paintDrawing(QPainter& p, const QRectF& in) const;

    records::Gear gear_;
    QString facts_;
    int runs_;
};

} // namespace otterstone::app
