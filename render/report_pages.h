// The pages of a report: A4, laid out once for screen and paper.
#pragma once

#include "core/feedback/progress.h"
#include "render/report_layout.h"

#include <filesystem>

class QPainter;

namespace pyro {

class ReportPages {
public:
    // The document and the store must outlive it.
    ReportPages(const ReportDocument& document, FigureStore& store);
    int count() const { return m_text->pageCount(); }
    // One page from 0, with head and foot, at `dpi`.
    void draw(QPainter& painter, int page, double dpi) const;
    QImage picture(int page, double dpi) const;
    // The part of the document that stands there, millimetres from the upper left corner of the page; nothing in an
    // empty document.
    std::optional<std::size_t> partAt(int page, const QPointF& at) const;
    // From where to where on which pages a block stands: tops and bottoms in millimetres.
    struct Stretch {
        int page;
        double top;
        double bottom;
    };
    std::vector<Stretch> stretchesOf(std::size_t block) const;

    // Text that can be searched, links in the contents, an outline by the headings, title and author.
    // Errors: WriteFailed, Cancelled; what stood there stays.
    Done writePdf(const std::filesystem::path& file, Progress& progress) const;

private:
    void layOutWith(FigureStore& store, const std::set<std::size_t>& breaks);
    std::set<std::size_t> standingAlone() const;         // at the end of a page, parted from what they belong to
    void drawNumbers(QPainter& painter, int page) const; // of the contents
    double topOf(int position) const;                    // dots of the layout from the top of the first page
    int pageOf(int position) const;

    const ReportDocument& m_document;
    QImage m_device; // whose dots the layout counts in
    std::unique_ptr<QTextDocument> m_text;
    LaidOut m_laid;
};

} // namespace pyro
