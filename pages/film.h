// Pictures one after the other as a film.
#pragma once

#include "core/feedback/error.h"

#include <QImage>
#include <filesystem>
#include <functional>

namespace pyro::pages {

// By the ending: .ogv a film (Ogg Theora), .webp an animated picture, .png numbered pictures. Errors: NotSupported for
// another ending, those of `frame`, WriteFailed.
Done writeFilm(const std::filesystem::path& file, int framesPerSecond, int count,
               const std::function<Result<QImage>(int)>& frame);

} // namespace pyro::pages
