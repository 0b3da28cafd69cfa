#include "core/report/pages/report_writers.h"

#include <array>
#include <cstdint>
#include <fmt/format.h>

namespace pyro {
namespace {

std::string escapedHtml(const std::string& text) {
    std::string out;
    for (const char c : text)
        switch (c) {
        case '&':
            out += "&amp;";
            break;
        case '<':
            out += "&lt;";
            break;
        case '>':
            out += "&gt;";
            break;
        case '"':
            out += "&quot;";
            break;
        default:
            out += c;
        }
    return out;
}

// RFC 4648.
std::string base64(const std::string& bytes) {
    constexpr std::string_view letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
    std::string out;
    for (std::size_t i = 0; i < bytes.size(); i += 3) {
        std::uint32_t word = 0;
        for (std::size_t k = 0; k < 3; ++k)
            word = word << 8U | (i + k < bytes.size() ? static_cast<std::uint8_t>(bytes[i + k]) : 0U);
        for (std::size_t k = 0; k < 4; ++k)
            out += i + k <= bytes.size() ? letters[word >> (18 - 6 * k) & 63U] : '=';
    }
    return out;
}

std::string htmlOfRuns(const std::vector<TextRun>& runs) {
    std::string out;
    for (const auto& run : runs) {
        auto text = escapedHtml(run.text);
        if (run.bold)
            text = "<b>" + text + "</b>";
        if (run.italic)
            text = "<i>" + text + "</i>";
        if (run.code)
            text = "<code>" + text + "</code>";
        const bool safe = run.link.starts_with("http") || run.link.starts_with("mailto:") || run.link.starts_with("#");
        out += !run.link.empty() && safe ? fmt::format("<a href=\"{}\">{}</a>", escapedHtml(run.link), text) : text;
    }
    return out;
}

std::string htmlOfTable(const ReportPart& part, const std::string& caption) {
    std::string out = "<div class=\"wide\"><table>";
    if (!caption.empty())
        out += "<caption>" + escapedHtml(caption) + "</caption>";
    out += "<thead><tr>";
    for (const auto& column : part.table.columns)
        out += fmt::format("<th scope=\"col\"{}>{}</th>", column.isNumber ? " class=\"n\"" : "",
                           escapedHtml(column.title));
    out += "</tr></thead><tbody>\n";
    for (std::size_t row = 0; row < part.table.rows.size(); ++row) {
        const auto mark = row < part.marks.size() ? part.marks[row] : std::nullopt;
        out += mark ? fmt::format("<tr class=\"{}\">", verdictName(*mark)) : std::string("<tr>");
        for (std::size_t i = 0; i < part.table.rows[row].size() && i < part.table.columns.size(); ++i)
            out += fmt::format("<td{}>{}</td>", part.table.columns[i].isNumber ? " class=\"n\"" : "",
                               escapedHtml(part.table.rows[row][i]));
        out += "</tr>\n";
    }
    return out + "</tbody></table></div>\n";
}

std::string htmlOfFacts(const ReportPart& part) {
    std::string out = "<table class=\"facts\"><tbody>\n";
    for (const auto& row : part.table.rows)
        out += fmt::format("<tr><th scope=\"row\">{}</th><td>{}</td></tr>\n", escapedHtml(row[0]), escapedHtml(row[1]));
    return out + "</tbody></table>\n";
}

std::string htmlOfImage(const std::string& ending, const std::string& bytes, const std::string& words) {
    return fmt::format("<img alt=\"{}\" src=\"data:image/{};base64,{}\">", escapedHtml(words),
                       ending == "svg"   ? "svg+xml"
                       : ending == "jpg" ? "jpeg"
                                         : "png",
                       base64(bytes));
}

std::string htmlOfPicture(const ReportPart& part, const std::string& caption) {
    std::string inside;
    if (!part.picture.isThere()) {
        inside = "<p class=\"faint\">No picture: " + escapedHtml(part.picture.why) + "</p>";
    } else {
        const auto [ending, bytes] = part.picture.asFile();
        inside = ending == "svg" ? bytes.substr(bytes.find("<svg")) : htmlOfImage(ending, bytes, part.caption);
    }
    return fmt::format("<figure style=\"max-width:{:.0f}%\">{}<figcaption>{}</figcaption></figure>\n", 100 * part.size,
                       inside, escapedHtml(caption));
}

std::string htmlOfLogo(const ReportPicture& logo) {
    const auto [ending, bytes] = logo.asFile(); // as an image: what else stands in a file of the user's is not run
    return "<div class=\"logo\">" + htmlOfImage(ending, bytes, "Logo") + "</div>\n";
}

std::string htmlOfSignatures(const ReportPart& part) {
    std::string out = "<div class=\"signatures\">";
    for (const auto& column : part.table.columns)
        out += "<div>" + escapedHtml(column.title) + "</div>";
    return out + "</div>\n";
}

std::string htmlOfContents(const ReportDocument& document) {
    std::string out = "<ul class=\"contents\">\n";
    for (const auto at : listedHeadings(document))
        out += fmt::format("<li class=\"l{}\"><a href=\"#h{}\">{}</a></li>\n", document.parts[at].level, at,
                           htmlOfRuns(document.parts[at].runs));
    return out + "</ul>\n";
}

constexpr std::string_view htmlStyle = R"(body{font-family:Inter,system-ui,sans-serif;color:#22262B;background:#fff;
max-width:60rem;margin:2rem auto;padding:0 1rem;line-height:1.4}h1{font-size:1.7rem;margin-bottom:.2rem}h2{font-size:
1.15rem;margin-top:1.8rem;border-top:1px solid #D8D3CA;padding-top:.8rem}.faint,caption,figcaption,th{color:#6E6D69}
table{border-collapse:collapse;font-size:.9rem;min-width:50%}caption{text-align:left;padding:.3rem 0}th,td{text-align:
left;padding:.25rem .8rem .25rem 0;border-bottom:1px solid #EDE9E1;vertical-align:top}.n{text-align:right;
white-space:nowrap;font-variant-numeric:tabular-nums}.wide{overflow-x:auto}tr.over td:first-child{color:#B5121B;
font-weight:600}tr.tight td:first-child{color:#B3730B;font-weight:600}tr.within td:first-child{color:#1F7F73}figure{
margin:1rem 0}img,svg{max-width:100%;height:auto}.signatures{display:flex;gap:2rem;margin-top:4rem}.signatures div{
flex:1;border-top:1px solid #22262B;padding-top:.3rem}.logo
img{max-height:4rem}.l2{margin-left:1rem}.l3{margin-left:2rem}footer{margin-top:3rem;
color:#6E6D69;font-size:.8rem}@media print{.break{break-before:page}})";

} // namespace

std::string htmlOf(const ReportDocument& document) {
    auto out = fmt::format("<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\">\n<meta name=\"viewport\" "
                           "content=\"width=device-width, initial-scale=1\">\n<title>{}</title>\n<style>{}</style>"
                           "</head>\n<body>\n",
                           escapedHtml(document.title), htmlStyle);
    const auto captions = captionsOf(document);
    bool inList = false;
    for (std::size_t i = 0; i < document.parts.size(); ++i) {
        const auto& part = document.parts[i];
        const bool item = part.kind == ReportPart::Kind::Item;
        if (item != inList)
            out += item ? "<ul>\n" : "</ul>\n";
        inList = item;
        switch (part.kind) {
        case ReportPart::Kind::Title:
            if (part.picture.isThere())
                out += htmlOfLogo(part.picture);
            out += fmt::format("<h1>{}{}</h1>\n", htmlOfRuns(part.runs),
                               part.mark ? fmt::format(" <small>{}</small>", verdictName(*part.mark)) : "");
            break;
        case ReportPart::Kind::Heading:
            out += fmt::format("<h{0} id=\"h{1}\">{2}</h{0}>\n", std::min(6, part.level + 1), i, htmlOfRuns(part.runs));
            break;
        case ReportPart::Kind::Paragraph:
            out += fmt::format("<p{}>{}</p>\n", part.faint ? " class=\"faint\"" : "", htmlOfRuns(part.runs));
            break;
        case ReportPart::Kind::Item:
            out += "<li>" + htmlOfRuns(part.runs) + "</li>\n";
            break;
        case ReportPart::Kind::Table:
            out += htmlOfTable(part, captions[i]);
            break;
        case ReportPart::Kind::Facts:
            out += htmlOfFacts(part);
            break;
        case ReportPart::Kind::Picture:
            out += htmlOfPicture(part, captions[i]);
            break;
        case ReportPart::Kind::PageBreak:
            out += "<div class=\"break\"></div>\n";
            break;
        case ReportPart::Kind::Signatures:
            out += htmlOfSignatures(part);
            break;
        case ReportPart::Kind::Contents:
            out += htmlOfContents(document);
            break;
        }
    }
    if (inList)
        out += "</ul>\n";
    return out + "<footer>" + escapedHtml(document.foot) + "</footer>\n</body></html>\n";
}

} // namespace pyro
