// Within a reader of nested documents the first mistake is thrown up to where reading began, and becomes a Result
// there: errors never leave a file's functions by any other way.
#pragma once

#include "core/feedback/error.h"

#include <utility>

namespace pyro {

struct Mistake {
    Error error;
};

// The value, or its error thrown.
template <class T>
T got(Result<T> result) {
    if (!result)
        throw Mistake{result.error()};
    return std::move(*result);
}

// What `read` returns, or the mistake that it threw.
template <class Read>
auto caught(Read read) -> Result<decltype(read())> {
    try {
        return read();
    } catch (const Mistake& found) {
        return tl::unexpected(found.error);
    }
}

} // namespace pyro
