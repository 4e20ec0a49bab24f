// Listens to a port for a while and proposes the profile of what prints there.
#pragma once

#include <memory>

#include "bench/instruments/link.h"

namespace otterstone::bench {

struct Heard {
    Profile profile;                  ///< with what was recognised; kind meter
    std::vector<std::string> lines;   ///< the first ones, as they came
    std::vector<std::string> reasons; ///< why each column was named
};

class Listener : public QObject {
    Q_OBJECT

public:
    explicit Listener(QObject* parent = nullptr) : QObject(parent), done_(this) {}
    /// For so long, or until lines enough came; heard() or failed() follows.
    void listen(const Profile& as, const Address& address, int milliseconds = 4000);
    void stop();
    [[nodiscard]] bool isListening() const { return link_ != nullptr; }

Q_SIGNALS:
    void heard(const otterstone::bench::Heard& heard);
    void failed(const QString& sentence);

private:
    void conclude();
    std::unique_ptr<Link> link_;
    Profile as_;
    std::vector<std::string> lines_;
    QTimer done_;
};

} // namespace otterstone::bench
