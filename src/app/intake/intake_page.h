// Intake of a bank: the label on the left, what it says about itself on the right, answering as one types.
#pragma once

#include <QWidget>

#include "app/book_session.h"

class QLabel;
class QVBoxLayout;

namespace otterstone::app {

class AttachedStrip;
class LabelForm;

class IntakePage : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    IntakePage(BookSession& session, QWidget* parent = nullptr);
    void show(records::Id bank);
    void focusName();
    [[nodiscard]] AttachedStrip* attached() const { return attached_; }

Q_SIGNALS:
    void problem(const QString& sentence);

private:
    void check();
    void keep();

    BookSession& session_;
    records::Id bank_ = records::kNew;
    LabelForm* form_;
    AttachedStrip* attached_;
    QLabel* title_;
    QVBoxLayout* answers_;
};

} // namespace otterstone::app
