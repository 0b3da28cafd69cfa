// CSV after RFC 4180: comma separated, UTF-8, fields quoted where needed. A semicolon file is read as well.
#pragma once

#include "core/feedback/error.h"

#include <string>
#include <string_view>
#include <vector>

namespace pyro {

using CsvRow = std::vector<std::string>;

std::string csvLine(const CsvRow& fields);
// Errors: Syntax for a quotation mark that is never closed, with its line.
Result<std::vector<CsvRow>> parseCsv(std::string_view text);
// A field as a word to compare: lower case, without blanks around it or a byte order mark.
std::string csvWord(std::string text);

} // namespace pyro
