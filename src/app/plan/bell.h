// Rings when a plan that was agreed on wants hands: in the window, and as a notification of the desktop.
#pragma once

#include <QObject>
#include <QTimer>

#include "app/book_session.h"

namespace otterstone::app {

class Bell : public QObject {
    Q_OBJECT

public:
    explicit Bell(BookSession& session, QObject* parent = nullptr);
    /// What has become due since the last look, by a clock of s since 1970. A plan as of a moment of its own does not
    /// ring.
    void look(double now);

Q_SIGNALS:
    void rings(const QString& sentence);

private:
    BookSession& session_;
    QTimer every_;
    std::optional<double> looked_;
};

/// Through the freedesktop service (Desktop Notifications Specification 1.2), without waiting for it; nothing where
/// there is none.
void notifyDesktop(const QString& sentence);

} // namespace otterstone::app
