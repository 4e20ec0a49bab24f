// What opens beside a page: a title, a way to close it, and a body that scrolls.
#pragma once

#include <QFrame>

class QHBoxLayout;
class QLabel;
class QVBoxLayout;

namespace otterstone::app {

class SidePanel : public QFrame {
    Q_OBJECT

public:
    explicit SidePanel(const QString& title, QWidget* parent = nullptr);

Q_SIGNALS:
    void closed();
    void problem(const QString& sentence);

protected:
    [[nodiscard]] QLabel* title() const { return title_; }
    [[nodiscard]] QHBoxLayout* head() const { return head_; } ///< buttons stand before the one that closes
    [[nodiscard]] QVBoxLayout* body() const { return body_; }

private:
    QLabel* title_;
    QHBoxLayout* head_;
    QVBoxLayout* body_;
};

/// A scrolling column put below what `outer` holds already; its layout.
[[nodiscard]] QVBoxLayout* addScrollingColumn(QVBoxLayout* outer);
/// Empties a layout of its widgets. One of them may be what was just pressed, so they go when that is over.
void emptyLayout(class QLayout* layout);

} // namespace otterstone::app
