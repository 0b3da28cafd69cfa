// Pictures of an animation as numbered PNG files, as one Ogg Theora film or as one animated WebP.
#pragma once

#include "core/feedback/error.h"

#include <QImage>
#include <filesystem>
#include <memory>

namespace pyro {

struct Film;
class WebpFilm;

class FrameWriter {
public:
    // "rise.png" gives "rise_0000.png", "rise_0001.png" ...; "rise.ogv" and
    // "rise.webp" one film at `framesPerSecond`.
    // Errors: NotSupported for any other ending.
    static Result<std::unique_ptr<FrameWriter>> open(const std::filesystem::path& file, int framesPerSecond);
    ~FrameWriter();

    // All frames have the size of the first. A film stands at its place once it is finished. Errors: WriteFailed.
    Done add(const QImage& frame);
    Done finish();
    int frames() const { return m_frames; }

private:
    FrameWriter(std::filesystem::path file, int framesPerSecond);
    Done addToFilm(const QImage& frame);

    std::filesystem::path m_file;
    int m_framesPerSecond;
    int m_frames = 0;
    std::unique_ptr<Film> m_film;     // one of these two;
    std::unique_ptr<WebpFilm> m_webp; // null both: numbered pictures
};

} // namespace pyro
