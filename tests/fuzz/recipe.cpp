// A recipe from a stranger: written out, told in words, and reckoned.
#include "bench/recipes/recipe.h"
#include "entry.h"

using namespace otterstone;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto recipe = bench::recipeFromJson(std::string(fuzz::text(data, size)), "here");
    if (!recipe)
        return 0;
    label::Label l;
    l.ports = {{"A", label::Direction::Out, {{Volts(5.0), Volts(5.0), Amps(2.4)}}, {}, {}},
               {"C", label::Direction::Both, {{Volts(5.0), Volts(9.0), Amps(2.0)}}, {}, {}}};
    for (const label::Label& bank : {label::Label{}, l}) {
        const bench::Recipe all = bench::expand(*recipe, bank, {{"charger", "cable", "C", "{}"}});
        fuzz::must(!all.steps.empty() && all.steps.size() < 100'000, "a recipe has steps, and not without end");
        for (const bench::Step& s : all.steps)
            fuzz::must(std::isfinite(bench::levelAt(s, bench::tierFor(s, bank))) && std::isfinite(s.seconds),
                       "a step is finite");
        (void)bench::describe(all, bank);
        if (const auto seconds = bench::estimateSeconds(all, bank, 20.0, 10.0))
            fuzz::must(std::isfinite(*seconds), "how long it takes is finite");
    }
    return 0;
}
