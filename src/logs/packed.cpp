#include "logs/packed.h"

#include <algorithm>

#include <zlib.h>

namespace otterstone::logs {

namespace {

constexpr std::size_t kMostText = std::size_t(1) << 29;
constexpr std::size_t kAtOnce = std::size_t(1) << 20;
constexpr std::size_t kMostTaken = std::size_t(1) << 30; // of what zlib counts in 32 bits
constexpr int kGzip = 16 + MAX_WBITS;                    // as inflateInit2 takes it: a gzip header and trailer

class Inflater {
public:
    Inflater() : ready_(inflateInit2(&stream_, kGzip) == Z_OK) {}
    ~Inflater() {
        if (ready_)
            inflateEnd(&stream_);
    }
    Inflater(const Inflater&) = delete;
    Inflater& operator=(const Inflater&) = delete;
    [[nodiscard]] bool ready() const { return ready_; }
    z_stream& stream() { return stream_; }

private:
    z_stream stream_ = {};
    bool ready_;
};

} // namespace

bool isPacked(std::string_view head) { return head.starts_with("\x1F\x8B"); }

Result<std::string> unpacked(std::string_view bytes, const std::string& name) {
    const auto broken = [&name] {
        return problem("bad_gzip", name, "the packed log is damaged or cut off.",
                       "Copy it from the instrument once more, or unpack what is left of it with gzip.");
    };
    Inflater inflater;
    if (!inflater.ready())
        return broken();
    z_stream& z = inflater.stream();
    std::string text;
    bool whole = false;
    while (!bytes.empty()) {
        // Further members may follow the first; anything else behind it is no log.
        if (whole && (!isPacked(bytes) || inflateReset(&z) != Z_OK))
            return broken();
        const std::size_t taken = std::min(bytes.size(), kMostTaken);
        z.next_in = reinterpret_cast<Bytef*>(const_cast<char*>(bytes.data())); // zlib only reads it
        z.avail_in = static_cast<uInt>(taken);
        int state = Z_OK;
        while (state == Z_OK) {
            const std::size_t had = text.size();
            text.resize(had + kAtOnce);
            z.next_out = reinterpret_cast<Bytef*>(text.data() + had);
            z.avail_out = static_cast<uInt>(kAtOnce);
            state = inflate(&z, Z_NO_FLUSH);
            text.resize(had + kAtOnce - z.avail_out);
            if (text.size() > kMostText)
                return problem("log_too_large", name, "this log holds more than 512 MB once it is unpacked.",
                               "Unpack it first; logs of up to 2 GB are read from a file.");
            if (state == Z_OK && z.avail_in == 0 && z.avail_out > 0)
                break; // all that there is was taken
        }
        if (state != Z_OK && state != Z_STREAM_END)
            return broken();
        whole = state == Z_STREAM_END;
        bytes.remove_prefix(taken - z.avail_in);
        if (!whole && z.avail_in == 0 && bytes.empty())
            return broken();
    }
    return text;
}

} // namespace otterstone::logs
