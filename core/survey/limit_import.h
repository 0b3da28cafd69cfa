// Limits out of other people's tables: columns by many names, part names as they are spoken, values with and without
// unit.
#pragma once

#include "core/feedback/csv_rows.h"
#include "core/survey/survey.h"
#include "core/units/display.h"

namespace pyro {

enum class NameMatch {
    Exact,
    Tolerant, // but for case, blanks, punctuation, an added word, or a slip of the pen
    None,
};

struct ImportedLimit {
    std::size_t row = 0; // of the table, from 1
    std::string written; // the name as it stands there
    NameMatch match = NameMatch::None;
    Limit limit;         // its target is the name found, or the one written
    std::string problem; // why it cannot be taken; empty: it can
    std::string remark;  // what is taken for granted: a unit, a name
};

struct LimitImport {
    std::vector<ImportedLimit> limits; // in the order of the table
    Remarks remarks;                   // columns that are not understood, rows that are passed over
};

// What a name may stand for.
struct LimitNames {
    std::map<std::string, std::string> parts;      // name and label
    std::map<std::string, std::string> boundaries; // name and label
    std::vector<std::string> gauges;
};

// The header is the first row that names both a target (part, component, boundary, gauge, name ...) and a bound (max,
// Tmax, limit, allowed, min ...); a unit may stand in its brackets or in a column of its own. Numbers without any unit
// are taken in `bare`; rises and margins in kelvin. Rows without name and bound are passed over; one that lacks one of
// them tells so. Errors: FileEmpty; Syntax when no row is a header.
Result<LimitImport> limitsFromTable(const std::vector<CsvRow>& rows, const LimitNames& names, TemperatureUnit bare,
                                    const std::string& file);

} // namespace pyro
