#include "render/frame_writer.h"

#include <fmt/format.h>
#include <vtkImageData.h>
#include <vtkNew.h>
#include <vtkOggTheoraWriter.h>

namespace pyro {

struct Film {
    vtkNew<vtkOggTheoraWriter> writer;
    vtkNew<vtkImageData> frame;
    bool started = false;
};

namespace {

tl::unexpected<Error> notWritten(const std::filesystem::path& file) {
    return fail(ErrorCode::WriteFailed, "the animation cannot be written", file.string(),
                "Choose another folder or free some space");
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
        m_film = std::make_unique<Film>();
}

FrameWriter::~FrameWriter() {
    if (m_film && m_film->started)
        m_film->writer->End();
}

Result<std::unique_ptr<FrameWriter>> FrameWriter::open(const std::filesystem::path& file, int framesPerSecond) {
    if (file.extension() != ".png" && file.extension() != ".ogv")
        return fail(ErrorCode::NotSupported, "an animation is written as .png pictures or as an .ogv film",
                    file.string(), "Give the file one of these endings");
    return std::unique_ptr<FrameWriter>(new FrameWriter(file, framesPerSecond));
}

Done FrameWriter::add(const QImage& frame) {
    if (m_film) {
        if (auto added = addToFilm(frame); !added)
            return added;
    } else {
        auto file = m_file;
        file.replace_filename(fmt::format("{}_{:04}.png", m_file.stem().string(), m_frames));
        if (!frame.save(QString::fromStdString(file.string()), "PNG"))
            return notWritten(file);
    }
    ++m_frames;
    return {};
}

Done FrameWriter::addToFilm(const QImage& frame) {
    copyInto(m_film->frame, frame);
    if (!m_film->started) {
        // The library only tells through its error log whether the file could be opened.
        if (FILE* probe = std::fopen(m_file.c_str(), "wb"); probe == nullptr)
            return notWritten(m_file);
        else
            std::fclose(probe);
        m_film->writer->SetFileName(m_file.c_str());
        m_film->writer->SetInputData(m_film->frame);
        m_film->writer->SetRate(m_framesPerSecond);
        m_film->writer->SetQuality(2);
        m_film->writer->Start();
        m_film->started = true;
    }
    m_film->writer->Write();
    return m_film->writer->GetError() == 0 ? Done() : Done(notWritten(m_file));
}

Done FrameWriter::finish() {
    if (!m_film || !m_film->started)
        return {};
    m_film->started = false;
    m_film->writer->End();
    return m_film->writer->GetError() == 0 ? Done() : Done(notWritten(m_file));
}

} // namespace pyro
