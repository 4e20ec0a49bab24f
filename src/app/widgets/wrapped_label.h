// Words that wrap. Layouts ask again and again how tall they are at a width, and Qt shapes all of them each time; what
// was answered once is kept here until the words or their look change.
#pragma once

#include <vector>

#include <QLabel>

namespace otterstone::app {

class WrappedLabel : public QLabel {
public:
    explicit WrappedLabel(const QString& text = {}, QWidget* parent = nullptr);
    [[nodiscard]] int heightForWidth(int width) const override;

protected:
    bool event(QEvent* event) override;

private:
    struct Asked {
        int width, height;
    };
    mutable std::vector<Asked> asked_;
    mutable QString of_; ///< the words that were asked about
};

} // namespace otterstone::app
