// Beside the page: the piece of gear on one stretch of a run's path, chosen or written down; or a piece from the gear
// drawer. Below it, what a corrected figure changed.
#pragma once

#include "app/book_session.h"
#include "app/widgets/side_panel.h"

class QComboBox;
class QLabel;
class QPushButton;
class QVBoxLayout;

namespace otterstone::app {

class GearForm;

class GearPanel : public SidePanel {
    Q_OBJECT

public:
    GearPanel(BookSession& session, QWidget* parent = nullptr);
    /// `stretch` is an index of book::kStretches.
    void openStretch(book::Id run, int stretch);
    void openPiece(book::Id gear);
    [[nodiscard]] GearForm* form() const { return form_; }
    [[nodiscard]] QComboBox* piece() const { return piece_; }

private:
    void fill();
    void choose(int index);
    void showRipples(const std::vector<book::Ripple>& ripples);
    [[nodiscard]] std::optional<book::Gear> current() const;

    BookSession& session_;
    book::Id run_ = book::kNew;
    int stretch_ = 0;
    book::Id gear_ = book::kNew;
    QComboBox* piece_;
    GearForm* form_;
    QLabel* hint_;
    QPushButton* remove_;
    QLabel* users_;
    QVBoxLayout* ripples_;
};

} // namespace otterstone::app
