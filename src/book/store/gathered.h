// What the runs of several banks say, worked out side by side: each bank once and when it is asked for, those of one
// family by one worker. Internal to the book's looks across banks (together, ripples).
#pragma once

#include <algorithm>
#include <atomic>
#include <future>
#include <map>
#include <memory>
#include <thread>

#include "book/store/finding_store.h"
#include "book/store/fresh_findings.h"
#include "core/together/bank_findings.h"

namespace otterstone::book {

struct OfBank {
    std::vector<const Run*> runs; ///< those whose finding can be worked out
    std::map<Id, KeyedFinding> findings;
    std::vector<FreshFinding> fresh;
};

/// All banks as a bench has them.
class Banks {
public:
    /// Keeps references. `earlier`: banks as another bench had them, whose findings are taken where they still hold.
    Banks(Connection& c, const Bench& bench, Banks* earlier = nullptr) : c_(c), bench_(bench), earlier_(earlier) {}
    [[nodiscard]] FindingsOfBank& findings(const Bank& bank);
    [[nodiscard]] OfBank& of(const Bank& bank);
    [[nodiscard]] std::vector<kinds::RunEntry> entries(const Bank& bank);
    /// What its runs say together, and beside other pieces of the same model.
    [[nodiscard]] together::BankFindings judge(const Bank& bank);
    /// What was not in the cache of this bank's findings, once.
    [[nodiscard]] std::vector<FreshFinding> takeFresh(const Bank& bank);
    /// Of a bank that no other is compared with, nothing is kept.
    void release(const Bank& bank);

private:
    Connection& c_;
    const Bench& bench_;
    Banks* earlier_;
    std::map<Id, std::unique_ptr<FindingsOfBank>> findings_;
    std::map<Id, OfBank> found_;
};

/// The book's gear, choices and banks, as they stand now.
[[nodiscard]] Bench benchOf(const QString& path);

/// Places in `banks`, by family, as banks of one are held beside each other.
[[nodiscard]] std::vector<std::vector<std::size_t>> familiesOf(const std::vector<Bank>& banks, const Bench& bench);

/// Calls of(connection, family) for each family until one answers false, in as many threads as the machine has, each
/// with a connection of its own. A problem of one of them is thrown here.
template<class Of>
void forEachFamily(const QString& path, const std::vector<std::vector<std::size_t>>& families, Of of) {
    std::atomic<std::size_t> next{0};
    const auto work = [&] {
        Connection c(path, Connection::Mode::ReadOnly);
        for (std::size_t at = next++; at < families.size(); at = next++) {
            if (!of(c, families[at]))
                next = families.size();
        }
    };
    std::vector<std::future<void>> workers;
    for (std::size_t k = 1; k < std::min<std::size_t>(std::thread::hardware_concurrency(), families.size()); ++k)
        workers.push_back(std::async(std::launch::async, work));
    work();
    for (auto& worker : workers)
        worker.get();
}

} // namespace otterstone::book
