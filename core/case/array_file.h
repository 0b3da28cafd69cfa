// The file under the case store and its indexes: named flat arrays, 64-byte aligned, and one JSON header at the
// end. Written once to a temporary name and renamed, then mapped read-only. Native byte order; a file of another
// version or machine is simply not opened and made anew.
#pragma once

#include "core/feedback/error.h"

#include <cstdint>
#include <filesystem>
#include <memory>
#include <nlohmann/json.hpp>
#include <span>
#include <string>
#include <unordered_map>

namespace pyro {

enum class ElementType : std::uint8_t { F32, F64, U8, U32, U64 };

template <class T>
constexpr ElementType elementTypeOf();
template <>
constexpr ElementType elementTypeOf<float>() {
    return ElementType::F32;
}
template <>
constexpr ElementType elementTypeOf<double>() {
    return ElementType::F64;
}
template <>
constexpr ElementType elementTypeOf<std::uint8_t>() {
    return ElementType::U8;
}
template <>
constexpr ElementType elementTypeOf<std::uint32_t>() {
    return ElementType::U32;
}
template <>
constexpr ElementType elementTypeOf<std::uint64_t>() {
    return ElementType::U64;
}

// A read-only view of real numbers stored as float or double; values come out as double.
class RealView {
public:
    RealView() = default;
    explicit RealView(std::span<const float> values) : m_floats(values.data()), m_size(values.size()) {}
    explicit RealView(std::span<const double> values) : m_doubles(values.data()), m_size(values.size()) {}

    std::size_t size() const { return m_size; }
    bool empty() const { return m_size == 0; }
    double operator[](std::size_t at) const {
        return m_floats != nullptr ? static_cast<double>(m_floats[at]) : m_doubles[at];
    }
    // Calls `use` with the typed span, for tight loops.
    template <class Use>
    decltype(auto) visit(Use&& use) const {
        return m_floats != nullptr ? use(std::span<const float>(m_floats, m_size))
                                   : use(std::span<const double>(m_doubles, m_size));
    }

private:
    const float* m_floats = nullptr;
    const double* m_doubles = nullptr;
    std::size_t m_size = 0;
};

class ArrayFileWriter {
public:
    // Writes to a temporary sibling of `target`; nothing stands at `target` before finish() succeeds.
    explicit ArrayFileWriter(std::filesystem::path target);
    ~ArrayFileWriter();
    ArrayFileWriter(const ArrayFileWriter&) = delete;
    ArrayFileWriter& operator=(const ArrayFileWriter&) = delete;

    // Room for a new array within the mapped file, to be filled before the next call, by any number of threads.
    // Empty once writing has failed; finish() tells so.
    template <class T>
    std::span<T> space(const std::string& name, std::size_t count) {
        auto* begin = reserve(name, elementTypeOf<T>(), count, sizeof(T));
        return {reinterpret_cast<T*>(begin), begin == nullptr ? 0 : count};
    }
    template <class T>
    void add(const std::string& name, std::span<const T> values) {
        copy(values.data(), reinterpret_cast<std::byte*>(space<T>(name, values.size()).data()), values.size_bytes());
    }

    // Adds the header with `meta` and puts the file in place. Errors: WriteFailed (disk full, no permission).
    Done finish(nlohmann::json meta);

private:
    std::byte* reserve(const std::string& name, ElementType type, std::size_t count, std::size_t elementSize);
    static void copy(const void* from, std::byte* to, std::size_t bytes);
    void release();
    void write(const void* data, std::size_t bytes, std::uint64_t at);

    std::filesystem::path m_target;
    std::filesystem::path m_temporary;
    int m_descriptor = -1;
    std::uint64_t m_end; // where the next array may begin
    bool m_failed = false;
    nlohmann::json m_arrays = nlohmann::json::array();
    void* m_mapped = nullptr;
    std::size_t m_mappedSize = 0;
};

class ArrayFile {
public:
    // Maps the file. Errors: FileMissing, WrongVersion, FileTruncated; each means "make it anew".
    static Result<std::shared_ptr<const ArrayFile>> open(const std::filesystem::path& file);
    ~ArrayFile();
    ArrayFile(const ArrayFile&) = delete;
    ArrayFile& operator=(const ArrayFile&) = delete;

    const nlohmann::json& meta() const { return m_meta; }
    bool contains(const std::string& name) const { return m_entries.contains(name); }
    // The array of that name; empty when there is none or its type differs.
    template <class T>
    std::span<const T> array(const std::string& name) const {
        const auto found = m_entries.find(name);
        if (found == m_entries.end() || found->second.type != elementTypeOf<T>())
            return {};
        return {reinterpret_cast<const T*>(m_begin + found->second.offset), found->second.count};
    }
    RealView reals(const std::string& name) const;

private:
    struct Entry {
        ElementType type;
        std::uint64_t offset;
        std::uint64_t count;
    };
    ArrayFile() = default;
    Done readHeader(const std::filesystem::path& file);

    const std::byte* m_begin = nullptr;
    std::size_t m_size = 0;
    nlohmann::json m_meta;
    std::unordered_map<std::string, Entry> m_entries;
};

} // namespace pyro
