// What the library that draws a PDF leaves out: outline, links within the document, author and language.
#pragma once

#include "core/feedback/error.h"

#include <QRectF>
#include <string>
#include <vector>

namespace pyro {

struct PdfTarget {
    std::string words;
    int level;    // from 1
    int page;     // from 0
    double top;   // mm from the upper edge of the page
    QRectF link;  // mm from the upper left corner: where a click leads there
    int linkPage; // -1: nowhere
};

struct PdfFacts {
    std::string title;
    std::string author;
};

// The bytes of a PDF with them. Errors: WriteFailed for bytes that are no PDF.
Result<std::string> withTargets(const std::string& pdf, const PdfFacts& facts, const std::vector<PdfTarget>& targets);

} // namespace pyro
