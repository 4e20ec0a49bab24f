// A check box whose words wrap: the platform's own stays on one line, and is cut off beside an open panel.
#pragma once

#include <QCheckBox>

namespace otterstone::app {

class WrappingCheck : public QCheckBox {
    Q_OBJECT

public:
    explicit WrappingCheck(const QString& words, QWidget* parent = nullptr);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;
    [[nodiscard]] bool hasHeightForWidth() const override { return true; }
    [[nodiscard]] int heightForWidth(int width) const override;

protected:
    void paintEvent(QPaintEvent* event) override;
    [[nodiscard]] bool hitButton(const QPoint& at) const override { return rect().contains(at); }
};

} // namespace otterstone::app
