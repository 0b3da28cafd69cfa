// OpenDocument 1.2 (ISO/IEC 26300): content with named styles, so that a word processor edits it as its own.
#include "core/feedback/whole_file.h"
#include "core/report/pages/report_writers.h"

#include <algorithm>
#include <fmt/format.h>
#include <pugixml.hpp>
#include <sstream>
#include <zip.h>

namespace pyro {
namespace {

using Node = pugi::xml_node;

constexpr double odtTextWidthCm = 17.4;
constexpr double odtHighestCm = 21;

constexpr std::pair<const char*, const char*> odtNames[]{
    {"xmlns:office", "urn:oasis:names:tc:opendocument:xmlns:office:1.0"},
    {"xmlns:style", "urn:oasis:names:tc:opendocument:xmlns:style:1.0"},
    {"xmlns:text", "urn:oasis:names:tc:opendocument:xmlns:text:1.0"},
    {"xmlns:table", "urn:oasis:names:tc:opendocument:xmlns:table:1.0"},
    {"xmlns:draw", "urn:oasis:names:tc:opendocument:xmlns:drawing:1.0"},
    {"xmlns:fo", "urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0"},
    {"xmlns:svg", "urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0"},
    {"xmlns:xlink", "http://www.w3.org/1999/xlink"},
    {"xmlns:meta", "urn:oasis:names:tc:opendocument:xmlns:meta:1.0"},
    {"xmlns:dc", "http://purl.org/dc/elements/1.1/"},
    {"office:version", "1.2"}};

Node rootOf(pugi::xml_document& xml, const char* name) {
    auto root = xml.append_child(name);
    for (const auto& [key, value] : odtNames)
        root.append_attribute(key) = value;
    return root;
}

std::string textOfXml(const pugi::xml_document& xml) {
    std::ostringstream out;
    xml.save(out, "", pugi::format_raw, pugi::encoding_utf8);
    return out.str();
}

struct OdtStyle {
    const char* name;
    const char* shown;
    const char* size;
    const char* colour;
    const char* weight;
    const char* before;
    const char* after;
    const char* align;
    bool keep; // with what follows
};
constexpr OdtStyle odtParagraphs[]{
    {"Title", "Title", "18pt", "#22262b", "bold", "0cm", "0.1cm", "start", true},
    {"Heading_20_1", "Heading 1", "12pt", "#22262b", "bold", "0.5cm", "0.15cm", "start", true},
    {"Heading_20_2", "Heading 2", "10.5pt", "#22262b", "bold", "0.4cm", "0.1cm", "start", true},
    {"Heading_20_3", "Heading 3", "9.5pt", "#22262b", "bold", "0.3cm", "0.1cm", "start", true},
    {"Text_20_body", "Text body", "9.5pt", "#22262b", "normal", "0.08cm", "0.08cm", "start", false},
    {"Explanation", "Explanation", "9.5pt", "#6e6d69", "normal", "0.08cm", "0.08cm", "start", false},
    {"Table_20_caption", "Table caption", "8.5pt", "#6e6d69", "normal", "0.25cm", "0.05cm", "start", true},
    {"Figure_20_caption", "Figure caption", "8.5pt", "#6e6d69", "normal", "0.05cm", "0.25cm", "start", false},
    {"Figure", "Figure", "9.5pt", "#22262b", "normal", "0.2cm", "0cm", "start", true},
    {"Logo", "Logo", "9.5pt", "#22262b", "normal", "0cm", "0.2cm", "end", false},
    {"Table_20_Heading", "Table Heading", "8pt", "#6e6d69", "bold", "0cm", "0cm", "start", false},
    {"Table_20_Heading_20_number", "Table Heading number", "8pt", "#6e6d69", "bold", "0cm", "0cm", "end", false},
    {"Table_20_Contents", "Table Contents", "9pt", "#22262b", "normal", "0cm", "0cm", "start", false},
    {"Table_20_number", "Table number", "9pt", "#22262b", "normal", "0cm", "0cm", "end", false},
    {"Signature", "Signature", "9pt", "#6e6d69", "normal", "1.6cm", "0cm", "start", false},
    {"Header", "Header", "8pt", "#6e6d69", "normal", "0cm", "0cm", "start", false},
    {"Footer", "Footer", "8pt", "#6e6d69", "normal", "0cm", "0cm", "start", false}};

constexpr std::pair<const char*, const char*> odtVerdicts[]{
    {"over", "#b5121b"}, {"tight", "#b3730b"}, {"within", "#1f7f73"}, {"unknown", "#6e6d69"}};

void addTextProperties(Node style, const char* size, const char* colour, const char* weight) {
    auto letters = style.append_child("style:text-properties");
    letters.append_attribute("fo:font-family") = "Inter";
    letters.append_attribute("fo:font-size") = size;
    letters.append_attribute("fo:color") = colour;
    letters.append_attribute("fo:font-weight") = weight;
}

Node addStyle(Node styles, const char* name, const char* family) {
    auto style = styles.append_child("style:style");
    style.append_attribute("style:name") = name;
    style.append_attribute("style:family") = family;
    return style;
}

void addNamedStyles(Node styles) {
    for (const auto& one : odtParagraphs) {
        auto style = addStyle(styles, one.name, "paragraph");
        style.append_attribute("style:display-name") = one.shown;
        if (std::string_view(one.name).starts_with("Heading_20_"))
            style.append_attribute("style:default-outline-level") = one.name + 11;
        auto lines = style.append_child("style:paragraph-properties");
        lines.append_attribute("fo:margin-top") = one.before;
        lines.append_attribute("fo:margin-bottom") = one.after;
        lines.append_attribute("fo:text-align") = one.align;
        if (one.keep)
            lines.append_attribute("fo:keep-with-next") = "always";
        addTextProperties(style, one.size, one.colour, one.weight);
    }
    for (const auto& [name, colour] : odtVerdicts) {
        auto letters =
            addStyle(styles, fmt::format("Verdict_20_{}", name).c_str(), "text").append_child("style:text-properties");
        letters.append_attribute("fo:color") = colour;
        letters.append_attribute("fo:font-weight") = "bold";
    }
    for (const auto& [name, key, value] :
         {std::array{"Bold", "fo:font-weight", "bold"}, std::array{"Italic", "fo:font-style", "italic"},
          std::array{"Code", "fo:font-family", "monospace"}})
        addStyle(styles, name, "text").append_child("style:text-properties").append_attribute(key) = value;
}

// A4 with head and foot.
std::string odtStyles(const ReportDocument& document) {
    pugi::xml_document xml;
    auto root = rootOf(xml, "office:document-styles");
    addNamedStyles(root.append_child("office:styles"));
    auto layout = root.append_child("office:automatic-styles").append_child("style:page-layout");
    layout.append_attribute("style:name") = "A4";
    auto page = layout.append_child("style:page-layout-properties");
    for (const auto& [key, value] : {std::pair{"fo:page-width", "21cm"},
                                     {"fo:page-height", "29.7cm"},
                                     {"fo:margin-left", "1.8cm"},
                                     {"fo:margin-right", "1.8cm"},
                                     {"fo:margin-top", "1.2cm"},
                                     {"fo:margin-bottom", "1.2cm"}})
        page.append_attribute(key) = value;
    for (const auto* part : {"style:header-style", "style:footer-style"}) {
        auto room = layout.append_child(part).append_child("style:header-footer-properties");
        room.append_attribute(std::string_view(part) == "style:header-style" ? "fo:margin-bottom"
                                                                             : "fo:margin-top") = "0.5cm";
    }
    auto master = root.append_child("office:master-styles").append_child("style:master-page");
    master.append_attribute("style:name") = "Standard";
    master.append_attribute("style:page-layout-name") = "A4";
    auto head = master.append_child("style:header").append_child("text:p");
    head.append_attribute("text:style-name") = "Header";
    head.text() = (document.title + (document.number.empty() ? "" : "   " + document.number)).c_str();
    auto foot = master.append_child("style:footer").append_child("text:p");
    foot.append_attribute("text:style-name") = "Footer";
    foot.append_child(pugi::node_pcdata).set_value((document.foot + "   page ").c_str());
    foot.append_child("text:page-number");
    foot.append_child(pugi::node_pcdata).set_value(" of ");
    foot.append_child("text:page-count");
    return textOfXml(xml);
}

class OdtContent {
public:
    explicit OdtContent(const ReportDocument& document) : m_document(document) {
        auto root = rootOf(m_xml, "office:document-content");
        m_styles = root.append_child("office:automatic-styles");
        auto lines = addStyle(m_styles, "Break", "paragraph").append_child("style:paragraph-properties");
        lines.append_attribute("fo:break-before") = "page";
        auto room = addStyle(m_styles, "Cell", "table-cell").append_child("style:table-cell-properties");
        room.append_attribute("fo:padding-top") = "0.05cm";
        room.append_attribute("fo:padding-bottom") = "0.05cm";
        room.append_attribute("fo:padding-left") = "0cm";
        room.append_attribute("fo:padding-right") = "0.25cm";
        m_body = root.append_child("office:body").append_child("office:text");
        const auto captions = captionsOf(document);
        Node list;
        for (std::size_t i = 0; i < document.parts.size(); ++i) {
            const auto& part = document.parts[i];
            if (part.kind != ReportPart::Kind::Item)
                list = {};
            else if (!list)
                list = m_body.append_child("text:list");
            add(i, captions[i], list);
        }
    }
    std::string text() const { return textOfXml(m_xml); }
    const std::vector<std::pair<std::string, std::string>>& pictures() const { return m_pictures; }

private:
    static Node paragraph(Node into, const char* style) {
        auto out = into.append_child("text:p");
        out.append_attribute("text:style-name") = style;
        return out;
    }
    static void addRuns(Node into, const std::vector<TextRun>& runs) {
        for (const auto& run : runs) {
            auto at = into;
            if (run.link.starts_with("http") || run.link.starts_with("mailto:")) {
                at = at.append_child("text:a");
                at.append_attribute("xlink:type") = "simple";
                at.append_attribute("xlink:href") = run.link.c_str();
            }
            for (const auto& [is, name] : {std::pair{run.bold, "Bold"}, {run.italic, "Italic"}, {run.code, "Code"}})
                if (is) {
                    at = at.append_child("text:span");
                    at.append_attribute("text:style-name") = name;
                }
            at.append_child(pugi::node_pcdata).set_value(run.text.c_str());
        }
    }
    static void addVerdict(Node into, const std::string& words, Verdict verdict) {
        auto span = into.append_child("text:span");
        span.append_attribute("text:style-name") = fmt::format("Verdict_20_{}", verdictName(verdict)).c_str();
        span.append_child(pugi::node_pcdata).set_value(words.c_str());
    }

