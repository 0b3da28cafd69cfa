#include "core/report/pages/report_writers.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

// What Markdown would take for its own, as letters.
std::string escapedMarkdown(const std::string& text) {
    std::string out;
    for (const char c : text) {
        if (std::string_view("\\`*_{}[]<>#|").find(c) != std::string_view::npos)
            out += '\\';
        out += c == '\n' ? ' ' : c;
    }
    return out;
}

std::string markdownOfRuns(const std::vector<TextRun>& runs) {
    std::string out;
    for (const auto& run : runs) {
        auto text = run.code ? "`" + run.text + "`" : escapedMarkdown(run.text);
        if (run.bold)
            text = "**" + text + "**";
        if (run.italic)
            text = "*" + text + "*";
        out += run.link.empty() ? text : fmt::format("[{}]({})", text, run.link);
    }
    return out;
}

std::string markdownOfTable(const ShownTable& table) {
    std::string out = "|";
    for (const auto& column : table.columns)
        out += fmt::format(" {} |", escapedMarkdown(column.title));
    out += "\n|";
    for (const auto& column : table.columns)
        out += column.isNumber ? " ---: |" : " --- |";
    out += "\n";
    for (const auto& row : table.rows) {
        out += "|";
        for (std::size_t i = 0; i < table.columns.size(); ++i)
            out += fmt::format(" {} |", i < row.size() ? escapedMarkdown(row[i]) : std::string());
        out += "\n";
    }
    return out;
}

// The name by which the text refers to it.
std::string addPicture(const ReportPicture& picture, const std::string& folder, MarkdownReport& into) {
    auto [ending, bytes] = picture.asFile();
    const auto name = fmt::format("picture{}.{}", into.pictures.size() + 1, ending);
    into.pictures.emplace_back(name, std::move(bytes));
    return folder + "/" + name;
}

} // namespace

MarkdownReport markdownOf(const ReportDocument& document, const std::string& folder) {
    MarkdownReport out;
    const auto captions = captionsOf(document);
    for (std::size_t i = 0; i < document.parts.size(); ++i) {
        const auto& part = document.parts[i];
        switch (part.kind) {
        case ReportPart::Kind::Title:
            if (part.picture.isThere())
                out.text += fmt::format("![Logo]({})\n\n", addPicture(part.picture, folder, out));
            out.text += "# " + markdownOfRuns(part.runs) +
                        (part.mark ? fmt::format(" ({})", verdictName(*part.mark)) : "") + "\n\n";
            break;
        case ReportPart::Kind::Heading:
            out.text += std::string(static_cast<std::size_t>(part.level) + 1, '#') + " " + markdownOfRuns(part.runs) +
                        "\n\n";
            break;
        case ReportPart::Kind::Paragraph:
            out.text += markdownOfRuns(part.runs) + "\n\n";
            break;
        case ReportPart::Kind::Item: {
            const bool more = i + 1 < document.parts.size() && document.parts[i + 1].kind == ReportPart::Kind::Item;
            out.text += "- " + markdownOfRuns(part.runs) + (more ? "\n" : "\n\n");
            break;
        }
        case ReportPart::Kind::Table:
            if (!captions[i].empty())
                out.text += "*" + escapedMarkdown(captions[i]) + "*\n\n";
            out.text += markdownOfTable(part.table) + "\n";
            break;
        case ReportPart::Kind::Facts:
            for (const auto& row : part.table.rows)
                out.text += fmt::format("- **{}**: {}\n", escapedMarkdown(row[0]), escapedMarkdown(row[1]));
            out.text += "\n";
            break;
        case ReportPart::Kind::Picture:
            if (!part.picture.isThere())
                out.text += fmt::format("*No picture: {}*\n\n", escapedMarkdown(part.picture.why));
            else
                out.text += fmt::format("![{}]({})\n\n*{}*\n\n", escapedMarkdown(part.caption),
                                        addPicture(part.picture, folder, out), escapedMarkdown(captions[i]));
            break;
        case ReportPart::Kind::PageBreak:
            out.text += "---\n\n";
            break;
        case ReportPart::Kind::Signatures:
            for (const auto& column : part.table.columns)
                out.text += escapedMarkdown(column.title) + ": ____________________\n\n";
            break;
        case ReportPart::Kind::Contents:
            for (const auto at : listedHeadings(document))
                out.text += "- " + markdownOfRuns(document.parts[at].runs) + "\n";
            out.text += "\n";
            break;
        }
    }
    out.text += "---\n\n" + escapedMarkdown(document.foot) + "\n";
    return out;
}

} // namespace pyro
