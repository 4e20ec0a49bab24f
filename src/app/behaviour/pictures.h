// One picture for each kind of sheet, drawn from what its judge found.
#pragma once

#include <QRectF>

#include "core/kinds/judge.h"

class QPainter;

namespace otterstone::app {

void paintNotebook(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts);
void paintSurvey(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts);
void paintStaircase(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts);
void paintSharing(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts);
void paintPassThrough(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts);
void paintLightLoad(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts);
void paintMatrix(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts);
/// As its blocks need it.
[[nodiscard]] double matrixHeight(const records::Sheet& sheet, const setup::Facts& facts);
void paintDirections(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts);
void paintCells(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts);

/// By the sheet's kind.
void paintBehaviour(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts);
/// How tall the picture wants to be at a width.
[[nodiscard]] double behaviourHeight(const records::Sheet& sheet, const setup::Facts& facts);

} // namespace otterstone::app
