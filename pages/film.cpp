#include "pages/film.h"

#include "render/frame_writer.h"

namespace pyro::pages {

Done writeFilm(const std::filesystem::path& file, int framesPerSecond, int count,
               const std::function<Result<QImage>(int)>& frame) {
    auto writer = FrameWriter::open(file, framesPerSecond);
    if (!writer)
        return tl::unexpected(writer.error());
    for (int at = 0; at < count; ++at) {
        auto image = frame(at);
        if (!image)
            return tl::unexpected(image.error());
        if (auto added = (*writer)->add(*image); !added)
            return added;
    }
    return (*writer)->finish();
}

} // namespace pyro::pages
