#include "terminal/plainly.h"

#include <iostream>
#include <streambuf>
#include <utility>

namespace otterstone::terminal {

namespace {

// Passes bytes on but for control characters: new lines, tabs and the bell stay. Of UTF-8 the second control block
// begins with C2.
class PlainBuffer : public std::streambuf {
public:
    explicit PlainBuffer(std::ostream& stream) : stream_(stream), to_(stream.rdbuf(this)) {}
    ~PlainBuffer() override { stream_.rdbuf(to_); }
    PlainBuffer(const PlainBuffer&) = delete;
    PlainBuffer& operator=(const PlainBuffer&) = delete;

protected:
    int_type overflow(int_type given) override {
        if (given == traits_type::eof())
            return traits_type::not_eof(given);
        const auto c = static_cast<unsigned char>(given);
        if (std::exchange(c2_, false))
            return c >= 0x80 && c < 0xa0                                  ? instead()
                   : put('\xc2') && put(traits_type::to_char_type(given)) ? given
                                                                          : traits_type::eof();
        if (c == 0xc2) {
            c2_ = true;
            return given;
        }
        const bool control = (c < 0x20 && c != '\n' && c != '\t' && c != '\r' && c != '\a') || c == 0x7f;
        return control ? instead() : put(traits_type::to_char_type(given)) ? given : traits_type::eof();
    }
    int sync() override { return to_->pubsync(); }

private:
    bool put(char c) { return to_->sputc(c) != traits_type::eof(); }
    int_type instead() { return put('\xef') && put('\xbf') && put('\xbd') ? 0 : traits_type::eof(); }
    std::ostream& stream_;
    std::streambuf* to_;
    bool c2_ = false;
};

} // namespace

void printPlainly() { static PlainBuffer out(std::cout), err(std::cerr); }

} // namespace otterstone::terminal
