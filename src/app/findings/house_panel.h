// The house's choices: on each question where testers disagree, the answer this book follows.
#pragma once

#include <vector>

#include <QFrame>

#include "app/book_session.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QVBoxLayout;

namespace otterstone::app {

class HousePanel : public QFrame {
    Q_OBJECT

public:
    HousePanel(BookSession& session, QWidget* parent = nullptr);
    void open();
    [[nodiscard]] QComboBox* box(const std::string& question) const;

Q_SIGNALS:
    void closed();
    void problem(const QString& sentence);

private:
    void fill();
    void keep();

    BookSession& session_;
    std::vector<QComboBox*> boxes_; ///< in the order of findings::questions()
    QLineEdit *otherVolts_, *fullShare_, *fullTime_;
    QLabel *wrong_, *changed_;
};

} // namespace otterstone::app
