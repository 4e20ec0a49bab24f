// Beside the page: the piece of gear on one stretch of a run's path, chosen or written down; or a piece from the gear
// drawer. Below it, what a corrected figure changed.
#pragma once

#include "app/book_session.h"
#include "app/widgets/side_panel.h"

class QComboBox;
class QLabel;
class QPushButton;

namespace otterstone::app {

class GearForm;
class RippleList;

class GearPanel : public SidePanel {
    Q_OBJECT

public:
    GearPanel(BookSession& session, QWidget* parent = nullptr);
    /// `stretch` is an index of records::kStretches.
    void openStretch(records::Id run, int stretch);
    void openPiece(records::Id gear);
    [[nodiscard]] GearForm* form() const { return form_; }
    [[nodiscard]] QComboBox* piece() const { return piece_; }

private:
    void fill();
    void choose(int index);
    [[nodiscard]] std::optional<records::Gear> current() const;

    BookSession& session_;
    records::Id run_ = records::kNew;
    int stretch_ = 0;
    records::Id gear_ = records::kNew;
    QComboBox* piece_;
    GearForm* form_;
    QLabel* hint_;
    QPushButton* remove_;
    QLabel* users_;
    RippleList* ripples_;
};

} // namespace otterstone::app
