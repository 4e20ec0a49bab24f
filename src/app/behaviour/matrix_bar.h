// Above a matrix's grid: which of its axes go down and across, which layer is shown, and a further name on either.
#pragma once

#include <array>

#include <QWidget>

#include "core/kinds/matrix/matrix.h"

class QComboBox;
class QLabel;
class QLineEdit;

namespace otterstone::app {

class FlowLayout;
class MatrixModel;
class TypingGrid;

class MatrixBar : public QWidget {
    Q_OBJECT

public:
    MatrixBar(MatrixModel* model, TypingGrid* grid, QWidget* parent = nullptr);
    [[nodiscard]] QComboBox* turned() const { return turned_; }
    /// The boxes of the two layers, in their order.
    [[nodiscard]] QComboBox* layer(std::size_t which) const { return layers_[which].box; }
    [[nodiscard]] QLineEdit* add() const { return add_; }

private:
    struct Layer {
        QLabel* heading = nullptr;
        QComboBox* box = nullptr;
    };
    void fill();
    void takeName();
    void step(int by);

    MatrixModel* model_;
    TypingGrid* grid_;
    QComboBox* turned_;
    std::array<Layer, 2> layers_;
    QLineEdit* add_;
    bool addColumn_ = false; ///< what is added stands across
};

} // namespace otterstone::app
