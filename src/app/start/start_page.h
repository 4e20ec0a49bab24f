// What an empty book shows, or none: one clear next step, and the demo one click away.
#pragma once

#include <QWidget>

class QLabel;
class QPushButton;

namespace otterstone::app {

class StartPage : public QWidget {
    Q_OBJECT

public:
    explicit StartPage(QWidget* parent = nullptr);
    /// Whether there is a book that a bank could be put into.
    void setBookIsOpen(bool open);

Q_SIGNALS:
    void newBankWanted();
    void demoWanted();
    void bookWanted();

private:
    QLabel *words_, *saved_;
    QPushButton *next_, *demo_, *open_;
};

} // namespace otterstone::app
