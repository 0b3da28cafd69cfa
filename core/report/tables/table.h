// Tables made from readings: columns with typed cells, to be written in whatever form (table_writers.h). Each table is
// one file in tables/ and one line in list.inc; files, spreadsheets and the command line go through that list.
#pragma once

#include "core/evaluate/survey_run.h"
#include "core/units/display.h"

#include <span>
#include <type_traits>

namespace pyro {

// Nothing, words, or a number with as many digits as it is worth.
class Cell {
public:
    Cell() = default;
    Cell(std::string text) : m_words(std::move(text)) {}
    Cell(std::string_view text) : m_words(text) {}
    Cell(const char* text) : m_words(text) {}
    template <class Number>
    requires std::is_arithmetic_v<Number> Cell(Number number, int digits = 12)
        : m_number(static_cast<double>(number)), m_digits(digits) {}
    template <class T>
    Cell(const std::optional<T>& value) : Cell(value ? Cell(*value) : Cell()) {}

    bool isNumber() const { return m_digits > 0; }
    double number() const { return m_number; } // of one that is a number
    // As a file holds it; what is not finite as nothing.
    std::string text() const;

private:
    std::string m_words;
    double m_number = 0;
    int m_digits = 0; // 0: words, or nothing
};

struct Table {
    std::vector<std::string> columns; // titles, with the unit where it is one for all: "out_W"
    std::vector<std::vector<Cell>> rows;

    // A new row, to be filled from the left.
    std::vector<Cell>& row() { return rows.emplace_back(); }
};

// Three cells, metres; empty ones for a place that is not known.
void addPlace(std::vector<Cell>& row, const std::optional<Point>& at);

struct TableInput {
    const Survey& survey;
    const SurveyRun& run;
    TemperatureUnit unit; // of temperatures that are told on their scale
};

struct TableKind {
    std::string_view name;  // of its file: "limits"
    std::string_view title; // of its sheet: "Limits"
    Table (*make)(const TableInput& input) = nullptr;
    bool onlyWithRows = false; // not written while it is empty
};

#define TABLE(name) extern const TableKind name##Table;
#include "core/report/tables/list.inc"
#undef TABLE

std::span<const TableKind* const> tableKinds();

} // namespace pyro
