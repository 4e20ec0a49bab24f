// Photographs and files of a bank or a run as small pictures: add, drop or paste them, write what they show, look at
// one, put it on the sheet, take it away.
#pragma once

#include <QListWidget>
#include <QWidget>

#include "app/book_session.h"
#include "book/attached/attachments.h"

class QLabel;
class QPushButton;

namespace otterstone::app {

/// As a command that can be undone; `bank` or `run` is kNew. A problem of `prepared` is passed on.
Result<void> attachTo(BookSession& session, records::Id bank, records::Id run, Result<book::Prepared> prepared);

class AttachedStrip : public QWidget {
    Q_OBJECT

public:
    explicit AttachedStrip(BookSession& session, QWidget* parent = nullptr);
    void showBank(records::Id bank);
    void showRun(records::Id run);
    [[nodiscard]] QListWidget* list() const { return list_; }

Q_SIGNALS:
    void problem(const QString& sentence);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void fill();
    void chooseFiles();
    void change(QListWidgetItem* item);
    void look(const QListWidgetItem* item);
    void takeAway();
    [[nodiscard]] std::vector<records::Attachment> those() const;
    void say(const Result<void>& done);

    BookSession& session_;
    records::Id bank_ = records::kNew, run_ = records::kNew;
    std::vector<records::Attachment> shown_;
    QLabel* none_;
    QListWidget* list_;
    QPushButton* add_;
};

} // namespace otterstone::app
