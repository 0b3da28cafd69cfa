#include "core/sheets/sheet_read.h"

#include <algorithm>
#include <charconv>
#include <fmt/format.h>
#include <fstream>
#include <memory>
#include <optional>
#include <pugixml.hpp>
#include <zip.h>

namespace pyro {
namespace {

constexpr std::size_t mostBytes = 64 << 20;
constexpr std::size_t mostCells = 2'000'000; // of one sheet, empty ones between included
constexpr std::size_t mostColumns = 1024;
constexpr std::size_t mostRows = 200'000;

struct Closer {
    void operator()(zip_t* archive) const { zip_discard(archive); }
    void operator()(zip_file_t* file) const { zip_fclose(file); }
};

class Archive {
public:
    explicit Archive(const std::filesystem::path& file)
        : m_file(file), m_archive(zip_open(file.c_str(), ZIP_RDONLY, nullptr)) {}
    bool opened() const { return m_archive != nullptr; }

    Result<std::unique_ptr<pugi::xml_document>> document(const std::string& name) const {
        zip_stat_t stat;
        if (zip_stat(m_archive.get(), name.c_str(), 0, &stat) != 0)
            return fail(ErrorCode::FileUnreadable, fmt::format("the spreadsheet has no {}", name), m_file.string(),
                        "Save it again, or save it as CSV");
        if (stat.size > mostBytes)
            return fail(ErrorCode::SizeAbsurd, fmt::format("{} holds {} MB", name, stat.size >> 20), m_file.string(),
                        "Keep the limits in a sheet of their own");
        std::string text(stat.size, 0);
        const std::unique_ptr<zip_file_t, Closer> stream(zip_fopen(m_archive.get(), name.c_str(), 0));
        if (!stream || zip_fread(stream.get(), text.data(), text.size()) != static_cast<zip_int64_t>(text.size()))
            return fail(ErrorCode::FileUnreadable, fmt::format("{} cannot be unpacked", name), m_file.string(),
                        "Save it again, or save it as CSV");
        auto document = std::make_unique<pugi::xml_document>();
        if (!document->load_buffer(text.data(), text.size(), pugi::parse_default | pugi::parse_ws_pcdata_single))
            return fail(ErrorCode::Syntax, fmt::format("{} is no whole XML", name), m_file.string(),
                        "Save it again, or save it as CSV");
        return document;
    }

private:
    std::filesystem::path m_file;
    std::unique_ptr<zip_t, Closer> m_archive;
};

// Puts text at a place; far-off places of hostile files are left out.
void put(std::vector<CsvRow>& rows, std::size_t row, std::size_t column, const std::string& text) {
    if (row >= mostRows || column >= mostColumns || (row + 1) * (column + 1) > mostCells)
        return;
    if (rows.size() <= row)
        rows.resize(row + 1);
    if (rows[row].size() <= column)
        rows[row].resize(column + 1);
    rows[row][column] = text;
}

std::string at(const std::vector<CsvRow>& rows, std::size_t row, std::size_t column) {
    return row < rows.size() && column < rows[row].size() ? rows[row][column] : std::string();
}

struct CellPlaceInSheet {
    std::size_t row = 0;
    std::size_t column = 0;
};

// "C12" -> row 11, column 2.
std::optional<CellPlaceInSheet> placeOf(std::string_view reference) {
    CellPlaceInSheet place;
    std::size_t i = 0;
    for (; i < reference.size() && i < 4 && reference[i] >= 'A' && reference[i] <= 'Z'; ++i)
        place.column = 26 * place.column + static_cast<std::size_t>(reference[i] - 'A' + 1);
    const auto [end, status] = std::from_chars(reference.data() + i, reference.data() + reference.size(), place.row);
    if (i == 0 || status != std::errc() || place.row == 0)
        return std::nullopt;
    --place.row;
    --place.column;
    return place;
}

void spread(std::vector<CsvRow>& rows, std::string_view region) {
    const auto colon = region.find(':');
    const auto from = placeOf(region.substr(0, colon));
    const auto to = colon == std::string_view::npos ? from : placeOf(region.substr(colon + 1));
    if (!from || !to)
        return;
    const auto text = at(rows, from->row, from->column);
    for (auto row = from->row; row <= std::min(to->row, mostRows) && !text.empty(); ++row)
        for (auto column = from->column; column <= std::min(to->column, mostColumns); ++column)
            put(rows, row, column, text);
}

// The text of a rich string is spread over runs.
std::string wholeText(const pugi::xml_node& node) {
    std::string text = node.child("t").child_value();
    for (const auto& run : node.children("r"))
        text += run.child("t").child_value();
    return text;
}

std::vector<CsvRow> rowsOf(const pugi::xml_node& sheet, const std::vector<std::string>& shared) {
    std::vector<CsvRow> rows;
    for (const auto& row : sheet.child("sheetData").children("row"))
        for (const auto& cell : row.children("c")) {
            const auto place = placeOf(cell.attribute("r").value());
            if (!place)
                continue;
            const std::string_view type = cell.attribute("t").value();
            std::string text = cell.child("v").child_value();
            if (type == "inlineStr")
                text = wholeText(cell.child("is"));
            else if (type == "s") {
                const auto number = static_cast<std::size_t>(cell.child("v").text().as_uint());
                text = number < shared.size() ? shared[number] : std::string();
            }
            put(rows, place->row, place->column, text);
        }
    for (const auto& merged : sheet.child("mergeCells").children("mergeCell"))
        spread(rows, merged.attribute("ref").value());
    return rows;
}

Result<std::vector<TableSheet>> readXlsx(const Archive& archive) {
    const auto book = archive.document("xl/workbook.xml");
    if (!book)
        return tl::unexpected(book.error());
    const auto links = archive.document("xl/_rels/workbook.xml.rels");
    if (!links)
        return tl::unexpected(links.error());
    std::vector<std::string> shared;
    if (const auto strings = archive.document("xl/sharedStrings.xml")) // none when all are inline
        for (const auto& one : (*strings)->child("sst").children("si"))
            shared.push_back(wholeText(one));
    std::vector<TableSheet> sheets;
    for (const auto& sheet : (*book)->child("workbook").child("sheets").children("sheet")) {
        const auto link = (*links)
                              ->child("Relationships")
                              .find_child_by_attribute("Relationship", "Id", sheet.attribute("r:id").value());
        std::string target = link.attribute("Target").value();
        target = target.starts_with('/') ? target.substr(1) : fmt::format("xl/{}", target);
        const auto content = archive.document(target);
        if (!content)
            return tl::unexpected(content.error());
        sheets.push_back({sheet.attribute("name").value(), rowsOf((*content)->child("worksheet"), shared)});
    }
    return sheets;
}

std::string odsText(const pugi::xml_node& cell) {
    const std::string_view type = cell.attribute("office:value-type").value();
    if (type == "float" || type == "percentage")
        return cell.attribute("office:value").value();
    std::string text;
    for (const auto& paragraph : cell.children("text:p"))
        text.append(text.empty() ? "" : " ").append(paragraph.text().get());
    return text;
}

Result<std::vector<TableSheet>> readOds(const Archive& archive) {
    const auto content = archive.document("content.xml");
    if (!content)
        return tl::unexpected(content.error());
    std::vector<TableSheet> sheets;
    for (const auto& table : (*content)
                                 ->child("office:document-content")
                                 .child("office:body")
                                 .child("office:spreadsheet")
                                 .children("table:table")) {
        TableSheet sheet{table.attribute("table:name").value(), {}};
        std::size_t row = 0;
        for (const auto& line : table.children("table:table-row")) {
            std::size_t column = 0;
            for (const auto& cell : line.children()) { // covered cells count as well
                const auto text = odsText(cell);
                const auto repeated = std::max<std::size_t>(1,
                                                            cell.attribute("table:number-columns-repeated").as_uint(1));
                const auto wide = std::max<std::size_t>(repeated,
                                                        cell.attribute("table:number-columns-spanned").as_uint(1));
                const auto tall = std::max<std::size_t>(1, cell.attribute("table:number-rows-spanned").as_uint(1));
                for (std::size_t down = 0; down < std::min(tall, mostRows) && !text.empty(); ++down)
                    for (std::size_t across = 0; across < std::min(wide, mostColumns); ++across)
                        put(sheet.rows, row + down, column + across, text);
                column += repeated;
            }
            row += std::max<std::size_t>(1, line.attribute("table:number-rows-repeated").as_uint(1));
        }
        sheets.push_back(std::move(sheet));
    }
    return sheets;
}

Result<std::vector<TableSheet>> readText(const std::filesystem::path& file) {
    std::ifstream stream(file, std::ios::binary);
    const std::string text(std::istreambuf_iterator<char>(stream), {});
    auto rows = parseCsv(text);
    if (!rows)
        return fail(rows.error().code, rows.error().what, file.string() + ", " + rows.error().where,
                    rows.error().remedy);
    return std::vector<TableSheet>{{file.filename().string(), std::move(*rows)}};
}

} // namespace

Result<std::vector<TableSheet>> readSheets(const std::filesystem::path& file) {
    std::error_code failed;
    if (!std::filesystem::is_regular_file(file, failed))
        return fail(ErrorCode::FileMissing, "the table cannot be read", file.string(), "Check its name and folder");
    if (std::filesystem::file_size(file, failed) > mostBytes)
        return fail(ErrorCode::SizeAbsurd, "the table is larger than 64 MB", file.string(),
                    "Keep the limits in a file of their own");
    const auto ending = csvWord(file.extension().string());
    if (ending != ".xlsx" && ending != ".ods")
        return readText(file);
    const Archive archive(file);
    if (!archive.opened())
        return fail(ErrorCode::FileUnreadable, fmt::format("this is no {} spreadsheet", ending.substr(1)),
                    file.string(), "Save it again, or save it as CSV");
    return ending == ".ods" ? readOds(archive) : readXlsx(archive);
}

} // namespace pyro
