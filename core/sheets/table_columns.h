// Columns of a table by their titles, as measured data and sweeps are written: "value [degC]".
#pragma once

#include "core/sheets/sheet_read.h"

#include <optional>

namespace pyro {

struct TitledTable {
    struct Title {
        std::string name; // without its unit, in lower case
        std::string unit; // in brackets; empty: none
        std::string written;
    };
    std::vector<Title> titles;
    std::vector<CsvRow> rows;      // below the titles, as wide as they are; empty lines are left out
    std::vector<std::size_t> line; // of each row in the file, from 1, those without a field not counted

    // Position of the column of this name, written with or without its unit, whatever its case.
    std::optional<std::size_t> column(std::string_view name) const;
};

// The first sheet; its first line that is not empty holds the titles. Errors: as readSheets; FileEmpty without a line.
Result<TitledTable> readTitledTable(const std::filesystem::path& file);

// A field without the blanks around it.
std::string trimmed(const std::string& field);

// A number as tables hold it, with a point or a comma; nothing for anything else.
std::optional<double> tableNumber(const std::string& text);

} // namespace pyro
