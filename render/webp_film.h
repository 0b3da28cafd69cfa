// Pictures one after the other as one animated WebP (lossless), which browsers and slides play.
#pragma once

#include "core/feedback/error.h"

#include <QImage>
#include <string>

struct WebPAnimEncoder;

namespace pyro {

class WebpFilm {
public:
    explicit WebpFilm(int framesPerSecond);
    ~WebpFilm();
    WebpFilm(const WebpFilm&) = delete;
    WebpFilm& operator=(const WebpFilm&) = delete;

    // All have the size of the first. Errors: WriteFailed.
    Done add(const QImage& frame);
    Result<std::string> bytes(); // of the whole; once

private:
    int m_milliseconds; // of each
    int m_frames = 0;
    WebPAnimEncoder* m_encoder = nullptr; // made with the first
};

} // namespace pyro
