// Tables out of CSV files and spreadsheets, as text.
#pragma once

#include "core/feedback/csv_rows.h"

#include <filesystem>

namespace pyro {

struct TableSheet {
    std::string name;         // of the sheet; of a CSV its file's
    std::vector<CsvRow> rows; // row by row from the first; cells of a merged region all hold its value
};

// `.csv` and `.txt` by parseCsv; `.xlsx` (ECMA-376 SpreadsheetML) and `.ods` (OpenDocument 1.2) by their XML. Formulas
// give the value that was last computed. Errors: FileMissing, FileUnreadable for what is no such file, SizeAbsurd
// beyond 64 MB of content, Syntax.
Result<std::vector<TableSheet>> readSheets(const std::filesystem::path& file);

} // namespace pyro
