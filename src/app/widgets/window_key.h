// A key of the whole window that belongs to one widget, and is gone with it.
#pragma once

#include <functional>

#include <QAction>
#include <QWidget>

namespace otterstone::app {

inline void addWindowKey(QWidget* of, const QKeySequence& keys, const std::function<void()>& then) {
    auto* action = new QAction(of);
    action->setShortcut(keys);
    action->setShortcutContext(Qt::WindowShortcut);
    of->addAction(action);
    QObject::connect(action, &QAction::triggered, of, then);
}

} // namespace otterstone::app
