// Where the bytes of a log come from: a file read in blocks, or text held in memory (pasted, or converted to UTF-8).
#pragma once

#include <cstddef>
#include <memory>
#include <string>

#include "core/quantity/problem.h"

namespace otterstone::logs {

/// Bytes of a log's beginning that tell its encoding and its layout.
inline constexpr std::size_t kLookAt = 65536;

class Source {
public:
    Source() = default;
    Source(const Source&) = delete;
    Source& operator=(const Source&) = delete;
    virtual ~Source() = default;

    [[nodiscard]] virtual std::size_t size() const = 0;
    /// Copies up to `length` bytes from `offset`; fewer only at the end or when reading fails. Safe from several
    /// threads.
    virtual std::size_t read(std::size_t offset, char* into, std::size_t length) const = 0;
};

/// What the source's text was before it became UTF-8 with "\n" between lines.
enum class Encoding { Utf8, Utf8Bom, Utf16Le, Utf16Be, Latin1 };
[[nodiscard]] std::string encodingName(Encoding e);

struct OpenedLog {
    std::unique_ptr<Source> source;
    Encoding encoding = Encoding::Utf8;
    std::size_t start = 0; ///< first byte behind a byte-order mark
    std::string name;      ///< file name without its folder, or "pasted text"
};

/// Opens a file of at most 2 GB. UTF-16 is converted as a whole (at most 256 MB), other encodings are read in place;
/// one that was packed with gzip is unpacked. Problems: cannot_open, log_too_large, empty_log, not_text, bad_gzip.
[[nodiscard]] Result<OpenedLog> openFile(const std::string& path);
[[nodiscard]] Result<OpenedLog> openText(std::string text, std::string name);

/// Latin-1 bytes as UTF-8.
[[nodiscard]] std::string latin1ToUtf8(std::string_view bytes);
[[nodiscard]] bool isUtf8(std::string_view bytes);

} // namespace otterstone::logs
