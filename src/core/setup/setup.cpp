#include "core/setup/setup.h"

namespace otterstone::setup {

void setRating(Setup& setup, const label::Label& label) {
    using label::Reference;
    setup.ratings.clear();
    for (const Reference r : {Reference::Printed, Reference::MahNominal, Reference::MahOther}) {
        if (auto rating = label::ratedEnergy(label, r, setup.schools.otherCellVolts))
            setup.ratings.emplace_back(r, std::move(*rating));
    }
    setup.rating = label::ratedEnergy(label, setup.schools.reference, setup.schools.otherCellVolts);
    if (!setup.rating)
        setup.rating = label::ratedEnergy(label);
}

} // namespace otterstone::setup
