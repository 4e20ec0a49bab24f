// Lays widgets out in rows, wrapping like words.
#pragma once

#include <QLayout>
#include <QList>

namespace otterstone::app {

class FlowLayout : public QLayout {
public:
    explicit FlowLayout(QWidget* parent, int gap);
    ~FlowLayout() override;

    void addItem(QLayoutItem* item) override { items_.append(item); }
    [[nodiscard]] int count() const override { return static_cast<int>(items_.size()); }
    [[nodiscard]] QLayoutItem* itemAt(int index) const override { return items_.value(index); }
    QLayoutItem* takeAt(int index) override;
    [[nodiscard]] Qt::Orientations expandingDirections() const override { return {}; }
    [[nodiscard]] bool hasHeightForWidth() const override { return true; }
    [[nodiscard]] int heightForWidth(int width) const override { return arrange({0, 0, width, 0}, false); }
    [[nodiscard]] QSize sizeHint() const override { return minimumSize(); }
    [[nodiscard]] QSize minimumSize() const override;
    void setGeometry(const QRect& rect) override;

private:
    int arrange(const QRect& rect, bool place) const;
    QList<QLayoutItem*> items_;
    int gap_;
};

} // namespace otterstone::app
