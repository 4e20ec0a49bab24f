#include "logs/source.h"
#include "core/quantity/say.h"
#include <algorithm>
#include <cerrno>
#include <cstring>

#include <fcntl.h>
#include <iconv.h>
#include <sys/stat.h>
#include <unistd.h>

#include "logs/packed.h"

namespace otterstone::logs {

namespace {

constexpr std::size_t kLargestLog = std::size_t(1)
                                    << 31; // its rows are held in memory: some two bytes for each three of its text
constexpr std::size_t kMostConverted = std::size_t(1)
                                       << 28; // a UTF-16 log's text is, too, and twice while it is converted

class FileSource final : public Source {
public:
    FileSource(int descriptor, std::size_t size) : descriptor_(descriptor), size_(size) {}
    ~FileSource() override { ::close(descriptor_); }
    FileSource(const FileSource&) = delete;
    FileSource& operator=(const FileSource&) = delete;

    [[nodiscard]] std::size_t size() const override { return size_; }
    std::size_t read(std::size_t offset, char* into, std::size_t length) const override {
        std::size_t done = 0;
        while (done < length) {
            const ssize_t n = ::pread(descriptor_, into + done, length - done, static_cast<off_t>(offset + done));
            if (n < 0 && errno == EINTR)
                continue;
            if (n <= 0)
                break;
            done += static_cast<std::size_t>(n);
        }
        return done;
    }

private:
    int descriptor_;
    std::size_t size_;
};

class TextSource final : public Source {
public:
    explicit TextSource(std::string text) : text_(std::move(text)) {}
    [[nodiscard]] std::size_t size() const override { return text_.size(); }
    std::size_t read(std::size_t offset, char* into, std::size_t length) const override {
        if (offset >= text_.size())
            return 0;
        const std::size_t n = std::min(length, text_.size() - offset);
        std::memcpy(into, text_.data() + offset, n);
        return n;
    }

private:
    std::string text_;
};

std::string readAll(const Source& source) {
    std::string all(source.size(), '\0');
    all.resize(source.read(0, all.data(), all.size()));
    return all;
}

Result<std::string> fromUtf16(const std::string& bytes, const char* from, const std::string& name) {
    iconv_t converter = ::iconv_open("UTF-8", from);
    std::string out(bytes.size() * 3 / 2 + 16, '\0');
    char* in = const_cast<char*>(bytes.data());
    char* into = out.data();
    std::size_t left = bytes.size() & ~std::size_t(1);
    std::size_t room = out.size();
    const std::size_t result = ::iconv(converter, &in, &left, &into, &room);
    ::iconv_close(converter);
    if (result == static_cast<std::size_t>(-1))
        return problem("not_text", name, "the file claims to be UTF-16 but is not.", "Export the log as UTF-8 text.");
    out.resize(out.size() - room);
    return out;
}

// Text in two-byte characters shows as a zero in every other byte.
bool zerosAt(std::string_view head, std::size_t parity) {
    std::size_t zeros = 0;
    for (std::size_t k = parity; k < head.size(); k += 2)
        zeros += head[k] == '\0';
    return head.size() >= 4 && zeros * 10 >= head.size() / 2 * 8;
}

Result<OpenedLog> recogniseEncoding(std::unique_ptr<Source> source, std::string name) {
    OpenedLog log;
    log.name = std::move(name);
    std::string head(std::min(kLookAt, source->size()), '\0');
    head.resize(source->read(0, head.data(), head.size()));
    if (head.find_first_not_of(" \t\r\n") == std::string::npos)
        return problem("empty_log", log.name, "the file is empty.", "Check that the instrument finished writing it.");

    // By its byte-order mark, else by where the zeros of plain letters stand.
    const bool little = head.starts_with("\xFF\xFE"), big = head.starts_with("\xFE\xFF");
    const std::size_t mark = little || big ? 2 : 0;
    const char* const wide = little || (!big && zerosAt(head, 1)) ? "UTF-16LE"
                             : big || zerosAt(head, 0)            ? "UTF-16BE"
                                                                  : nullptr;
    const bool oldMac = head.find('\n') == std::string::npos && head.find('\r') != std::string::npos;
    if (wide || oldMac) {
        if (source->size() > kMostConverted)
            return problem("not_text", log.name, "the file is too large to be converted to UTF-8.",
                           "Export the log as UTF-8 text with line feeds.");
        std::string text = readAll(*source);
        if (wide) {
            log.encoding = wide[6] == 'L' ? Encoding::Utf16Le : Encoding::Utf16Be;
            auto converted = fromUtf16(text.substr(mark), wide, log.name);
            if (!converted)
                return tl::unexpected(converted.error());
            text = std::move(*converted);
        }
        if (text.find('\n') == std::string::npos)
            std::replace(text.begin(), text.end(), '\r', '\n');
        log.source = std::make_unique<TextSource>(std::move(text));
        return log;
    }
    if (head.find('\0') != std::string::npos)
        return problem("not_text", log.name, "this is not a text file.",
                       "Export the log as CSV or other delimited text from the instrument's own program.");
    if (head.starts_with("\xEF\xBB\xBF")) {
        log.encoding = Encoding::Utf8Bom;
        log.start = 3;
    } else {
        // A multi-byte character may be cut at the end of the look.
        std::string_view whole(head);
        if (head.size() == kLookAt)
            whole = whole.substr(0, whole.find_last_of('\n') + 1);
        log.encoding = isUtf8(whole) ? Encoding::Utf8 : Encoding::Latin1;
    }
    log.source = std::move(source);
    return log;
}

} // namespace

std::string encodingName(Encoding e) {
    switch (e) {
    case Encoding::Utf8: return "UTF-8";
    case Encoding::Utf8Bom: return say("UTF-8 with a byte-order mark");
    case Encoding::Utf16Le: return say("UTF-16, little-endian");
    case Encoding::Utf16Be: return say("UTF-16, big-endian");
    case Encoding::Latin1: return "Latin-1";
    }
    return {};
}

Result<OpenedLog> openFile(const std::string& path) {
    const std::string name = path.substr(path.find_last_of('/') + 1);
    const int descriptor =
        ::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK); // a pipe nobody writes to is refused, not waited for
    if (descriptor < 0)
        return problem("cannot_open", path, std::string("the file cannot be opened: ") + std::strerror(errno) + ".",
                       "Check its name and that you may read it.");
    struct stat info = {};
    if (::fstat(descriptor, &info) != 0 || !S_ISREG(info.st_mode)) {
        ::close(descriptor);
        return problem("cannot_open", path, "this is not a file.", "Name the log itself, not its folder.");
    }
    if (static_cast<std::size_t>(info.st_size) > kLargestLog) {
        ::close(descriptor);
        return problem("log_too_large", path, "this log has more than 2 GB.",
                       "Cut it into parts, or keep each tenth line; one reading a second serves every figure here.");
    }
    auto file = std::make_unique<FileSource>(descriptor, static_cast<std::size_t>(info.st_size));
    std::string head(2, '\0');
    head.resize(file->read(0, head.data(), head.size()));
    if (!isPacked(head))
        return recogniseEncoding(std::move(file), name);
    auto text = unpacked(readAll(*file), name);
    if (!text)
        return tl::unexpected(text.error());
    return recogniseEncoding(std::make_unique<TextSource>(std::move(*text)),
                             name.ends_with(".gz") ? name.substr(0, name.size() - 3) : name);
}

Result<OpenedLog> openText(std::string text, std::string name) {
    return recogniseEncoding(std::make_unique<TextSource>(std::move(text)), std::move(name));
}

std::string latin1ToUtf8(std::string_view bytes) {
    std::string out;
    for (const char c : bytes) {
        const auto u = static_cast<unsigned char>(c);
        if (u < 0x80) {
            out += c;
        } else {
            out += static_cast<char>(0xC0 | (u >> 6));
            out += static_cast<char>(0x80 | (u & 0x3F));
        }
    }
    return out;
}

bool isUtf8(std::string_view s) {
    for (std::size_t k = 0; k < s.size();) {
        const auto u = static_cast<unsigned char>(s[k]);
        const std::size_t more = u < 0x80 ? 0 : u >> 5 == 6 ? 1 : u >> 4 == 14 ? 2 : u >> 3 == 30 ? 3 : 9;
        if (more == 9 || k + more >= s.size() + (more == 0))
            return false;
        for (std::size_t m = 1; m <= more; ++m) {
            if ((static_cast<unsigned char>(s[k + m]) & 0xC0) != 0x80)
                return false;
        }
        k += more + 1;
    }
    return true;
}

} // namespace otterstone::logs
