#include "bench/instruments/transports/web_poll.h"

#include <algorithm>
#include <cmath>

#include <QNetworkProxy>
#include <QNetworkReply>

namespace otterstone::bench {

namespace {

constexpr int kPagePatienceMs = 4000;
constexpr qint64 kLongestPage = 1 << 18;

} // namespace

WebPoll::WebPoll(WebPage page, const QString& address, QObject* parent)
    : LinePort(parent), page_(std::move(page)),
      url_(QStringLiteral("http://") + address + QString::fromStdString(page_.path)), network_(this), next_(this) {
    network_.setProxy(QNetworkProxy::NoProxy); // it is in this house
    next_.setSingleShot(true);
    connect(&next_, &QTimer::timeout, this, &WebPoll::ask);
}

bool WebPoll::open(OpenMode mode) {
    if (!url_.isValid() || url_.host().isEmpty()) {
        setErrorString(tr("this is no address: write host or host:port"));
        return false;
    }
    QIODevice::open(mode | QIODevice::Unbuffered);
    ask();
    return true;
}

void WebPoll::close() {
    next_.stop();
    if (isOpen())
        QIODevice::close();
}

void WebPoll::ask() {
    QNetworkRequest request(url_);
    request.setTransferTimeout(kPagePatienceMs);
    request.setAttribute(QNetworkRequest::RedirectPolicyAttribute, QNetworkRequest::ManualRedirectPolicy);
    request.setRawHeader("Accept-Encoding", "identity"); // what is packed could be any size
    QNetworkReply* reply = network_.get(request);
    reply->setReadBufferSize(kLongestPage);
    connect(reply, &QNetworkReply::readyRead, reply, [reply] {
        if (reply->bytesAvailable() >= kLongestPage)
            reply->abort();
    });
    connect(reply, &QNetworkReply::finished, this, [this, reply] {
        reply->deleteLater();
        if (!isOpen())
            return;
        // One that answers, if only that it has no such page, is there, and is asked again in its own time.
        const int status = reply->attribute(QNetworkRequest::HttpStatusCodeAttribute).toInt();
        if (reply->error() != QNetworkReply::NoError && status < 300) {
            Q_EMIT lost(reply->errorString());
            return;
        }
        if (!std::exchange(heard_, true))
            Q_EMIT answered();
        const auto line = status < 300 ? lineOf(page_, reply->readAll().toStdString())
                                       : tl::unexpected(say("the page answers with status {}", std::to_string(status)));
        // What cannot be read is a line, too: a spoiled one, that says why.
        next_.start(static_cast<int>(std::lround(page_.every * 1000.0)));
        put(QByteArray::fromStdString(line ? *line : line.error()));
    });
}

} // namespace otterstone::bench
