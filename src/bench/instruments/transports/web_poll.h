// A page on the local network that is asked for again and again; each answer is read as one line.
#pragma once

#include <QNetworkAccessManager>
#include <QTimer>
#include <QUrl>

#include "bench/instruments/transports/line_port.h"
#include "bench/profiles/wire.h"

namespace otterstone::bench {

class WebPoll : public LinePort {
    Q_OBJECT

public:
    /// `address`: "host", "host:port".
    WebPoll(WebPage page, const QString& address, QObject* parent = nullptr);

    bool open(OpenMode mode) override;
    void close() override;

Q_SIGNALS:
    /// It answered for the first time.
    void answered();

private:
    void ask();

    WebPage page_;
    QUrl url_;
    QNetworkAccessManager network_;
    QTimer next_;
    bool heard_ = false;
};

} // namespace otterstone::bench
