// Choosing between banks: side by side, for a purpose, their curves over one another, in use, and by the devices they
// charge.
#pragma once

#include <QFutureWatcher>
#include <QWidget>

#include "app/book_session.h"
#include "core/judgement/rank.h"

class QComboBox;
class QLabel;
class QPushButton;
class QStackedWidget;
class QVBoxLayout;

namespace otterstone::app {

class BankPicker;
class ChoiceBars;
class DevicesView;
class FiguresTable;
class OverlayPlot;
class PurposeEditor;
class UseView;

class ChoosePage : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    enum View { Figures, Purpose, Curves, Use, Devices };
    explicit ChoosePage(BookSession& session, QWidget* parent = nullptr);
    /// Gathers the banks anew.
    void open();
    void setView(View view);
    [[nodiscard]] View view() const;
    void restyle();
    [[nodiscard]] const judgement::Comparison& comparison() const { return *compared_.comparison; }
    /// The newest one that is worked out.
    [[nodiscard]] const judgement::Ranking& ranking() const { return answer_.ranking; }
    /// A newer one is on its way, or what it stands on.
    [[nodiscard]] bool isRanking() const { return comparing_ || ranks_; }
    [[nodiscard]] const judgement::Purpose& purpose() const { return purpose_; }
    [[nodiscard]] UseView* use() const { return use_; }
    [[nodiscard]] DevicesView* devices() const { return devices_; }
    [[nodiscard]] OverlayPlot* plot() const { return plot_; }
    [[nodiscard]] QComboBox* curveKind() const { return curveKind_; }
    [[nodiscard]] FiguresTable* table() const { return table_; }
    [[nodiscard]] BankPicker* picker() const { return picker_; }
    /// The banks that are compared.
    [[nodiscard]] std::vector<records::Id> banks() const;

Q_SIGNALS:
    void workingWanted(const otterstone::Working& working);
    void runWanted(long long run);
    void sheetWanted();
    void problem(const QString& sentence);
    void done(const QString& sentence);

private:
    QWidget* buildFigures();
    QWidget* buildPurpose();
    QWidget* buildCurves();
    void takeBook();
    void takeEvidence(const SharedEvidence& evidence);
    [[nodiscard]] SharedEvidence chosen() const;
    void showBanks();
    void compareAnew();
    void takeComparison();
    void showFigures();
    void rankAnew();
    void showRanking();
    void choosePurpose(const judgement::Purpose& purpose);
    void listCurves();
    void drawCurves();
    void drawDevice(const QString& device);
    void copyCurve();

    BookSession& session_;
    SharedEvidence evidence_ = std::make_shared<const std::vector<evidence::Evidence>>();
    judgement::Purpose purpose_;
    // A hundred banks and thousands of trials take longer than a page may stand still: both are worked out in a
    // worker's thread, the figures first. What is shown belongs together, while the next is on its way.
    struct Compared {
        judgement::SharedComparison comparison = std::make_shared<const judgement::Comparison>();
        std::vector<std::string> unlike; ///< in words
    };
    Compared compared_;
    QFutureWatcher<Compared> comparer_;
    bool comparing_ = false, compareAgain_ = false; ///< a comparison is on its way; something changed meanwhile
    struct Answer {
        judgement::SharedComparison comparison = std::make_shared<const judgement::Comparison>();
        judgement::Purpose purpose;
        judgement::Ranking ranking;
    };
    Answer answer_;
    QFutureWatcher<Answer> ranker_;
    bool ranks_ = false, rankAgain_ = false; ///< the same of a ranking
    BankPicker* picker_;
    QStackedWidget* views_;
    std::vector<QPushButton*> viewButtons_;
    FiguresTable* table_;
    QLabel *unlike_, *verdict_, *about_, *turnings_;
    QComboBox* purposes_;
    ChoiceBars* bars_;
    PurposeEditor* editor_;
    OverlayPlot* plot_;
    QComboBox *curveKind_, *curveAxis_;
    UseView* use_;
    DevicesView* devices_;
};

} // namespace otterstone::app
