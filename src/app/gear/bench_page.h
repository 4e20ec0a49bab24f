// The bench: the gear drawer, and the ways to begin a measurement.
#pragma once

#include <QWidget>

#include "app/book_session.h"

class QVBoxLayout;

namespace otterstone::app {

class BenchPage : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    BenchPage(BookSession& session, QWidget* parent = nullptr);
    void refresh();

Q_SIGNALS:
    void gearWanted(long long gear);
    void handWanted();
    void logWanted();
    void cautionsWanted();
    void problem(const QString& sentence);

private:
    void add(records::GearKind kind);

    BookSession& session_;
    QVBoxLayout* drawer_;
};

} // namespace otterstone::app
