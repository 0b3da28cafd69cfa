#include "core/case/array_file.h"

#include <algorithm>
#include <array>
#include <cstring>
#include <fcntl.h>
#include <fmt/format.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <tbb/parallel_for.h>
#include <unistd.h>

namespace pyro {
namespace {

constexpr std::array<char, 8> magic{'P', 'Y', 'R', 'O', 'A', 'R', 'R', '1'};
constexpr std::uint64_t alignment = 64;

struct Preamble {
    std::array<char, 8> magic;
    std::uint64_t headerOffset;
    std::uint64_t headerSize;
    std::uint64_t byteOrderMark;
};
constexpr std::uint64_t byteOrderMark = 0x0102030405060708ULL;

std::size_t elementSize(ElementType type) {
    switch (type) {
    case ElementType::U8:
        return 1;
    case ElementType::F32:
    case ElementType::U32:
        return 4;
    case ElementType::F64:
    case ElementType::U64:
        return 8;
    }
    return 1;
}

} // namespace

ArrayFileWriter::ArrayFileWriter(std::filesystem::path target)
    : m_target(std::move(target)), m_temporary(m_target.string() + fmt::format(".{}.part", ::getpid())),
      m_end(sizeof(Preamble)) {
    m_descriptor = ::open(m_temporary.c_str(), O_RDWR | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
    m_failed = m_descriptor < 0;
}

ArrayFileWriter::~ArrayFileWriter() {
    release();
    if (m_descriptor >= 0) {
        ::close(m_descriptor);
        std::error_code ignored;
        std::filesystem::remove(m_temporary, ignored);
    }
}

void ArrayFileWriter::release() {
    if (m_mapped != nullptr)
        ::munmap(m_mapped, m_mappedSize);
    m_mapped = nullptr;
}

// The blocks are allocated first: a full disk is an error here, not a signal while the mapped pages are filled.
std::byte* ArrayFileWriter::reserve(const std::string& name, ElementType type, std::size_t count,
                                    std::size_t bytesEach) {
    release();
    const auto begin = (m_end + alignment - 1) / alignment * alignment;
    m_arrays.push_back({{"name", name}, {"type", static_cast<int>(type)}, {"offset", begin}, {"count", count}});
    m_end = begin + count * bytesEach;
    if (m_failed || count == 0)
        return nullptr;
    const auto page = static_cast<std::uint64_t>(::sysconf(_SC_PAGESIZE));
    const auto from = begin / page * page;
    m_mappedSize = m_end - from;
    m_failed = ::posix_fallocate(m_descriptor, 0, static_cast<off_t>(m_end)) != 0;
    void* mapped = m_failed ? MAP_FAILED
                            : ::mmap(nullptr, m_mappedSize, PROT_READ | PROT_WRITE, MAP_SHARED, m_descriptor,
                                     static_cast<off_t>(from));
    m_failed = mapped == MAP_FAILED;
    if (m_failed)
        return nullptr;
    m_mapped = mapped;
    return static_cast<std::byte*>(mapped) + (begin - from);
}

void ArrayFileWriter::copy(const void* from, std::byte* to, std::size_t bytes) {
    if (to == nullptr)
        return;
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, bytes, std::size_t{1} << 20), [&](const auto& range) {
        std::memcpy(to + range.begin(), static_cast<const std::byte*>(from) + range.begin(), range.size());
    });
}

void ArrayFileWriter::write(const void* data, std::size_t bytes, std::uint64_t at) {
    const auto* next = static_cast<const char*>(data);
    while (!m_failed && bytes > 0) {
        const auto written = ::pwrite(m_descriptor, next, bytes, static_cast<off_t>(at));
        m_failed = written <= 0;
        next += written;
        bytes -= static_cast<std::size_t>(std::max<ssize_t>(written, 0));
        at += static_cast<std::uint64_t>(std::max<ssize_t>(written, 0));
    }
}

Done ArrayFileWriter::finish(nlohmann::json meta) {
    release();
    const nlohmann::json header{{"arrays", m_arrays}, {"meta", std::move(meta)}};
    const std::string text = header.dump();
    const Preamble preamble{magic, m_end, text.size(), byteOrderMark};
    write(text.data(), text.size(), m_end);
    write(&preamble, sizeof(preamble), 0);
    const bool closed = m_descriptor >= 0 && ::close(m_descriptor) == 0;
    m_descriptor = -1;
    std::error_code renamed;
    if (!m_failed && closed)
        std::filesystem::rename(m_temporary, m_target, renamed);
    if (m_failed || !closed || renamed) {
        std::error_code ignored;
        std::filesystem::remove(m_temporary, ignored);
        return fail(ErrorCode::WriteFailed, "the case store cannot be written", m_target.string(),
                    "Free some disk space or point XDG_CACHE_HOME to a folder that can be written");
    }
    return {};
}

Result<std::shared_ptr<const ArrayFile>> ArrayFile::open(const std::filesystem::path& file) {
    const int descriptor = ::open(file.c_str(), O_RDONLY | O_CLOEXEC);
    if (descriptor < 0)
        return fail(ErrorCode::FileMissing, "the store does not exist", file.string());
    struct stat status {};
    std::shared_ptr<ArrayFile> opened(new ArrayFile);
    void* begin = MAP_FAILED;
    if (::fstat(descriptor, &status) == 0 && status.st_size >= static_cast<off_t>(sizeof(Preamble))) {
        opened->m_size = static_cast<std::size_t>(status.st_size);
        begin = ::mmap(nullptr, opened->m_size, PROT_READ, MAP_SHARED, descriptor, 0);
    }
    ::close(descriptor);
    if (begin == MAP_FAILED)
        return fail(ErrorCode::FileTruncated, "the store cannot be mapped", file.string());
    opened->m_begin = static_cast<const std::byte*>(begin);
    if (auto header = opened->readHeader(file); !header)
        return tl::unexpected(header.error());
    return opened;
}

Done ArrayFile::readHeader(const std::filesystem::path& file) {
    Preamble preamble{};
    std::memcpy(&preamble, m_begin, sizeof(preamble));
    if (preamble.magic != magic || preamble.byteOrderMark != byteOrderMark)
        return fail(ErrorCode::WrongVersion, "the store has another version", file.string());
    if (preamble.headerOffset > m_size || preamble.headerSize > m_size - preamble.headerOffset)
        return fail(ErrorCode::FileTruncated, "the store is cut short", file.string());
    const auto* text = reinterpret_cast<const char*>(m_begin + preamble.headerOffset);
    const auto header = nlohmann::json::parse(text, text + preamble.headerSize, nullptr, false);
    if (header.is_discarded())
        return fail(ErrorCode::FileTruncated, "the store's header is damaged", file.string());
    for (const auto& array : header.at("arrays")) {
        const Entry entry{static_cast<ElementType>(array.at("type").get<int>()),
                          array.at("offset").get<std::uint64_t>(), array.at("count").get<std::uint64_t>()};
        if (entry.offset > m_size || entry.count > (m_size - entry.offset) / elementSize(entry.type))
            return fail(ErrorCode::FileTruncated, "the store is cut short", file.string());
        m_entries.emplace(array.at("name").get<std::string>(), entry);
    }
    m_meta = header.at("meta");
    return {};
}

ArrayFile::~ArrayFile() {
    if (m_begin != nullptr)
        ::munmap(const_cast<std::byte*>(m_begin), m_size);
}

RealView ArrayFile::reals(const std::string& name) const {
    if (const auto floats = array<float>(name); !floats.empty())
        return RealView(floats);
    return RealView(array<double>(name));
}

} // namespace pyro
