// Colours, fonts and spacing of the window: a paper-like light theme and a true dark one.
#pragma once

#include <QColor>
#include <QFont>
#include <QString>

class QApplication;
class QBrush;

namespace otterstone::app {

enum class ThemeKind { Light, Dark };

struct Theme {
    ThemeKind kind = ThemeKind::Light;
    QColor paper, sheet, ink, faint, line; ///< window, raised surface, text, secondary text, hairlines
    QColor in, out;                        ///< energy into the bank, energy out of it
    QColor loss;                           ///< always hatched as well
    QColor warn;                           ///< always with words as well
    QColor focus;
    bool onPaper = false; ///< hatching by the painter's own pattern, which vector formats keep
};

inline constexpr int kGrid = 8; ///< pixels; all spacing is a multiple

[[nodiscard]] const Theme& theme();
/// As the desktop has its windows: light ink on a dark ground, or the other way. Before applyTheme() sets its own.
[[nodiscard]] ThemeKind systemTheme();
/// Sets palette, style sheet and fonts of the whole application.
void applyTheme(ThemeKind kind);
/// While it lives, what is painted is painted as on white paper, by lines that survive in SVG and PDF; the widgets keep
/// their theme.
class PaperScope {
public:
    PaperScope();
    ~PaperScope();
    PaperScope(const PaperScope&) = delete;
    PaperScope& operator=(const PaperScope&) = delete;

private:
    Theme before_;
};
/// The interface's font at a size in points relative to the body's.
[[nodiscard]] QFont font(double scale, QFont::Weight weight = QFont::Normal);
/// Loss or the unknown: never a plain colour.
[[nodiscard]] QBrush hatching(const QColor& colour, bool dense);
[[nodiscard]] inline QString qs(const std::string& s) { return QString::fromStdString(s); }

} // namespace otterstone::app
