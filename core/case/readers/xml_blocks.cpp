#include "core/case/readers/xml_blocks.h"

#include "core/case/readers/remedies.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <fstream>

namespace pyro {
namespace {

// characters of a compressed block's head that are looked at
constexpr std::size_t longestHead = std::size_t{1} << 22;

int valueOf(char c) { // -1 for what is no digit of base64
    static const auto table = [] {
        std::array<std::int8_t, 256> all{};
        all.fill(-1);
        std::int8_t next = 0;
        for (const char digit : std::string_view("ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/"))
            all[static_cast<unsigned char>(digit)] = next++;
        return all;
    }();
    return table[static_cast<unsigned char>(c)];
}

std::string decoded(std::string_view text) {
    std::string out;
    std::uint32_t bits = 0;
    int have = 0;
    for (const char c : text) {
        const int value = valueOf(c);
        if (value < 0)
            continue;
        bits = bits << 6U | static_cast<std::uint32_t>(value);
        have += 6;
        if (have >= 8) {
            have -= 8;
            out += static_cast<char>(bits >> static_cast<unsigned>(have) & 0xffU);
        }
    }
    return out;
}

// The numbers at the start of a block.
class Head {
public:
    Head(std::string bytes, const BlockCoding& coding) : m_bytes(std::move(bytes)), m_coding(coding) {}
    std::optional<std::uint64_t> operator[](std::uint64_t at) const {
        if ((at + 1) * m_coding.headBytes > m_bytes.size())
            return std::nullopt;
        std::uint64_t value = 0;
        for (std::size_t i = 0; i < m_coding.headBytes; ++i) {
            const auto byte = static_cast<unsigned char>(
                m_bytes[at * m_coding.headBytes + (m_coding.bigEndian ? i : m_coding.headBytes - 1 - i)]);
            value = value << 8U | byte;
        }
        return value;
    }

private:
    std::string m_bytes;
    const BlockCoding& m_coding;
};

Done refuse(const DataBlock& block, const std::string& where, double declared, std::uint64_t held) {
    const bool absurd = declared > 1000.0 * static_cast<double>(std::max<std::uint64_t>(held, 1024));
    return fail(absurd ? ErrorCode::SizeAbsurd : ErrorCode::FileTruncated,
                fmt::format("array \"{}\" declares {:.4g} bytes, but its block holds {}", block.array, declared, held),
                where, absurd ? writeAgain : "It is probably cut short; copy or write it again");
}

// `held`: bytes from the block's start to where it must end at the latest.
Done checkHead(const Head& head, const BlockCoding& coding, const DataBlock& block, std::uint64_t held,
               const std::string& where) {
    if (block.bytes == std::uint64_t{0} && held == 0)
        return {};
    const auto first = head[0];
    if (!first)
        return refuse(block, where, static_cast<double>(block.bytes.value_or(1)), held);
    const auto belongs = [&](double bytes) -> Done {
        if (block.bytes && bytes != static_cast<double>(*block.bytes))
            return fail(
                ErrorCode::LengthMismatch,
                fmt::format("array \"{}\" declares {:.17g} bytes where {} belong", block.array, bytes, *block.bytes),
                where, writeAgain);
        return {};
    };
    if (!coding.compressed) {
        if (static_cast<double>(*first) + static_cast<double>(coding.headBytes) > static_cast<double>(held))
            return refuse(block, where, static_cast<double>(*first), held);
        return belongs(static_cast<double>(*first));
    }
    if (*first == 0)
        return belongs(0);
    const auto each = head[1];
    const auto last = head[2];
    if (!each || !last)
        return refuse(block, where, static_cast<double>(block.bytes.value_or(1)), held);
    const auto whole = static_cast<double>(*last > 0 ? *first - 1 : *first) * static_cast<double>(*each) +
                       static_cast<double>(*last);
    double packed = (3 + static_cast<double>(*first)) * static_cast<double>(coding.headBytes);
    if (packed > static_cast<double>(held))
        return refuse(block, where, packed, held);
    for (std::uint64_t i = 0; i < *first; ++i) {
        const auto size = head[3 + i];
        if (!size)
            break; // a head beyond what is looked at
        packed += static_cast<double>(*size);
    }
    if (packed > static_cast<double>(held))
        return refuse(block, where, packed, held);
    return belongs(whole);
}

} // namespace

void InlineBlock::add(std::string_view characters) {
    for (const char c : characters)
        if (valueOf(c) >= 0) {
            ++m_count;
            if (m_head.size() < longestHead)
                m_head += c;
        } else if (c == '=' && m_head.size() < longestHead) {
            m_head += c; // a head of its own ends here
        }
}

Done InlineBlock::check(const std::string& where) const {
    // Head and numbers may be encoded one by one: what pads the head is no part of the numbers.
    std::string bytes;
    std::string_view rest = m_head;
    while (!rest.empty()) {
        const auto pad = rest.find('=');
        bytes += decoded(rest.substr(0, pad));
        if (pad == std::string_view::npos)
            break;
        rest.remove_prefix(std::min(rest.find_first_not_of('=', pad), rest.size()));
    }
    return checkHead(Head(std::move(bytes), m_coding), m_coding, m_block, m_count * 3 / 4, where);
}

Done checkAppended(const std::filesystem::path& file, std::uint64_t begin, bool base64, const BlockCoding& coding,
                   std::span<const DataBlock> blocks) {
    std::error_code ignored;
    const auto size = std::filesystem::file_size(file, ignored);
    std::ifstream stream(file, std::ios::binary);
    std::string start(4096, '\0');
    stream.seekg(static_cast<std::streamoff>(begin));
    stream.read(start.data(), static_cast<std::streamsize>(start.size()));
    start.resize(static_cast<std::size_t>(std::max<std::streamsize>(stream.gcount(), 0)));
    const auto mark = start.find('_', std::min(start.find('>'), start.size()));
    if (mark == std::string::npos)
        return blocks.empty() ? Done()
                              : fail(ErrorCode::Syntax, "its appended data do not begin with an underscore",
                                     file.string(), writeAgain);
    const auto first = begin + mark + 1;
    for (const auto& block : blocks) {
        if (block.offset > size || first + block.offset >= size)
            return refuse(block, file.string(), static_cast<double>(block.offset), size - std::min(size, first));
        const auto at = first + block.offset;
        const auto left = size - at;
        // Of a compressed block the head tells how long it is itself.
        auto wanted = std::min<std::uint64_t>(left, base64 ? 64 : 48);
        std::string text;
        for (int round = 0; round < 2; ++round) {
            text.resize(wanted);
            stream.clear();
            stream.seekg(static_cast<std::streamoff>(at));
            stream.read(text.data(), static_cast<std::streamsize>(wanted));
            const auto count = Head(base64 ? decoded(text) : text, coding)[0];
            if (!coding.compressed || !count)
                break;
            const double bytes = (3 + static_cast<double>(*count)) * static_cast<double>(coding.headBytes);
            wanted = static_cast<std::uint64_t>(std::min(
                {static_cast<double>(left), static_cast<double>(longestHead), base64 ? 4 * bytes / 3 + 8 : bytes}));
        }
        if (auto checked = checkHead(Head(base64 ? decoded(text) : text, coding), coding, block,
                                     base64 ? left * 3 / 4 : left, file.string());
            !checked)
            return checked;
    }
    return {};
}

} // namespace pyro
