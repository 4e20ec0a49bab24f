#include "app/widgets/enter_presses.h"

#include <QCheckBox>
#include <QKeyEvent>
#include <QRadioButton>

namespace otterstone::app {

EnterPresses::EnterPresses(QWidget* window) : QObject(window), window_(window) {}

bool EnterPresses::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() != QEvent::KeyPress)
        return false;
    const auto* key = static_cast<QKeyEvent*>(event);
    auto* button = qobject_cast<QAbstractButton*>(watched);
    const bool chooses = qobject_cast<QCheckBox*>(watched) || qobject_cast<QRadioButton*>(watched);
    if (!button || chooses || button->window() != window_ || key->isAutoRepeat() ||
        (key->key() != Qt::Key_Return && key->key() != Qt::Key_Enter) ||
        (key->modifiers() & ~Qt::KeypadModifier) != Qt::NoModifier)
        return false;
    button->click();
    return true;
}

} // namespace otterstone::app
