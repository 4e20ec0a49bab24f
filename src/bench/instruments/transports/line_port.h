// A connection that hands out whole lines: what the ways of being connected have in common that are no byte stream of
// the system's.
#pragma once

#include <algorithm>
#include <cstring>

#include <QIODevice>

namespace otterstone::bench {

class LinePort : public QIODevice {
    Q_OBJECT

public:
    using QIODevice::QIODevice;
    [[nodiscard]] bool isSequential() const override { return true; }
    [[nodiscard]] qint64 bytesAvailable() const override { return lines_.size() + QIODevice::bytesAvailable(); }

Q_SIGNALS:
    /// It was not asked to close, and is gone.
    void lost(const QString& why);

protected:
    /// A line came, without its ending.
    void put(const QByteArray& line) {
        lines_ += line + '\n';
        Q_EMIT readyRead();
    }
    qint64 readData(char* data, qint64 most) override {
        const qint64 size = std::min<qint64>(most, lines_.size());
        std::memcpy(data, lines_.constData(), static_cast<std::size_t>(size));
        lines_.remove(0, size);
        return size;
    }
    /// Nothing is said to it, but by those that know how.
    qint64 writeData(const char*, qint64 size) override { return size; }

private:
    QByteArray lines_;
};

} // namespace otterstone::bench
