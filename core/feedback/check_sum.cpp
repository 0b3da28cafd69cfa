#include "core/feedback/check_sum.h"

#include <array>
#include <fmt/format.h>
#include <fstream>
#include <nettle/sha2.h>

namespace pyro {

Result<std::string> sha256Of(std::span<const std::filesystem::path> files) {
    sha256_ctx sum;
    sha256_init(&sum);
    std::vector<char> piece(1U << 20U);
    for (const auto& file : files) {
        std::ifstream stream(file, std::ios::binary);
        while (stream) {
            stream.read(piece.data(), static_cast<std::streamsize>(piece.size()));
            sha256_update(&sum, static_cast<std::size_t>(stream.gcount()),
                          reinterpret_cast<const std::uint8_t*>(piece.data()));
        }
        if (!stream.eof())
            return fail(ErrorCode::FileUnreadable, "the file cannot be read to its end", file.string(),
                        "Check its rights");
    }
    std::array<std::uint8_t, SHA256_DIGEST_SIZE> digest{};
    sha256_digest(&sum, digest.size(), digest.data());
    return fmt::format("{:02x}", fmt::join(digest, ""));
}

} // namespace pyro
