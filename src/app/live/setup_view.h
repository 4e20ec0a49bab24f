// Before a live run: which recipe, on which instruments, what it will do and how long, and the checklist that comes
// first.
#pragma once

#include <QWidget>

#include "app/live/live_bench.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;
class QRadioButton;

namespace otterstone::app {

class EndsFields;
class PointsToLookAt;

class SetupView : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    SetupView(BookSession& session, LiveBench& live, QWidget* parent = nullptr);

    void show(records::Id bank);
    void chooseRehearsal();
    /// To go on with a run that was left open: its own recipe is shown, and begins like any other, after the four
    /// points.
    void offerToGoOn(const records::Run& run);
    /// Takes the recipe of this key, if it is there.
    void chooseRecipe(const std::string& key);
    /// How a plan has it: pieces of the drawer, by name, with which the next run of the chosen recipe is made on this
    /// bank, and the watts at which, where that is what it is about.
    void takePlan(std::vector<std::string> gear, std::optional<double> watts);
    void restyle() { refresh(); }
    [[nodiscard]] records::Id bank() const { return bank_.id; }

    // Its parts, for tests and pictures.
    [[nodiscard]] QListWidget* recipes() const { return list_; }
    [[nodiscard]] QComboBox* setups() const { return setups_; }
    [[nodiscard]] QRadioButton* onInstruments() const { return real_; }
    [[nodiscard]] QLineEdit* speed() const { return speed_; }
    [[nodiscard]] const std::vector<QCheckBox*>& checks() const;
    [[nodiscard]] QPushButton* start() const { return start_; }

Q_SIGNALS:
    void instrumentsWanted();
    void recipeWanted(const QString& json);
    void problem(const QString& sentence);

private:
    void refresh();
    /// The recipe that is planned, as it is planned: read anew, it has its own watts.
    void atPlannedWatts();
    void begin();
    /// The chosen row as what it is: a recipe, or a file that cannot be used.
    [[nodiscard]] const RecipeText* chosen() const;
    [[nodiscard]] QString warnings() const;
    /// Of the plan, for this recipe on this bank; none: that of the last run.
    [[nodiscard]] std::vector<std::string> plannedGear() const;
    [[nodiscard]] const Unreadable* chosenUnreadable() const;
    [[nodiscard]] bool rehearses() const;

    BookSession& session_;
    LiveBench& live_;
    records::Bank bank_;
    OwnRecipes own_;
    std::optional<records::Run> leftOpen_; ///< to be gone on with, by the recipe it was begun with
    std::optional<RecipeText> itsRecipe_;
    std::vector<std::string> gear_;      ///< as a plan has it
    std::optional<double> watts_;        ///< so, too
    std::string gearFor_;                ///< the recipe for which it has it so
    std::optional<records::Kind> asked_; ///< for which kind it is asked how the bank begins
    QLabel *title_, *hint_, *about_, *willHead_, *will_, *estimate_, *instruments_, *outcome_;
    QListWidget* list_;
    QComboBox* setups_;
    QRadioButton *rehearse_, *real_;
    QLineEdit *speed_, *celsius_;
    QWidget* speedRow_;
    EndsFields* ends_;
    PointsToLookAt* points_;
    QPushButton *start_, *edit_, *setUp_;
};

} // namespace otterstone::app
