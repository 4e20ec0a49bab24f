// What is wanted of the campaign: what is to be known, of which banks, from when until when, with whose hands.
#pragma once

#include "app/widgets/side_panel.h"
#include "core/plan/campaign/wishes.h"
#include "core/records/planned.h"

class QCheckBox;
class QComboBox;
class QLineEdit;
class QListWidget;
class QSpinBox;

namespace otterstone::app {

class WishesPanel : public SidePanel {
    Q_OBJECT

public:
    explicit WishesPanel(QWidget* parent = nullptr);
    /// `now`: s since 1970, for moments as people write them.
    void show(const plan::campaign::Wishes& wishes, const std::vector<records::Bank>& banks, double now);

    // Its parts, for tests and pictures.
    [[nodiscard]] QLineEdit* from() const { return from_; }
    [[nodiscard]] QLineEdit* until() const { return until_; }
    [[nodiscard]] QLineEdit* hours() const { return hours_; }
    [[nodiscard]] QComboBox* purpose() const { return purpose_; }
    [[nodiscard]] QListWidget* banks() const { return banks_; }

Q_SIGNALS:
    void changed(const otterstone::plan::campaign::Wishes& wishes, const QString& what);
    /// A run of the tester's own is to be in the plan.
    void entryWanted(const otterstone::records::PlannedRun& entry);

private:
    void read();
    void buildEntry();
    void putEntry();

    plan::campaign::Wishes wishes_;
    double now_ = 0.0;
    bool filling_ = false;
    QCheckBox* claims_;
    QComboBox *purpose_, *unattended_;
    QSpinBox *loads_, *repeats_;
    QLineEdit *from_, *until_, *untilWhat_, *hours_;
    QListWidget* banks_;
    QComboBox *entryBank_, *entryRun_;
    QLineEdit* entryWords_;
    QLabel *caution_, *wrong_;
};

} // namespace otterstone::app
