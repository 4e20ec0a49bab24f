// The form in which a label is written down: numbers as people write them, checked as they are typed.
#pragma once

#include <functional>
#include <map>

#include <QWidget>

#include "core/records/run.h"

class QCheckBox;
class QGridLayout;
class QLabel;
class QLineEdit;
class QPlainTextEdit;

namespace otterstone::app {

class PortTable;

class LabelForm : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit LabelForm(QWidget* parent = nullptr);
    /// `others` are the banks on the shelf, by number and name.
    void show(const records::Bank& bank, std::vector<std::pair<records::Id, std::string>> others);
    /// The bank as the form says; fields that are not understood keep their old value.
    [[nodiscard]] const records::Bank& bank() const { return bank_; }
    void focusName();

Q_SIGNALS:
    void typed();     ///< after each understood keystroke
    void committed(); ///< a field was left: time to keep it

private:
    struct Field {
        QLineEdit* edit;
        std::function<QString(const records::Bank&)> read;
        std::function<Result<void>(records::Bank&, const std::string&)> write;
    };
    void addField(QGridLayout* grid, int row, int column, const QString& name, const QString& unit,
                  const QString& example, std::function<QString(const records::Bank&)> read,
                  std::function<Result<void>(records::Bank&, const std::string&)> write);
    void understand(const Field& field);
    void showProblem();
    [[nodiscard]] QString nameOf(std::optional<records::Id> bank) const;
    [[nodiscard]] Result<void> readSpecimen(records::Bank& bank, const std::string& text) const;

    records::Bank bank_;
    std::vector<std::pair<records::Id, std::string>> others_;
    std::vector<Field> fields_;
    std::map<QLineEdit*, QString> problems_;
    PortTable* ports_;
    QCheckBox* passThrough_;
    QCheckBox* lowCurrent_;
    QPlainTextEdit* notes_;
    QLabel* problem_;
};

} // namespace otterstone::app
