#include "core/case/readers/legacy_lists.h"

#include "core/case/readers/remedies.h"

#include <algorithm>
#include <cctype>
#include <cstdint>
#include <cstring>
#include <fmt/format.h>
#include <limits>
#include <optional>
#include <sstream>
#include <string>
#include <vector>
#include <vtkByteSwap.h>

namespace pyro {
namespace {

// So many whole numbers one after the other, as text or big-endian with 4 or 8 bytes. Nothing where the file ends, or
// text is no number.
class Numbers {
public:
    Numbers(std::istream& stream, bool ascii, std::size_t bytes, long long count)
        : m_buffer(*stream.rdbuf()), m_bytes(ascii ? 0 : bytes), m_left(static_cast<std::size_t>(count)) {}

    std::optional<long long> next() { return m_bytes == 0 ? text() : binary(); }

private:
    using Traits = std::char_traits<char>;

    std::optional<long long> text() {
        auto c = m_buffer.sgetc();
        while (c != Traits::eof() && std::isspace(c) != 0)
            c = m_buffer.snextc();
        const bool negative = c == '-';
        if (negative)
            c = m_buffer.snextc();
        if (c < '0' || c > '9')
            return std::nullopt;
        long long value = 0;
        for (; c >= '0' && c <= '9'; c = m_buffer.snextc()) {
            if (value > std::numeric_limits<long long>::max() / 16)
                return std::nullopt;
            value = 10 * value + (c - '0');
        }
        return negative ? -value : value;
    }

    std::optional<long long> binary() {
        if (m_at == m_block.size() && !fill())
            return std::nullopt;
        const auto taken = [&]<class Number>(Number number) { // the file has the highest byte first
            std::memcpy(&number, m_block.data() + m_at, sizeof number);
            m_at += sizeof number;
            vtkByteSwap::SwapBE(&number);
            return number;
        };
        return m_bytes == 4 ? taken(std::int32_t{}) : static_cast<long long>(taken(std::int64_t{}));
    }

    bool fill() {
        constexpr std::size_t most = 1 << 14;
        m_block.resize(m_bytes * std::min(most, m_left));
        const auto got = m_buffer.sgetn(m_block.data(), static_cast<std::streamsize>(m_block.size()));
        m_block.resize(static_cast<std::size_t>(std::max<std::streamsize>(got, 0)) / m_bytes * m_bytes);
        m_left -= m_block.size() / m_bytes;
        m_at = 0;
        return !m_block.empty();
    }

    std::streambuf& m_buffer;
    std::size_t m_bytes; // 0: text
    std::size_t m_left;  // not yet taken from the file
    std::vector<char> m_block;
    std::size_t m_at = 0;
};

class Walk {
public:
    Walk(std::istream& stream, const LegacyList& list, const std::string& where)
        : m_stream(stream), m_list(list), m_where(where) {}

    // "8 0 1 2 ...", cell after cell.
    Done counted() {
        Numbers numbers(m_stream, m_list.ascii, 4, m_list.size);
        long long left = m_list.size;
        for (long long cell = 0; cell < m_list.first; ++cell) {
            const auto nodes = left > 0 ? numbers.next() : std::nullopt;
            if (left > 0 && !nodes)
                return endsEarly(m_list.size - left);
            if (left == 0 || *nodes < 0 || *nodes > left - 1)
                return wrong(fmt::format("cell {} reaches beyond the {} numbers of its list", cell, m_list.size));
            for (long long i = 0; i < *nodes; ++i)
                if (!numbers.next())
                    return endsEarly(m_list.size - left + 1 + i);
            left -= 1 + *nodes;
        }
        return left == 0 ? Done()
                         : wrong(fmt::format("its {} cells have {} numbers fewer than it says", m_list.first, left));
    }

    // Where each cell's nodes begin, and then the nodes.
    Done apart() {
        for (const auto* title : {"OFFSETS", "CONNECTIVITY"}) {
            const bool starts = title[0] == 'O';
            const auto bytes = bytesOf(title);
            if (!bytes)
                return tl::unexpected(bytes.error());
            if (*bytes == 0)
                return {}; // a type of numbers that only the library may know
            const auto count = starts ? m_list.first : m_list.size;
            Numbers numbers(m_stream, m_list.ascii, *bytes, count);
            long long before = 0;
            for (long long i = 0; i < count; ++i) {
                const auto number = numbers.next();
                if (!number)
                    return endsEarly(i);
                if (starts && (*number < before || *number > m_list.size || (i == 0 && *number != 0)))
                    return wrong(
                        fmt::format("offset {} is {}, behind {} and of {} nodes", i, *number, before, m_list.size));
                before = *number;
            }
            if (starts && before != m_list.size)
                return wrong(fmt::format("its offsets end at {} of {} nodes", before, m_list.size));
        }
        return {};
    }

private:
    Result<std::size_t> bytesOf(const std::string& title) {
        std::string line;
        do
            if (!std::getline(m_stream, line))
                return tl::unexpected(endsEarly(0).error());
        while (std::ranges::all_of(line, [](unsigned char c) { return std::isspace(c) != 0; }));
        std::istringstream words(line);
        std::string word;
        std::string type;
        words >> word >> type;
        if (word != title)
            return tl::unexpected(wrong(fmt::format("\"{:.40}\" stands where {} belongs", line, title)).error());
        return std::size_t{type.ends_with("64") ? 8U : type.ends_with("32") ? 4U : 0U};
    }

    Done endsEarly(long long at) const {
        return fail(ErrorCode::FileTruncated,
                    fmt::format("\"{:.60}\": number {} of its list cannot be read", m_list.declared, at + 1), m_where,
                    "The file is probably cut short; copy or write it again");
    }
    Done wrong(std::string what) const {
        return fail(ErrorCode::LengthMismatch, fmt::format("\"{:.60}\": {}", m_list.declared, what), m_where,
                    writeAgain);
    }

    std::istream& m_stream;
    const LegacyList& m_list;
    const std::string& m_where;
};

} // namespace

Done walkLegacyList(std::istream& stream, const LegacyList& list, const std::string& where) {
    if (list.size == 0 && list.first == 0)
        return {};
    Walk walk(stream, list, where);
    return list.offsets ? walk.apart() : walk.counted();
}

} // namespace pyro
