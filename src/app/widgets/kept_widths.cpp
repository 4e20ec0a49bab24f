#include "app/widgets/kept_widths.h"

#include <set>

#include <QEvent>
#include <QHeaderView>
#include <QSettings>
#include <QSplitter>

namespace otterstone::app {

namespace {

constexpr int kLeast = 24, kMost = 2000; // pixels that a column can be of use with

QString key(const QString& name) { return QStringLiteral("widths/") + name; }

// Sections change by themselves, too, as what they hold does: only what changes between press and release was pulled.
class Keeper : public QObject {
public:
    Keeper(QHeaderView* header, std::function<QString(int)> name)
        : QObject(header), header_(header), name_(std::move(name)) {
        header->viewport()->installEventFilter(this);
        connect(header, &QHeaderView::sectionResized, this, [this](int section) {
            if (pulled_)
                changed_.insert(section);
        });
    }
    bool eventFilter(QObject* of, QEvent* event) override {
        if (event->type() == QEvent::MouseButtonPress) {
            pulled_ = true;
        } else if (event->type() == QEvent::MouseButtonRelease) {
            pulled_ = false;
            for (const int section : std::exchange(changed_, {})) {
                if (const QString name = name_(section);
                    !name.isEmpty() && header_->sectionResizeMode(section) == QHeaderView::Interactive)
                    QSettings().setValue(key(name), header_->sectionSize(section));
            }
        }
        return QObject::eventFilter(of, event);
    }

private:
    QHeaderView* header_;
    std::function<QString(int)> name_;
    std::set<int> changed_;
    bool pulled_ = false;
};

} // namespace

void keepColumns(QHeaderView* header, std::function<QString(int)> name) { new Keeper(header, std::move(name)); }

std::optional<int> keptWidth(const QString& name) {
    const int width = QSettings().value(key(name)).toInt();
    return width >= kLeast && width <= kMost ? std::optional(width) : std::nullopt;
}

void keepParts(QSplitter* splitter, const QString& name) {
    splitter->restoreState(QSettings().value(key(name)).toByteArray());
    QObject::connect(splitter, &QSplitter::splitterMoved, splitter,
                     [splitter, name] { QSettings().setValue(key(name), splitter->saveState()); });
}

} // namespace otterstone::app
