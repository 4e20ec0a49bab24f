// A list that several values hold at once: it is copied when one of them changes its own, and not before.
#pragma once

#include <initializer_list>
#include <memory>
#include <vector>

namespace otterstone {

/// As a std::vector to read; changes go through changed(). T may be incomplete where a member is declared. Copies may
/// be read in several threads; one copy is changed in one thread alone, as ever.
template<class T>
class SharedList {
public:
    using value_type = T;
    using const_iterator = typename std::vector<T>::const_iterator;

    SharedList() = default;
    SharedList(std::initializer_list<T> all) : SharedList(std::vector<T>(all)) {}
    SharedList(std::vector<T> all) // NOLINT: a list is a list
        : list_(all.empty() ? nullptr : std::make_shared<std::vector<T>>(std::move(all))) {}

    [[nodiscard]] const std::vector<T>& list() const {
        static const std::vector<T> kNone;
        return list_ ? *list_ : kNone;
    }
    [[nodiscard]] const_iterator begin() const { return list().begin(); }
    [[nodiscard]] const_iterator end() const { return list().end(); }
    [[nodiscard]] std::size_t size() const { return list().size(); }
    [[nodiscard]] bool empty() const { return list().empty(); }
    [[nodiscard]] const T& operator[](std::size_t k) const { return list()[k]; }
    [[nodiscard]] const T& front() const { return list().front(); }
    [[nodiscard]] const T& back() const { return list().back(); }

    /// This one's own list, to change.
    [[nodiscard]] std::vector<T>& changed() {
        if (!list_)
            list_ = std::make_shared<std::vector<T>>();
        else if (list_.use_count() > 1)
            list_ = std::make_shared<std::vector<T>>(*list_);
        return *list_;
    }
    void push_back(T one) { changed().push_back(std::move(one)); }
    void clear() { list_.reset(); }

private:
    std::shared_ptr<std::vector<T>> list_;
};

} // namespace otterstone
