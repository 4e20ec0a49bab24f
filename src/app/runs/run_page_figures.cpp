// The figures of a run: which come first, which a button away, and which one's working is open.
#include "app/runs/run_page.h"

#include <algorithm>

#include <QPushButton>

#include "app/behaviour/behaviour_view.h"
#include "app/theme.h"
#include "app/widgets/figure_button.h"
#include "app/widgets/flow_layout.h"
#include "core/kinds/figure_keys.h"

namespace otterstone::app {

namespace {

// The figures a tester looks for first; the rest is one key away.
constexpr const char* kFirst[] = {key::deliveredShare, key::countedWh,    key::energyAtPortWh, key::chargeSpeed,
                                  key::timeTo100,      key::projectedWh,  key::timeFrom,       "ohms:bank out",
                                  "ohms:meter",        "ohms:charger",    key::transfer,       key::transferredShare,
                                  key::inUseWatts,     key::plateauWatts, key::gaugeError,     key::reserveWh,
                                  key::heatAt25C,      key::againstClaim, key::againstDisplay};
// Said by another figure on the same page, by a switch of its schools, or by the ribbon.
constexpr const char* kElsewhere[] = {key::equivalentMah, key::timeTo80, "energy_at:wall", "energy_at:charger",
                                      "energy_at:load"};

bool isElsewhere(const Working& w) {
    return std::any_of(std::begin(kElsewhere), std::end(kElsewhere), [&](const char* key) { return w.key == key; });
}

} // namespace

FigureButton* RunPage::figure(const QString& key) const {
    for (auto* button : findChildren<FigureButton*>()) {
        if (qs(button->working().key) == key)
            return button;
    }
    return nullptr;
}

void RunPage::clearFigures() {
    for (FlowLayout* row : {figureRow_, moreRow_}) {
        while (QLayoutItem* item = row->takeAt(0)) {
            delete item->widget();
            delete item;
        }
    }
}

void RunPage::showFigures(const kinds::Finding& finding) {
    QString focused;
    for (auto* button : findChildren<FigureButton*>()) {
        if (button->hasFocus() || button->isChecked())
            focused = qs(button->working().key);
    }
    clearFigures();
    std::vector<const Working*> order;
    for (const char* key : kFirst) {
        if (const Working* w = kinds::figure(finding, key))
            order.push_back(w);
    }
    std::erase_if(order, [](const Working* w) { return w->isText; });
    const std::size_t first = order.size();
    for (const Working& w : finding.figures) {
        if (std::find(order.begin(), order.end(), &w) == order.end() && !isElsewhere(w) && !w.isText)
            order.push_back(&w);
    }
    for (const Working& w : finding.figures) { // remarks are long: they come last
        if (w.isText)
            order.push_back(&w);
    }
    more_->setText(tr("%1 more figures").arg(order.size() - first));
    for (std::size_t k = 0; k < order.size(); ++k) {
        const Working* w = order[k];
        auto* button = new FigureButton(*w);
        (k < first ? figureRow_ : moreRow_)->addWidget(button);
        connect(button, &FigureButton::clicked, this, [this, button] {
            const Working opened = button->working();
            uncheckFigures();
            button->setChecked(true);
            Q_EMIT workingWanted(opened);
        });
        if (!focused.isEmpty() && qs(w->key) == focused) {
            button->setChecked(true);
            Q_EMIT workingWanted(*w); // the drawer follows what has changed
        }
    }
    figures_->updateGeometry();
    moreFigures_->updateGeometry();
}

void RunPage::uncheckFigures() {
    behaviour_->uncheckFigures();
    for (auto* button : findChildren<FigureButton*>())
        button->setChecked(false);
}

} // namespace otterstone::app
