#include "app/widgets/plain_labels.h"

#include <QEvent>
#include <QLabel>

namespace otterstone::app {

bool PlainLabels::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() != QEvent::Polish)
        return false;
    if (auto* label = qobject_cast<QLabel*>(watched); label && label->textFormat() == Qt::AutoText)
        label->setTextFormat(Qt::PlainText);
    return false;
}

} // namespace otterstone::app
