// Enter presses the button that has the keyboard, as Space does; a box is ticked by Space alone. Qt has it so in
// dialogs only, and this window has none.
#pragma once

#include <QObject>

class QWidget;

namespace otterstone::app {

/// To be installed on the application; looks after the buttons of one window and is owned by it.
class EnterPresses : public QObject {
public:
    explicit EnterPresses(QWidget* window);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    QWidget* window_;
};

} // namespace otterstone::app
