// A page or a panel of the window that is built when it is first wanted: a start lays out what is looked at, no more.
#pragma once

#include <functional>
#include <utility>

class QWidget;

namespace otterstone::app {

class BuiltLater {
public:
    BuiltLater() = default;
    BuiltLater(const BuiltLater&) = delete;
    BuiltLater& operator=(const BuiltLater&) = delete;

    /// Null as long as nobody has wanted it.
    [[nodiscard]] QWidget* widget() const { return widget_; }
    [[nodiscard]] bool isBuilt() const { return widget_ != nullptr; }
    /// Builds it, if nobody did.
    QWidget* wanted() {
        if (build_) // not twice, also if it is wanted while it is being built
            std::exchange(build_, {})();
        return widget_;
    }

protected:
    ~BuiltLater() = default;
    std::function<void()> build_;
    QWidget* widget_ = nullptr;
};

template<class W>
class WhenWanted final : public BuiltLater {
public:
    /// Says how: `make` gives it, in its place and connected.
    template<class Make>
    void isBuiltBy(Make make) {
        build_ = [this, make = std::move(make)] { widget_ = page_ = make(); };
    }
    W* get() {
        wanted();
        return page_;
    }
    W* operator->() { return get(); }

private:
    W* page_ = nullptr;
};

} // namespace otterstone::app