    void add(std::size_t at, const std::string& caption, Node list) {
        const auto& part = m_document.parts[at];
        switch (part.kind) {
        case ReportPart::Kind::Title: {
            if (part.picture.isThere())
                addFigure(paragraph(m_body, "Logo"), part.picture, 5, 1.4);
            auto title = paragraph(m_body, "Title");
            addRuns(title, part.runs);
            if (part.mark)
                addVerdict(title, "   " + std::string(verdictName(*part.mark)), *part.mark);
            break;
        }
        case ReportPart::Kind::Heading:
            addHeading(part, at);
            break;
        case ReportPart::Kind::Paragraph:
            addRuns(paragraph(m_body, part.faint ? "Explanation" : "Text_20_body"), part.runs);
            break;
        case ReportPart::Kind::Item:
            addRuns(paragraph(list.append_child("text:list-item"), "Text_20_body"), part.runs);
            break;
        case ReportPart::Kind::Table:
            if (!caption.empty())
                paragraph(m_body, "Table_20_caption").text() = caption.c_str();
            addTable(part);
            break;
        case ReportPart::Kind::Facts:
            addFacts(part);
            break;
        case ReportPart::Kind::Picture: {
            auto figure = paragraph(m_body, "Figure");
            if (part.picture.isThere())
                addFigure(figure, part.picture, odtTextWidthCm * part.size, odtHighestCm);
            else
                figure.text() = ("No picture: " + part.picture.why).c_str();
            paragraph(m_body, "Figure_20_caption").text() = caption.c_str();
            break;
        }
        case ReportPart::Kind::PageBreak:
            paragraph(m_body, "Break");
            break;
        case ReportPart::Kind::Signatures:
            addSignatures(part);
            break;
        case ReportPart::Kind::Contents:
            addContents();
            break;
        }
    }
    void addHeading(const ReportPart& part, std::size_t at) {
        auto heading = m_body.append_child("text:h");
        const int level = std::clamp(part.level, 1, 3);
        heading.append_attribute("text:style-name") = fmt::format("Heading_20_{}", level).c_str();
        heading.append_attribute("text:outline-level") = level;
        heading.append_child("text:bookmark").append_attribute("text:name") = fmt::format("heading{}", at).c_str();
        addRuns(heading, part.runs);
    }
    // An index that the word processor renews, with its page numbers, on demand.
    void addContents() {
        auto index = m_body.append_child("text:table-of-content");
        index.append_attribute("text:name") = "Contents";
        index.append_child("text:table-of-content-source").append_attribute("text:outline-level") = 3;
        auto body = index.append_child("text:index-body");
        for (const auto at : listedHeadings(m_document)) {
            auto link = paragraph(body, "Text_20_body").append_child("text:a");
            link.append_attribute("xlink:type") = "simple";
            link.append_attribute("xlink:href") = fmt::format("#heading{}", at).c_str();
            link.append_child(pugi::node_pcdata).set_value(plainText(m_document.parts[at].runs).c_str());
        }
    }
    // Columns in proportion to what they hold.
    Node beginTable(const std::vector<std::size_t>& widths) {
        const auto name = fmt::format("Table{}", ++m_tables);
        auto style = addStyle(m_styles, name.c_str(), "table");
        auto whole = style.append_child("style:table-properties");
        whole.append_attribute("style:width") = fmt::format("{:g}cm", odtTextWidthCm).c_str();
        whole.append_attribute("table:align") = "left";
        auto table = m_body.append_child("table:table");
        table.append_attribute("table:name") = name.c_str();
        table.append_attribute("table:style-name") = name.c_str();
        double all = 0;
        for (const auto width : widths)
            all += static_cast<double>(width);
        for (std::size_t i = 0; i < widths.size(); ++i) {
            const auto own = fmt::format("{}.{}", name, i);
            addStyle(m_styles, own.c_str(), "table-column")
                .append_child("style:table-column-properties")
                .append_attribute("style:column-width") =
                fmt::format("{:.3f}cm", odtTextWidthCm * static_cast<double>(widths[i]) / all).c_str();
            table.append_child("table:table-column").append_attribute("table:style-name") = own.c_str();
        }
        return table;
    }
    static Node cell(Node row, const char* style) {
        auto made = row.append_child("table:table-cell");
        made.append_attribute("table:style-name") = "Cell";
        made.append_attribute("office:value-type") = "string";
        return paragraph(made, style);
    }
    void addTable(const ReportPart& part) {
        const auto& columns = part.table.columns;
        if (columns.empty())
            return;
        std::vector<std::size_t> widths;
        for (std::size_t i = 0; i < columns.size(); ++i) {
            std::size_t widest = columns[i].title.size();
            for (const auto& row : part.table.rows)
                widest = std::max(widest, i < row.size() ? row[i].size() : 0);
            widths.push_back(std::clamp<std::size_t>(widest, 5, 40) + 2);
        }
        auto table = beginTable(widths);
        auto head = table.append_child("table:table-header-rows").append_child("table:table-row");
        for (const auto& column : columns)
            cell(head, column.isNumber ? "Table_20_Heading_20_number" : "Table_20_Heading").text() =
                column.title.c_str();
        for (std::size_t at = 0; at < part.table.rows.size(); ++at) {
            auto row = table.append_child("table:table-row");
            for (std::size_t i = 0; i < columns.size(); ++i) {
                auto words = cell(row, columns[i].isNumber ? "Table_20_number" : "Table_20_Contents");
                const auto text = i < part.table.rows[at].size() ? part.table.rows[at][i] : std::string();
                if (i == 0 && at < part.marks.size() && part.marks[at])
                    addVerdict(words, text, *part.marks[at]);
                else
                    words.text() = text.c_str();
            }
        }
    }
    void addFacts(const ReportPart& part) {
        auto table = beginTable({1, 4});
        for (const auto& facts : part.table.rows) {
            auto row = table.append_child("table:table-row");
            cell(row, "Explanation").text() = facts[0].c_str();
            cell(row, "Table_20_Contents").text() = facts[1].c_str();
        }
    }
    void addSignatures(const ReportPart& part) {
        auto row = beginTable(std::vector<std::size_t>(part.table.columns.size(), 1)).append_child("table:table-row");
        for (const auto& column : part.table.columns) {
            auto line = cell(row, "Signature");
            line.append_child(pugi::node_pcdata).set_value("______________________");
            line.append_child("text:line-break");
            line.append_child(pugi::node_pcdata).set_value(column.title.c_str());
        }
    }
    void addFigure(Node into, const ReportPicture& picture, double widthCm, double mostHeightCm) {
        auto [ending, bytes] = picture.asFile();
        const double shape = picture.width > 0 && picture.height > 0
                                 ? picture.height / static_cast<double>(picture.width)
                                 : mostHeightCm / widthCm;
        widthCm = std::min(widthCm, mostHeightCm / shape);
        const auto name = fmt::format("Pictures/picture{}.{}", m_pictures.size() + 1, ending);
        auto frame = into.append_child("draw:frame");
        frame.append_attribute("text:anchor-type") = "as-char";
        frame.append_attribute("draw:name") = fmt::format("picture{}", m_pictures.size() + 1).c_str();
        frame.append_attribute("svg:width") = fmt::format("{:.3f}cm", widthCm).c_str();
        frame.append_attribute("svg:height") = fmt::format("{:.3f}cm", widthCm * shape).c_str();
        auto image = frame.append_child("draw:image");
        image.append_attribute("xlink:href") = name.c_str();
        image.append_attribute("xlink:type") = "simple";
        m_pictures.emplace_back(name, std::move(bytes));
    }

