// What a person, a book or a bundle can write is shown as it is written: a name that looks like markup is a name.
#pragma once

#include <QObject>

namespace otterstone::app {

/// To be installed on the application: labels, tooltips and the texts of messages take what they are given for plain
/// text before they are first shown. Qt guesses otherwise, and a guess opens the file that a picture's address names.
/// A label that is meant to hold markup says so itself (Qt::RichText), and escapes what it is given.
class PlainLabels : public QObject {
public:
    using QObject::QObject;

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
};

} // namespace otterstone::app
