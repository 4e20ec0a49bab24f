// Under a run's sentence: how it began and ended and how that is known, and what it asks, each answer one key away.
#pragma once

#include <QWidget>

#include "app/book_session.h"

class QLabel;
class QVBoxLayout;

namespace otterstone::app {

class EndsBar : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit EndsBar(BookSession& session, QWidget* parent = nullptr);
    void show(records::Id run, const kinds::Finding& finding);
    void clear();
    [[nodiscard]] QString ends() const;
    /// The questions that are open, in words.
    [[nodiscard]] QStringList questions() const;

public Q_SLOTS:
    /// The answer with this number (from 1) to the first open question; false when there is none.
    bool answer(int number);

Q_SIGNALS:
    void problem(const QString& sentence);

private:
    void ask(const kinds::Question& question, bool first);
    void take(const std::string& key, const std::string& answer);
    void allAsUsual();

    BookSession& session_;
    records::Id run_ = records::kNew;
    records::Kind kind_ = records::Kind::Drain; ///< that it serves as
    std::vector<kinds::Question> questions_;
    QLabel* ends_;
    QWidget* taken_;
    QVBoxLayout* asked_;
};

} // namespace otterstone::app
