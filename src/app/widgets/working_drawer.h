// The working of a figure, unfolded: formula with numbers in place, point, corrections, and the doubt as bars.
#pragma once

#include <vector>

#include "app/widgets/side_panel.h"
#include "core/quantity/working.h"

namespace otterstone::app {

class WorkingDrawer : public SidePanel {
    Q_OBJECT

public:
    explicit WorkingDrawer(QWidget* parent = nullptr);
    [[nodiscard]] const Working& shownWorking() const { return working_; }
    void open(const Working& working);
    /// Shows the same figure as another school has it.
    void showSchool(const std::string& school);

Q_SIGNALS:
    /// This answer shall be the house's.
    void houseChosen(const QString& question, const QString& answer);

private:
    void unfold();
    void addSchools();
    void addStep(const Working& w, int depth);
    void addBudget(const Working& w);

    Working working_;              ///< as shown
    std::vector<Working> schools_; ///< all of the figure's schools, the house's first; empty when nobody disagrees
};

} // namespace otterstone::app
