// Qt's Fusion, but for boxes and circles to choose with: Fusion outlines them in a darker shade of the paper, which a
// dark theme swallows.
#pragma once

#include <QProxyStyle>

namespace otterstone::app {

class IndicatorStyle : public QProxyStyle {
    Q_OBJECT

public:
    IndicatorStyle();
    void drawPrimitive(PrimitiveElement element, const QStyleOption* option, QPainter* painter,
                       const QWidget* widget) const override;
};

} // namespace otterstone::app