    const ReportDocument& m_document;
    pugi::xml_document m_xml;
    Node m_styles;
    Node m_body;
    std::vector<std::pair<std::string, std::string>> m_pictures; // name and bytes
    int m_tables = 0;
};

std::string odtMeta(const ReportDocument& document) {
    pugi::xml_document xml;
    auto meta = rootOf(xml, "office:document-meta").append_child("office:meta");
    meta.append_child("dc:title").text() = document.title.c_str();
    meta.append_child("meta:initial-creator").text() = document.preparedBy.c_str();
    meta.append_child("meta:generator").text() = "Pyrometer";
    return textOfXml(xml);
}

std::string odtManifest(const std::vector<std::pair<std::string, std::string>>& entries) {
    pugi::xml_document xml;
    auto manifest = xml.append_child("manifest:manifest");
    manifest.append_attribute("xmlns:manifest") = "urn:oasis:names:tc:opendocument:xmlns:manifest:1.0";
    manifest.append_attribute("manifest:version") = "1.2";
    const auto add = [&](const std::string& path, const std::string& type) {
        auto entry = manifest.append_child("manifest:file-entry");
        entry.append_attribute("manifest:full-path") = path.c_str();
        entry.append_attribute("manifest:media-type") = type.c_str();
    };
    add("/", "application/vnd.oasis.opendocument.text");
    for (const auto& [name, bytes] : entries)
        add(name, name.ends_with(".png")   ? "image/png"
                  : name.ends_with(".jpg") ? "image/jpeg"
                  : name.ends_with(".svg") ? "image/svg+xml"
                                           : "text/xml");
    return textOfXml(xml);
}

} // namespace

Done writeReportOdt(const ReportDocument& document, const std::filesystem::path& file) {
    const OdtContent content(document);
    std::vector<std::pair<std::string, std::string>> entries{
        {"content.xml", content.text()}, {"styles.xml", odtStyles(document)}, {"meta.xml", odtMeta(document)}};
    entries.insert(entries.end(), content.pictures().begin(), content.pictures().end());
    entries.emplace_back("META-INF/manifest.xml", odtManifest(entries));
    entries.insert(entries.begin(), {"mimetype", "application/vnd.oasis.opendocument.text"}); // first, as it is
    WholeFile target(file);
    int error = 0;
    auto* archive = zip_open(target.beside().c_str(), ZIP_CREATE | ZIP_TRUNCATE, &error);
    if (archive == nullptr)
        return target.failed("the report");
    for (const auto& [name, bytes] : entries) {
        auto* source = zip_source_buffer(archive, bytes.data(), bytes.size(), 0);
        const auto at = source == nullptr ? -1 : zip_file_add(archive, name.c_str(), source, ZIP_FL_ENC_UTF_8);
        if (at < 0) {
            zip_discard(archive);
            return target.failed("the report");
        }
        if (name == "mimetype" || name.ends_with(".png"))
            zip_set_file_compression(archive, static_cast<zip_uint64_t>(at), ZIP_CM_STORE, 0);
    }
    if (zip_close(archive) != 0) {
        zip_discard(archive);
        return target.failed("the report");
    }
    return target.put("the report");
}

} // namespace pyro
