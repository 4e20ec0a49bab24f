// Pages of the notebook: sheets of behaviour and readings by hand, pasted from anywhere.
#include "core/kinds/catalogue.h"
#include "core/kinds/judge.h"
#include "core/kinds/traced/finding.h"
#include "core/kinds/traced/hand.h"
#include "entry.h"
#include "finite.h"

using namespace otterstone;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    fuzz::Bytes in(data, size);
    const unsigned which = in.byte();
    const std::string text(in.rest());
    const auto& kinds = records::sheetKinds();
    const std::size_t all = std::size(kinds) + 1;
    if (which % all < std::size(kinds)) {
        setup::Facts facts;
        facts.label.ports = {{"A", label::Direction::Out, {{Volts(5.0), Volts(5.0), Amps(2.4)}}, {}, {}},
                             {"C", label::Direction::Both, {{Volts(5.0), Volts(9.0), Amps(2.0)}}, {}, {}}};
        const auto sheet = kinds::sheetFromText(kinds[which % all], text, (which / all) % 3);
        if (auto said = kinds::judge(sheet, facts)) {
            for (const Working& w : said->figures)
                fuzz::mustBeFinite(w);
            fuzz::mustBeFinite(kinds::findingOf(sheet, std::move(*said), facts, {}));
        }
        return 0;
    }
    const auto rows = kinds::rowsFromText(text, (which / all) % 3);
    for (const auto between : {trace::Between::Held, trace::Between::Joined}) {
        const auto hand = kinds::readByHand(rows, between);
        fuzz::mustBeSound(hand.trace);
        fuzz::must(std::isfinite(hand.doubtWattHours), "what lies between readings is finite");
        setup::Setup setup;
        setup.hand = between;
        setup.marks = hand.marks;
        for (const auto kind : {records::Kind::Drain, records::Kind::Recharge}) {
            if (const auto finding = kinds::analyse(hand.trace, kind, setup))
                fuzz::mustBeFinite(*finding);
        }
    }
    return 0;
}
