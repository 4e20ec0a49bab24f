// The subcommand that plans a campaign.
#include <chrono>
#include <iostream>

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

#include "cli/bench_options.h"
#include "cli/commands.h"
#include "cli/options.h"
#include "core/plan/campaign/told.h"
#include "core/quantity/format.h"

namespace otterstone::cli {

namespace {

namespace campaign = plan::campaign;

constexpr double kOneMoreShare = 0.1; // of the time to search is spent on each piece that might be added

struct PlanOptions {
    bool json = false;
    std::string problem, seconds = "10";
};

// The core knows no clock: its search asks this one.
campaign::GoOn within(double seconds) {
    const auto end = std::chrono::steady_clock::now() + std::chrono::duration<double>(seconds);
    return [end](const campaign::Answer&) { return std::chrono::steady_clock::now() < end; };
}

void printPlan(const campaign::Problem& p, const campaign::Told& told) {
    std::cout << sentenceOf(p, told) << "\n";
    for (const campaign::Placed& placed : told.answer.schedule.placed) {
        const campaign::Job& j = p.jobs[placed.job];
        std::cout << showDuration(placed.from) << " to " << showDuration(placed.to) << "\t" << j.id;
        if (j.bank)
            std::cout << ", " << p.banks[*j.bank].id << ": " << records::typedState(placed.begin) << " to "
                      << records::typedState(placed.end);
        for (std::size_t n = 0; n < placed.pieces.size(); ++n)
            std::cout << (n == 0 ? ", on " : ", ") << p.pieces[placed.pieces[n]].id;
        const std::string why = whyThen(p, told.answer.schedule, placed);
        std::cout << (why.empty() ? "" : ", " + why) << "\n";
    }
    for (const campaign::LeftOut& l : told.answer.schedule.leftOut)
        std::cout << "Left out: " << p.jobs[l.job].id << ": " << l.why << "\n";
    for (const campaign::OneMore& o : told.oneMore)
        std::cout << "One more " << o.piece << ": "
                  << (o.gains > 0.0   ? "more of it fits"
                      : o.saves > 0.0 ? showDuration(o.saves) + " earlier"
                                      : "nothing gained")
                  << "\n";
    for (const std::string& caution : campaign::cautionsOf(p, told.answer.schedule))
        std::cout << caution << "\n";
}

int planIt(const PlanOptions& o) {
    return guard([&] {
        const double seconds = positive(o.seconds, "--seconds");
        const auto text = contentsOf(o.problem);
        if (!text)
            throw Wrong{{"no_file", o.problem, "the file cannot be opened.", "Check its name."}};
        const auto p = campaign::problemFromText(*text, o.problem);
        if (!p)
            return complain(p.error());
        campaign::Told told;
        told.answer = campaign::solve(*p, within(seconds));
        told.sure = campaign::howSure(*p, told.answer.schedule);
        told.scarce = campaign::scarceOf(*p, told.answer.schedule);
        told.oneMore = campaign::oneMoreOf(*p, told.answer, [&] { return within(seconds * kOneMoreShare); });
        if (o.json)
            return print(toldJson(*p, told));
        printPlan(*p, told);
        return finish(kDone);
    });
}

} // namespace

void addPlanCommand(CLI::App& app, int& code) {
    static PlanOptions o;
    auto* sub = app.add_subcommand("plan", "Plan a campaign: which job when, on which gear, and what to leave out");
    sub->add_option("--problem", o.problem, "the jobs, pieces, hours and window, as a JSON file")->required();
    sub->add_option("--seconds", o.seconds, "to search for, at most")->capture_default_str();
    sub->add_flag("--json", o.json, "print one JSON object");
    sub->callback([&code] { code = planIt(o); });
}

} // namespace otterstone::cli
