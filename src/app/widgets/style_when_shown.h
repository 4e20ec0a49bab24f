// A change of style lays out what is seen, not all pages there are: a scrolling part measures everything in it when it
// is told, and most of them belong to pages that nobody looks at.
#pragma once

#include <QObject>

namespace otterstone::app {

/// While it lives, a scrolling part that is hidden hears of a new style when it is shown.
class StyleWhenShown : public QObject {
public:
    StyleWhenShown();
    /// Until this is called none hears of it: the style of now is on its way out.
    void tellSeen() { told_ = true; }

protected:
    bool eventFilter(QObject* of, QEvent* event) override;

private:
    bool told_ = false;
};

} // namespace otterstone::app
