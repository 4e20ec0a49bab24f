// What an empty book shows: one clear next step, and the demo one click away.
#pragma once

#include <QWidget>

namespace otterstone::app {

class StartPage : public QWidget {
    Q_OBJECT

public:
    explicit StartPage(QWidget* parent = nullptr);

Q_SIGNALS:
    void newBankWanted();
    void demoWanted();
    void bookWanted();
};

} // namespace otterstone::app
