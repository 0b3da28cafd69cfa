#include "core/report/pages/report_document.h"

#include <fmt/format.h>

namespace pyro {

std::string plainText(const std::vector<TextRun>& runs) {
    std::string out;
    for (const auto& run : runs)
        out += run.text;
    return out;
}

ReportPicture withoutPicture(const std::string& why) {
    ReportPicture out;
    out.why = why;
    return out;
}

std::pair<std::string, std::string> ReportPicture::asFile() const {
    if (drawing) {
        auto png = drawing->png();
        return png.empty() ? std::pair<std::string, std::string>{"svg", drawing->svg()}
                           : std::pair<std::string, std::string>{"png", std::move(png)};
    }
    return {file.starts_with("\x89PNG") ? "png" : file.starts_with("\xFF\xD8") ? "jpg" : "svg", file};
}

ReportPart headingPart(const std::string& words, int level) {
    ReportPart part;
    part.kind = ReportPart::Kind::Heading;
    part.level = level;
    part.runs = {{.text = words}};
    return part;
}

ReportPart paragraphPart(const std::string& words, bool faint) {
    ReportPart part;
    part.runs = {{.text = words}};
    part.faint = faint;
    return part;
}

ReportPart tablePart(ShownTable table, const std::string& caption) {
    ReportPart part;
    part.kind = ReportPart::Kind::Table;
    part.table = std::move(table);
    part.caption = caption;
    return part;
}

std::vector<std::size_t> listedHeadings(const ReportDocument& document) {
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < document.parts.size(); ++i) {
        const bool isOwn = i + 1 < document.parts.size() && document.parts[i + 1].kind == ReportPart::Kind::Contents;
        if (document.parts[i].kind == ReportPart::Kind::Heading && !isOwn)
            out.push_back(i);
    }
    return out;
}

std::vector<std::string> captionsOf(const ReportDocument& document) {
    std::vector<std::string> out;
    int tables = 0;
    int pictures = 0;
    for (const auto& part : document.parts) {
        const bool isTable = part.kind == ReportPart::Kind::Table;
        if (part.caption.empty() || (!isTable && part.kind != ReportPart::Kind::Picture))
            out.emplace_back();
        else
            out.push_back(isTable ? fmt::format("Table {}: {}", ++tables, part.caption)
                                  : fmt::format("Figure {}: {}", ++pictures, part.caption));
    }
    return out;
}

} // namespace pyro
