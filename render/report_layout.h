// A report laid out as a text with headings, tables and pictures.
#pragma once

#include "core/report/pages/report_document.h"
#include "render/figure_store.h"

#include <QTextDocument>

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
};

// Lengths are dots of 96 to the inch, which the layout scales to its paint device. Pictures are drawn by `store`, which
// must outlive the text; so must `document`.
LaidOut layOut(const ReportDocument& document, FigureStore& store, QTextDocument& into);

} // namespace pyro
