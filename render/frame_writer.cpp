#include "render/frame_writer.h"

#include "core/feedback/whole_file.h"
#include "render/drawing_file.h"
#include "render/webp_film.h"

#include <fmt/format.h>
#include <fstream>
#include <vtkImageData.h>
#include <vtkNew.h>
#include <vtkOggTheoraWriter.h>

namespace pyro {

struct Film {
    explicit Film(const std::filesystem::path& target) : file(target) {}

    WholeFile file;
    vtkNew<vtkOggTheoraWriter> writer;
    vtkNew<vtkImageData> frame;
    bool started = false;
};

namespace {

const char* const animation = "the animation";

// Whether it ends with a whole page that is the stream's last (RFC 3533, section 6): the library's writer does not tell
// that the disk was full.
bool isWholeFilm(const std::filesystem::path& file) {
    constexpr std::streamoff longestPage = 65'307;
    constexpr std::size_t head = 27;
    std::ifstream stream(file, std::ios::binary | std::ios::ate);
    const auto length = static_cast<std::streamoff>(stream.tellg());
    stream.seekg(std::max<std::streamoff>(0, length - longestPage));
    const std::string end{std::istreambuf_iterator<char>(stream), {}};
    for (auto at = end.rfind("OggS"); at != std::string::npos && at + head <= end.size();
         at = at == 0 ? std::string::npos : end.rfind("OggS", at - 1)) {
        const auto byte = [&](std::size_t i) { return static_cast<unsigned char>(end[i]); };
        std::size_t size = head + byte(at + 26);
        if (at + size > end.size())
            continue;
        for (std::size_t i = 0; i < byte(at + 26); ++i)
            size += byte(at + head + i);
        if (at + size == end.size())
            return (byte(at + 5) & 4U) != 0;
    }
    return false;
}

// Rows from below upwards, as VTK counts them. Films have even sides, so an odd row or column is left out.
void copyInto(vtkImageData* out, const QImage& picture) {
    const auto rgb = picture.convertToFormat(QImage::Format_RGB888);
    const int width = rgb.width() & ~1;
    const int height = rgb.height() & ~1;
    out->SetDimensions(width, height, 1);
    out->AllocateScalars(VTK_UNSIGNED_CHAR, 3);
    for (int row = 0; row < height; ++row)
        std::copy_n(rgb.constScanLine(height - 1 - row), 3 * width,
                    static_cast<unsigned char*>(out->GetScalarPointer(0, row, 0)));
    out->Modified();
}

} // namespace

FrameWriter::FrameWriter(std::filesystem::path file, int framesPerSecond)
    : m_file(std::move(file)), m_framesPerSecond(framesPerSecond) {
    if (m_file.extension() == ".ogv")
        m_film = std::make_unique<Film>(m_file);
    if (m_file.extension() == ".webp")
        m_webp = std::make_unique<WebpFilm>(framesPerSecond);
}

FrameWriter::~FrameWriter() {
    if (m_film && m_film->started)
        m_film->writer->End();
}

Result<std::unique_ptr<FrameWriter>> FrameWriter::open(const std::filesystem::path& file, int framesPerSecond) {
    if (file.extension() != ".png" && file.extension() != ".ogv" && file.extension() != ".webp")
        return fail(ErrorCode::NotSupported, "an animation is written as .png pictures or as an .ogv or .webp film",
                    file.string(), "Give the file one of these endings");
    return std::unique_ptr<FrameWriter>(new FrameWriter(file, framesPerSecond));
}

Done FrameWriter::add(const QImage& frame) {
    if (m_film || m_webp) {
        if (auto added = m_film ? addToFilm(frame) : m_webp->add(frame); !added)
            return added;
    } else {
        auto file = m_file;
        file.replace_filename(fmt::format("{}_{:04}.png", m_file.stem().string(), m_frames));
        if (auto written = writePicture(frame, file, animation); !written)
            return written;
    }
    ++m_frames;
    return {};
}

Done FrameWriter::addToFilm(const QImage& frame) {
    copyInto(m_film->frame, frame);
    if (!m_film->started) {
        // The library only tells through its error log whether the file could be opened.
        if (FILE* probe = std::fopen(m_film->file.beside().c_str(), "wb"); probe == nullptr)
            return m_film->file.failed(animation);
        else
            std::fclose(probe);
        m_film->writer->SetFileName(m_film->file.beside().c_str());
        m_film->writer->SetInputData(m_film->frame);
        m_film->writer->SetRate(m_framesPerSecond);
        m_film->writer->SetQuality(2);
        m_film->writer->Start();
        m_film->started = true;
    }
    m_film->writer->Write();
    return m_film->writer->GetError() == 0 ? Done() : Done(m_film->file.failed(animation));
}

Done FrameWriter::finish() {
    if (m_webp) {
        const auto bytes = m_webp->bytes();
        return bytes ? writeFileAtomically(m_file, *bytes, animation) : Done(tl::unexpected(bytes.error()));
    }
    if (!m_film || !m_film->started)
        return {};
    m_film->started = false;
    m_film->writer->End();
    const bool whole = m_film->writer->GetError() == 0 && isWholeFilm(m_film->file.beside());
    return whole ? m_film->file.put(animation) : m_film->file.failed(animation);
}

} // namespace pyro
