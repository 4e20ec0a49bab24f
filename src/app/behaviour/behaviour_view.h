// A run with a sheet: the sentence, the picture, the figures, and the grid in which it is written down; all follow what
// is typed.
#pragma once

#include <QVBoxLayout>
#include <QWidget>

#include "app/book_session.h"
#include "core/kinds/judge.h"
#include "core/quantity/working.h"

class QLabel;
class QPagedPaintDevice;
class QPushButton;
class QStackedWidget;

namespace otterstone::app {

class FlowLayout;
class MatrixBar;
class MatrixModel;
class NotebookBar;
class SheetModel;
class TypingGrid;

/// Only paints.
class BehaviourPicture : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    void show(const records::Sheet& sheet, const setup::Facts& facts, const QString& words);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    records::Sheet sheet_;
    setup::Facts facts_;
};

class BehaviourView : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    BehaviourView(BookSession& session, QWidget* parent = nullptr);

    void show(const records::Run& run);
    /// The keyboard goes into the grid.
    void startTyping();
    /// Its rows, as they stand now.
    void judge();
    /// What another page knows of it: between the sentence and the picture, and at the end.
    void putBelowTheSentence(QWidget* widget) { column_->insertWidget(1, widget); }
    void putBelowTheRows(QWidget* widget) { column_->addWidget(widget); }
    /// The sentence, the picture and the rows on paper.
    void print(QPagedPaintDevice& paper) const;
    /// The rows as CSV.
    void saveRows(const QString& path);

    [[nodiscard]] QString sentence() const;
    [[nodiscard]] TypingGrid* grid() const { return grid_; }
    [[nodiscard]] TypingGrid* matrixGrid() const { return matrixGrid_; }
    [[nodiscard]] SheetModel* model() const { return model_; }
    [[nodiscard]] NotebookBar* notebook() const { return notebook_; }
    [[nodiscard]] MatrixBar* matrixBar() const { return matrixBar_; }
    void uncheckFigures();

Q_SIGNALS:
    void workingWanted(const otterstone::Working& working);
    /// While nothing can be said the finding is empty.
    void judged(const otterstone::records::Run& run, const otterstone::kinds::Finding& finding);
    void problem(const QString& sentence);

private:
    void keep(const records::Sheet& sheet);
    void readBy(records::Id meter, bool byDisplay);
    void goOnInRhythm(int row);
    void widenColumns();
    [[nodiscard]] QString columnName(int section) const;
    void widenMatrix();
    struct Told {
        QString sentence;
        QStringList remarks;
    };
    [[nodiscard]] Told told() const; ///< as it is shown; on paper as it is printed
    void fillFigures(const std::vector<Working>& figures);
    void askForPaper();
    void askForFile();
    [[nodiscard]] bool isMatrix() const { return run_.kind == records::Kind::Matrix; }

    BookSession& session_;
    records::Run run_;
    setup::Facts facts_;
    setup::Setup setup_;
    kinds::Finding finding_;
    QStringList unread_; ///< what is wrong with single rows
    QString cannot_;     ///< why nothing can be said; empty where something can
    QLabel *sentence_, *remarks_, *hint_;
    BehaviourPicture* picture_;
    QWidget* figures_;
    FlowLayout* figureRow_;
    SheetModel* model_;
    MatrixModel* matrix_;
    TypingGrid *grid_, *matrixGrid_;
    QStackedWidget* grids_;
    QVBoxLayout* column_;
    NotebookBar* notebook_;
    MatrixBar* matrixBar_;
};

} // namespace otterstone::app
