// Finding things in a window as a person does: by what they say.
#pragma once

#include <QLabel>
#include <QPushButton>
#include <QWidget>

namespace otterstone::testing {

inline QPushButton* button(QWidget* in, const QString& text) {
    for (auto* b : in->findChildren<QPushButton*>()) {
        if (b->text() == text)
            return b;
    }
    return nullptr;
}

/// Some visible label holds these words.
inline bool says(QWidget* in, const QString& words) {
    for (auto* label : in->findChildren<QLabel*>()) {
        if (label->isVisible() && label->text().contains(words))
            return true;
    }
    return false;
}

} // namespace otterstone::testing
