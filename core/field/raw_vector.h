// A vector for large results that are made again and again, as while a section is dragged: new elements are left as
// they are instead of being set to zero, and freed memory stays with the program instead of going back to the system.
#pragma once

#include <new>
#include <tbb/scalable_allocator.h>
#include <type_traits>
#include <utility>
#include <vector>

namespace pyro {

template <class T>
struct LeaveUninitialised : tbb::scalable_allocator<T> {
    template <class U>
    struct rebind {
        using other = LeaveUninitialised<U>;
    };
    template <class U>
    void construct(U* at) noexcept(std::is_nothrow_default_constructible_v<U>) {
        ::new (static_cast<void*>(at)) U;
    }
    template <class U, class... Arguments>
    void construct(U* at, Arguments&&... arguments) {
        ::new (static_cast<void*>(at)) U(std::forward<Arguments>(arguments)...);
    }
};
template <class T>
using RawVector = std::vector<T, LeaveUninitialised<T>>;

} // namespace pyro
