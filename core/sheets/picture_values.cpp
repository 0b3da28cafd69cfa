#include "core/sheets/picture_values.h"

#include <cstdint>
#include <cstdio>
#include <cstring>
#include <fmt/format.h>
#include <memory>
#include <spng.h>
#include <tiffio.h>

namespace pyro {
namespace {

constexpr std::uint32_t mostAcross = 16384;
constexpr const char* colours = "it is a picture in colours, and temperatures cannot be told from colours";
constexpr const char* oneChannel = "Export the matrix of temperatures as .csv, or as a picture of one grey channel";

tl::unexpected<Error> absurd(const std::filesystem::path& file, std::uint32_t width, std::uint32_t height) {
    return fail(ErrorCode::SizeAbsurd, fmt::format("it has {} x {} pixels", width, height), file.string(),
                fmt::format("{} each way are read", mostAcross));
}

template <class Number>
void addNumbers(const std::vector<std::uint8_t>& bytes, std::size_t count, std::vector<double>& into) {
    for (std::size_t i = 0; i < count; ++i) {
        Number number{};
        std::memcpy(&number, bytes.data() + i * sizeof(Number), sizeof(Number));
        into.push_back(static_cast<double>(number));
    }
}

// What a line of a TIFF holds.
struct TiffNumbers {
    std::uint16_t bits = 1;
    std::uint16_t format = SAMPLEFORMAT_UINT;
    bool add(const std::vector<std::uint8_t>& line, std::size_t count, std::vector<double>& into) const {
        switch (format * 100 + bits) {
        case SAMPLEFORMAT_UINT * 100 + 8:
            addNumbers<std::uint8_t>(line, count, into);
            return true;
        case SAMPLEFORMAT_UINT * 100 + 16:
            addNumbers<std::uint16_t>(line, count, into);
            return true;
        case SAMPLEFORMAT_UINT * 100 + 32:
            addNumbers<std::uint32_t>(line, count, into);
            return true;
        case SAMPLEFORMAT_INT * 100 + 16:
            addNumbers<std::int16_t>(line, count, into);
            return true;
        case SAMPLEFORMAT_INT * 100 + 32:
            addNumbers<std::int32_t>(line, count, into);
            return true;
        case SAMPLEFORMAT_IEEEFP * 100 + 32:
            addNumbers<float>(line, count, into);
            return true;
        case SAMPLEFORMAT_IEEEFP * 100 + 64:
            addNumbers<double>(line, count, into);
            return true;
        default:
            return false;
        }
    }
};

// The library's first complaint, instead of on the terminal.
int keepComplaint(TIFF*, void* into, const char*, const char* text, va_list arguments) {
    auto& kept = *static_cast<std::string*>(into);
    std::array<char, 256> written{};
    std::vsnprintf(written.data(), written.size(), text, arguments);
    if (kept.empty())
        kept = written.data();
    return 1;
}
int keepNothing(TIFF*, void*, const char*, const char*, va_list) { return 1; }

} // namespace

Result<ValueMatrix> readPng(const std::filesystem::path& file) {
    const std::unique_ptr<std::FILE, int (*)(std::FILE*)> stream(std::fopen(file.c_str(), "rb"), std::fclose);
    const std::unique_ptr<spng_ctx, void (*)(spng_ctx*)> png(spng_ctx_new(0), spng_ctx_free);
    const auto broken = [&](int error) {
        return fail(ErrorCode::FileUnreadable, fmt::format("it cannot be read as PNG: {}", spng_strerror(error)),
                    file.string(), oneChannel);
    };
    if (!stream || !png)
        return fail(ErrorCode::FileUnreadable, "it cannot be opened", file.string(), "Check its rights");
    spng_set_png_file(png.get(), stream.get());
    spng_ihdr head{};
    if (const int error = spng_get_ihdr(png.get(), &head))
        return broken(error);
    if (head.width > mostAcross || head.height > mostAcross)
        return absurd(file, head.width, head.height);
    if (head.color_type != SPNG_COLOR_TYPE_GRAYSCALE || head.bit_depth < 8)
        return fail(ErrorCode::FileUnreadable, colours, file.string(), oneChannel);
    std::size_t size = 0;
    if (const int error = spng_decoded_image_size(png.get(), SPNG_FMT_RAW, &size))
        return broken(error);
    std::vector<std::uint8_t> bytes(size);
    if (const int error = spng_decode_image(png.get(), bytes.data(), size, SPNG_FMT_RAW, 0))
        return broken(error);
    ValueMatrix out{head.width, head.height, {}, true, {}};
    const auto count = out.columns * out.rows;
    if (head.bit_depth == 8) {
        addNumbers<std::uint8_t>(bytes, count, out.values);
        out.notes.emplace_back("the picture has 8 bits, 256 steps of its scale");
        return out;
    }
    for (std::size_t i = 0; i < count; ++i) // in network order
        out.values.push_back(256.0 * bytes[2 * i] + bytes[2 * i + 1]);
    return out;
}

Result<ValueMatrix> readTiff(const std::filesystem::path& file) {
    std::string complaint;
    const std::unique_ptr<TIFFOpenOptions, void (*)(TIFFOpenOptions*)> options(TIFFOpenOptionsAlloc(),
                                                                               TIFFOpenOptionsFree);
    TIFFOpenOptionsSetErrorHandlerExtR(options.get(), keepComplaint, &complaint);
    TIFFOpenOptionsSetWarningHandlerExtR(options.get(), keepNothing, nullptr);
    const std::unique_ptr<TIFF, void (*)(TIFF*)> tiff(TIFFOpenExt(file.c_str(), "r", options.get()), TIFFClose);
    const auto broken = [&] {
        return fail(ErrorCode::FileUnreadable,
                    complaint.empty() ? "it cannot be read as TIFF" : "it cannot be read as TIFF: " + complaint,
                    file.string(), oneChannel);
    };
    if (!tiff)
        return broken();
    std::uint32_t width = 0;
    std::uint32_t height = 0;
    std::uint16_t channels = 1;
    TiffNumbers numbers;
    TIFFGetField(tiff.get(), TIFFTAG_IMAGEWIDTH, &width);
    TIFFGetField(tiff.get(), TIFFTAG_IMAGELENGTH, &height);
    TIFFGetFieldDefaulted(tiff.get(), TIFFTAG_SAMPLESPERPIXEL, &channels);
    TIFFGetFieldDefaulted(tiff.get(), TIFFTAG_BITSPERSAMPLE, &numbers.bits);
    TIFFGetFieldDefaulted(tiff.get(), TIFFTAG_SAMPLEFORMAT, &numbers.format);
    if (width > mostAcross || height > mostAcross)
        return absurd(file, width, height);
    if (channels != 1 || width == 0 || height == 0)
        return fail(ErrorCode::FileUnreadable, channels != 1 ? colours : "it has no pixels", file.string(), oneChannel);
    if (TIFFIsTiled(tiff.get()) != 0)
        return fail(ErrorCode::FileUnreadable, "it is stored in tiles", file.string(), "Store it in strips");
    std::vector<std::uint8_t> line(static_cast<std::size_t>(TIFFScanlineSize64(tiff.get())));
    ValueMatrix out{width, height, {}, numbers.format != SAMPLEFORMAT_IEEEFP, {}};
    if (line.size() < std::size_t{width} * numbers.bits / 8)
        return broken();
    for (std::uint32_t row = 0; row < height; ++row) {
        if (TIFFReadScanline(tiff.get(), line.data(), row) != 1)
            return broken();
        if (!numbers.add(line, width, out.values))
            return fail(ErrorCode::FileUnreadable, fmt::format("it has {} bits for each pixel", numbers.bits),
                        file.string(), "8, 16 and 32 bits and floating point are read");
    }
    for (auto& value : out.values)
        if (!std::isfinite(value))
            value = std::numeric_limits<double>::quiet_NaN();
    return out;
}

} // namespace pyro
