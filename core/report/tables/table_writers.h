// Forms in which tables are written. A further one is a function over Table, and a line in table_formats.cpp where
// files of it are to be chosen.
#pragma once

#include "core/report/tables/table.h"

namespace pyro {

std::string csvOf(const Table& table);
Json jsonOf(const Table& table); // a list of rows, each an object by column; empty cells are left out

// A form in which one file holds one table, or all of them.
struct TableFormat {
    std::string_view ending; // ".csv"
    std::string_view title;  // "Comma-separated values"
    bool allTables;          // in one file
    // `tables`: with their titles. Errors: WriteFailed; what stood there is then unchanged.
    Done (*write)(std::span<const std::pair<std::string, Table>> tables, const std::filesystem::path& file);
};
std::span<const TableFormat> tableFormats();

// The table `kind`, or in a form that holds them all every table, in the form that the ending of the file says.
// Errors: FormatUnknown, WriteFailed.
Done writeTable(const TableKind& kind, const TableInput& input, const std::filesystem::path& file);

// Every table as <name>.csv in a folder, which is made. Errors: WriteFailed.
Done writeTablesCsv(const TableInput& input, const std::filesystem::path& folder);

} // namespace pyro
