// A report laid out as a text with headings, tables and pictures.
#pragma once

#include "core/report/pages/report_document.h"
#include "render/figure_store.h"

#include <QTextDocument>
#include <set>

namespace pyro {

// Where things stand in the text.
struct LaidOut {
    struct Heading {
        int position; // of its first letter
        QString words;
        int level;
        int listed = -1; // within its line in the contents; -1: not listed
    };
    std::vector<Heading> headings;
    std::vector<int> parts; // first letter of each part of the document
    // What must not stand alone at the end of a page, headings and captions of tables: their position, and their part.
    std::vector<std::pair<int, std::size_t>> kept;
};

// Lengths are dots of 96 to the inch, which the layout scales to its paint device. Pictures are drawn by `store`, which
// must outlive the text; so must `document`.
// `breaks`: parts that begin on a new page.
LaidOut layOut(const ReportDocument& document, FigureStore& store, const std::set<std::size_t>& breaks,
               QTextDocument& into);

} // namespace pyro
