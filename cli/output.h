// What the commands share: messages on the error stream, files that are asked for.
#pragma once

#include "core/feedback/error.h"
#include "core/units/written.h"

#include <ostream>

namespace pyro::cli {

// One line on the error stream; returns exit status 2.
int complain(const Error& error, std::ostream& err);
// One line per remark: "file: note: text (where)".
void printRemarks(const Remarks& remarks, const std::string& file, std::ostream& err);
// Writes JSON to a file, or to `out` for "-"; nothing for an empty name. Returns 0, or 2 when writing fails.
int writeJson(const Json& json, const std::string& file, std::ostream& out, std::ostream& err);

} // namespace pyro::cli
