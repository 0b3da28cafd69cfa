// A report as a sequence of parts, without a form: PDF, ODT, HTML, XLSX and Markdown are written from it.
#pragma once

#include "core/readings/verdict.h"
#include "core/report/shown/shown_table.h"

namespace pyro {

struct TextRun {
    std::string text;
    bool bold = false;
    bool italic = false;
    bool code = false;
    std::string link = {}; // empty: none
};

// As drawn for paper.
struct ReportPicture {
    std::string png; // bytes; empty: see why
    int width = 0;   // pixels
    int height = 0;
    std::string svg = {}; // of charts, besides; empty: none
    std::string why = {};
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
    double size = 1; // of a picture, share of the width of the text
};

struct ReportDocument {
    std::string title;
    std::string preparedBy;
    std::string date;
    std::string foot; // of every page, beside its number
    std::vector<ReportPart> parts;
    std::vector<std::string> remarks; // fields and blocks that could not be filled, for whoever has it written
};

std::string plainText(const std::vector<TextRun>& runs);
ReportPart headingPart(const std::string& words, int level = 1);
ReportPart paragraphPart(const std::string& words, bool faint = false);
ReportPart tablePart(ShownTable table, const std::string& caption = {});

// "Table 3: Verdicts", by the tables, and by the pictures, before it in the document.
std::vector<std::string> captionsOf(const ReportDocument& document);

} // namespace pyro
