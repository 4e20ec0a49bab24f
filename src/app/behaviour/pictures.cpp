// The picture of each kind of sheet, and how high it is on a page.
#include <algorithm>
#include <array>

#include "app/behaviour/pictures.h"
#include "core/kinds/catalogue.h"
#include "core/kinds/directions/directions.h"
#include "core/kinds/sharing/sharing.h"
#include "core/kinds/survey/survey.h"

namespace otterstone::app {

namespace {

using records::Kind;
using records::Sheet;
using setup::Facts;

double some(std::size_t n, double each, double least, double most) {
    return std::clamp(each * static_cast<double>(n), least, most);
}

// A lane for each port and way.
double surveyHeight(const Sheet& sheet, const Facts& facts) {
    std::vector<std::string> lanes;
    for (const auto& c : kinds::survey(sheet, facts).cells) {
        const std::string lane = c.port + (c.in ? "i" : "o");
        if (std::find(lanes.begin(), lanes.end(), lane) == lanes.end())
            lanes.push_back(lane);
    }
    return some(lanes.size(), 150.0, 150.0, 450.0);
}
double sharingHeight(const Sheet& sheet, const Facts& facts) {
    return some((kinds::sharing(sheet, facts).rounds.size() + 1) / 2, 190.0, 190.0, 570.0);
}
double directionsHeight(const Sheet& sheet, const Facts& facts) {
    return some(kinds::directions(sheet, facts).joints.size(), 64.0, 90.0, 320.0);
}
double low(const Sheet&, const Facts&) { return 190.0; }
double high(const Sheet&, const Facts&) { return 280.0; }
// A meter's watts want room beside the displays.
double notebookHeight(const Sheet& sheet, const Facts&) { return kinds::isMetered(sheet) ? 220.0 : 190.0; }

struct Picture {
    Kind kind;
    void (*paint)(QPainter&, const QRectF&, const Sheet&, const Facts&);
    double (*height)(const Sheet&, const Facts&);
};
constexpr std::array kPictures{Picture{Kind::Notebook, paintNotebook, notebookHeight},
                               Picture{Kind::Survey, paintSurvey, surveyHeight},
                               Picture{Kind::Staircase, paintStaircase, high},
                               Picture{Kind::Sharing, paintSharing, sharingHeight},
                               Picture{Kind::PassThrough, paintPassThrough, high},
                               Picture{Kind::LightLoad, paintLightLoad, low},
                               Picture{Kind::Matrix, paintMatrix, matrixHeight},
                               Picture{Kind::Directions, paintDirections, directionsHeight},
                               Picture{Kind::Cells, paintCells, low}};

constexpr bool eachHasOne() {
    std::size_t at = 0;
    for (const records::KindName& k : records::kKinds) {
        if (k.sheet && (at == kPictures.size() || kPictures[at++].kind != k.kind))
            return false;
    }
    return at == kPictures.size();
}
static_assert(eachHasOne(), "each kind of sheet has its picture, in the order of Kind");

const Picture* pictureOf(Kind kind) {
    const auto at =
        std::find_if(kPictures.begin(), kPictures.end(), [kind](const Picture& p) { return p.kind == kind; });
    return at == kPictures.end() ? nullptr : &*at;
}

} // namespace

void paintBehaviour(QPainter& painter, const QRectF& area, const Sheet& sheet, const Facts& facts) {
    if (const Picture* picture = pictureOf(sheet.kind))
        picture->paint(painter, area, sheet, facts);
}

double behaviourHeight(const Sheet& sheet, const Facts& facts) {
    const Picture* picture = pictureOf(sheet.kind);
    return picture ? picture->height(sheet, facts) : low(sheet, facts);
}

} // namespace otterstone::app
