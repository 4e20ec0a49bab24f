#include "app/widgets/style_when_shown.h"

#include <QAbstractScrollArea>
#include <QCoreApplication>
#include <QEvent>

namespace otterstone::app {

namespace {

constexpr const char* kWaits = "waitsForStyle";

// Tells one part as it is shown.
class Waiting : public QObject {
public:
    explicit Waiting(QWidget* part) : QObject(part), part_(part) {
        part->setProperty(kWaits, true);
        part->installEventFilter(this);
    }

protected:
    bool eventFilter(QObject* of, QEvent* event) override {
        if (event->type() == QEvent::Show) {
            part_->removeEventFilter(this);
            part_->setProperty(kWaits, QVariant());
            QEvent changed(QEvent::StyleChange);
            QCoreApplication::sendEvent(part_, &changed);
            deleteLater();
        }
        return QObject::eventFilter(of, event);
    }

private:
    QWidget* part_;
};

} // namespace

StyleWhenShown::StyleWhenShown() { QCoreApplication::instance()->installEventFilter(this); }

bool StyleWhenShown::eventFilter(QObject* of, QEvent* event) {
    auto* part = event->type() == QEvent::StyleChange ? qobject_cast<QAbstractScrollArea*>(of) : nullptr;
    if (!part || (told_ && part->isVisible()))
        return QObject::eventFilter(of, event);
    if (told_ && !part->property(kWaits).toBool())
        new Waiting(part);
    return true;
}

} // namespace otterstone::app
