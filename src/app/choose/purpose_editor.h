// Gates, anchors and weights of a purpose, changed into the house's own.
#pragma once

#include <functional>

#include <QWidget>

#include "core/judgement/purpose.h"

class QGridLayout;
class QLabel;
class QLineEdit;

namespace otterstone::app {

class PurposeEditor : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit PurposeEditor(QWidget* parent = nullptr);
    void show(const judgement::Purpose& purpose);

Q_SIGNALS:
    void changed(const otterstone::judgement::Purpose& purpose);

private:
    void rebuild();
    void tell(judgement::Purpose next);
    void addScaleRow(QGridLayout* grid, std::size_t k);
    void addGates(QGridLayout* grid, int row);
    QLineEdit* field(const QString& text, const QString& name,
                     const std::function<Result<void>(const std::string&)>& read);

    judgement::Purpose purpose_;
    QLabel* problem_;
    QWidget* body_ = nullptr;
};

/// A figure's anchor as a person reads and writes it: durations, percent, else the bare number.
[[nodiscard]] QString anchorText(const judgement::FigureKind& kind, double value);
[[nodiscard]] Result<double> readAnchor(const judgement::FigureKind& kind, const std::string& text);

} // namespace otterstone::app
