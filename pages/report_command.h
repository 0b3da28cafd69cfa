// pyrometer-cli report and render.
#pragma once

#include "core/feedback/error.h"
#include "manual/words.h"

#include <ostream>

namespace pyro::pages {

// One line on the error stream; returns exit status 2.
int complain(const Error& error, std::ostream& err);

int writeReports(const ReportWords& words, std::ostream& err);

int drawViewpoints(const RenderWords& words, std::ostream& out, std::ostream& err);

} // namespace pyro::pages
