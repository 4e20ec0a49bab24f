// The house's choices: on each question where testers disagree, the answer this book follows.
#pragma once

#include <cstddef>
#include <vector>

#include "app/book_session.h"
#include "app/widgets/side_panel.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QVBoxLayout;

namespace otterstone::app {

class HousePanel : public SidePanel {
    Q_OBJECT

public:
    HousePanel(BookSession& session, QWidget* parent = nullptr);
    void open();
    [[nodiscard]] QComboBox* box(const std::string& question) const;

private:
    void fill();
    void keep();
    void keepPrices();

    BookSession& session_;
    std::vector<QComboBox*> boxes_; ///< in the order of setup::questions()
    QLineEdit *otherVolts_, *fullShare_, *fullTime_;
    QLineEdit *currency_, *rates_;
    QLabel *wrong_, *changed_;
    std::ptrdiff_t runsChanged_ = 0;
};

} // namespace otterstone::app
