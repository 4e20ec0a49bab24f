// One line above the page for what the window has to say, in one of three looks, each with a sign besides its colour.
#pragma once

#include <QFrame>
#include <QTimer>

class QLabel;
class QPushButton;

namespace otterstone::app {

enum class Look {
    Told, ///< something was done: quiet, and gone by itself
    Asks, ///< something waits for the tester
    Wrong ///< something is wrong
};

class MessageBar : public QFrame {
    Q_OBJECT

public:
    explicit MessageBar(QWidget* parent = nullptr);

    /// An empty sentence hides the line. With `undo` the last change can be taken back from here.
    void say(Look look, const QString& sentence, bool undo = false);
    /// Behind what is said already: it asks, unless something is wrong.
    void add(const QString& sentence);
    /// The last change is another one now.
    void withdrawUndo();

Q_SIGNALS:
    void undoWanted();

protected:
    void enterEvent(QEnterEvent* event) override;
    void leaveEvent(QEvent* event) override;

private:
    QLabel* sign_;
    QLabel* text_;
    QPushButton* undo_;
    QTimer gone_;
    bool readAway_ = false; ///< it waits under the pointer until it has been read
};

} // namespace otterstone::app
