// What the runs of one bank say together: usable energy against load and how long it runs a thing, pairs, repeats,
// cycles, inputs side by side.
#pragma once

#include <QWidget>

#include "app/book_session.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QVBoxLayout;

namespace otterstone::app {

class ClaimsTable;
class FigureButton;
class UsablePlot;

class FindingsPage : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    FindingsPage(BookSession& session, QWidget* parent = nullptr);
    void show(records::Id bank);
    [[nodiscard]] records::Id bank() const { return bank_; }
    [[nodiscard]] const together::BankFindings& findings() const { return findings_; }
    [[nodiscard]] QLineEdit* load() const { return load_; }
    [[nodiscard]] ClaimsTable* claims() const { return claims_; }
    void restyle();

Q_SIGNALS:
    void workingWanted(const otterstone::Working& working);
    void runWanted(long long run);
    void houseWanted();
    void planWanted(long long bank, const otterstone::judgement::Held& row);

private:
    void fill();
    void addClaims();
    void addBehaviours();
    void addLife();
    void answer();
    QVBoxLayout* section(const QString& title, const QString& sentence);
    void figures(QVBoxLayout* into, const std::vector<Working>& all);
    void addUsable();
    void addInputs();
    FigureButton* button(const Working& w);
    QWidget* runLinks(const std::vector<records::Id>& runs);

    BookSession& session_;
    records::Id bank_ = records::kNew;
    together::BankFindings findings_;
    judgement::Judged judged_;
    ClaimsTable* claims_ = nullptr;
    std::string claim_; ///< that the table is on
    QLabel* title_;
    QVBoxLayout* body_;
    UsablePlot* plot_ = nullptr;
    QLineEdit* load_ = nullptr;
    QLabel* answer_ = nullptr;
    QVBoxLayout* answerFigures_ = nullptr;
    QString asked_; ///< what was typed, kept while the page is filled anew
};

} // namespace otterstone::app
