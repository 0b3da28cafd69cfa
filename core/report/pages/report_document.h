// A report as a sequence of parts, without a form: PDF, ODT, HTML, XLSX and Markdown are written from it.
#pragma once

#include "core/readings/verdict.h"
#include "core/report/shown/shown_table.h"

#include <memory>

namespace pyro {

struct TextRun {
    std::string text;
    bool bold = false;
    bool italic = false;
    bool code = false;
    std::string link = {}; // empty: none
};

// A figure as its drawer keeps it; files are made of it when they are wanted.
class FigureDrawing {
public:
    virtual ~FigureDrawing() = default;
    virtual std::string png() const = 0; // bytes; empty: it is lines and letters only
    virtual std::string svg() const = 0;
};

struct ReportPicture {
    std::string file = {}; // bytes of a PNG, JPEG or SVG of the user's; empty: none
    int width = 0;         // pixels, also of one that is still to come
    int height = 0;
    std::shared_ptr<const FigureDrawing> drawing = {};
    std::string why = {}; // where it is not there

    bool isThere() const { return !file.empty() || drawing != nullptr; }
    // "png", "jpg" or "svg", and the bytes of such a file; pixels where some of it is.
    std::pair<std::string, std::string> asFile() const;
};

struct ReportPart {
    enum class Kind { Title, Heading, Paragraph, Item, Table, Facts, Picture, PageBreak, Signatures, Contents };
    Kind kind = Kind::Paragraph;
    int level = 1;                             // of headings, from 1
    std::vector<TextRun> runs;                 // of titles, headings, paragraphs and items
    bool faint = false;                        // a paragraph that explains
    std::optional<Verdict> mark;               // of a title
    ShownTable table;                          // of Facts: two columns without titles; of Signatures: a column for each
    std::vector<std::optional<Verdict>> marks; // per row of a table; empty: none
    std::string caption;                       // of tables and pictures, which are numbered
    ReportPicture picture;
    double size = 1;       // of a picture, share of the width of the text
    std::size_t block = 0; // the position of what it was made by in the list of blocks
};

struct ReportDocument {
    std::string title;
    std::string number;
    std::string preparedBy;
    std::string date;
    std::string foot; // of every page, beside its number
    std::vector<ReportPart> parts;
    std::vector<std::string> remarks; // fields and blocks that could not be filled, for whoever has it written
};

ReportPicture withoutPicture(const std::string& why);
std::string plainText(const std::vector<TextRun>& runs);
ReportPart headingPart(const std::string& words, int level = 1);
ReportPart paragraphPart(const std::string& words, bool faint = false);
ReportPart tablePart(ShownTable table, const std::string& caption = {});

// The headings that a list of contents names: all but its own. Positions of parts.
std::vector<std::size_t> listedHeadings(const ReportDocument& document);

// "Table 3: Verdicts", by the tables, and by the pictures, before it in the document.
std::vector<std::string> captionsOf(const ReportDocument& document);

} // namespace pyro
