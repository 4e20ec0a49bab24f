// Edits and imports into a book for ever, confirming each change on standard output; kill_test kills it.
// Usage: kill_writer BOOK
#include <QCoreApplication>

#include <cstdio>

#include "book/store/book.h"

using namespace otterstone;

int main(int argc, char** argv) {
    QCoreApplication app(argc, argv);
    auto opened = argc == 2 ? book::Book::open(QString::fromLocal8Bit(argv[1])) : problem("usage", "", "");
    if (!opened)
        return 1;
    book::Book& book = **opened;
    trace::Trace t;
    for (int k = 0; k < 20'000; ++k) {
        t.time.push_back(k);
        t.volts.push_back(5.0);
        t.amps.push_back(1.0 + 0.001 * (k % 7));
    }
    for (int n = 0;; ++n) {
        records::Bank bank;
        bank.name = "Stone " + std::to_string(n);
        bank.id = book.save(bank).value_or(0);
        bank.notes = "edited";
        if (bank.id == 0 || !book.save(bank))
            return 2;
        std::printf("bank %lld\n", bank.id);
        std::fflush(stdout);
        records::Run run;
        run.bank = bank.id;
        const auto id = book::Book::addRunElsewhere(book.path(), run, t);
        if (!id)
            return 3;
        std::printf("run %lld\n", *id);
        std::fflush(stdout);
    }
}
