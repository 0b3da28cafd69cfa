#include "render/webp_film.h"

#include <algorithm>
#include <webp/encode.h>
#include <webp/mux.h>

namespace pyro {
namespace {

tl::unexpected<Error> notMade(const char* why) {
    return fail(ErrorCode::WriteFailed, std::string("the animation cannot be made: ") + why, "WebP",
                "Choose a smaller size, or another form");
}

} // namespace

WebpFilm::WebpFilm(int framesPerSecond) : m_milliseconds(1000 / std::max(1, framesPerSecond)) {}

WebpFilm::~WebpFilm() { WebPAnimEncoderDelete(m_encoder); }

Done WebpFilm::add(const QImage& frame) {
    const auto rgba = frame.convertToFormat(QImage::Format_RGBA8888);
    if (m_encoder == nullptr) {
        WebPAnimEncoderOptions options;
        if (WebPAnimEncoderOptionsInit(&options) == 0)
            return notMade("the library is of another version");
        options.anim_params.loop_count = 0; // without end
        m_encoder = WebPAnimEncoderNew(rgba.width(), rgba.height(), &options);
    }
    WebPConfig config;
    WebPPicture picture;
    if (m_encoder == nullptr || WebPConfigInit(&config) == 0 || WebPPictureInit(&picture) == 0)
        return notMade("the size is not possible");
    config.lossless = 1;
    config.quality = 20; // of lossless pictures the effort
    picture.use_argb = 1;
    picture.width = rgba.width();
    picture.height = rgba.height();
    const bool added = WebPPictureImportRGBA(&picture, rgba.constBits(), static_cast<int>(rgba.bytesPerLine())) != 0 &&
                       WebPAnimEncoderAdd(m_encoder, &picture, m_frames * m_milliseconds, &config) != 0;
    WebPPictureFree(&picture);
    if (!added)
        return notMade(WebPAnimEncoderGetError(m_encoder));
    ++m_frames;
    return {};
}

Result<std::string> WebpFilm::bytes() {
    if (m_encoder == nullptr)
        return notMade("there are no pictures");
    WebPData data;
    WebPDataInit(&data);
    if (WebPAnimEncoderAdd(m_encoder, nullptr, m_frames * m_milliseconds, nullptr) == 0 ||
        WebPAnimEncoderAssemble(m_encoder, &data) == 0)
        return notMade(WebPAnimEncoderGetError(m_encoder));
    std::string out(reinterpret_cast<const char*>(data.bytes), data.size);
    WebPDataClear(&data);
    return out;
}

} // namespace pyro
