#include "render/pdf_links.h"

#include <qpdf/QPDF.hh>
#include <qpdf/QPDFObjectHandle.hh>
#include <qpdf/QPDFPageDocumentHelper.hh>
#include <qpdf/QPDFWriter.hh>

namespace pyro {
namespace {

using Handle = QPDFObjectHandle;

double pointsOf(double millimetres) { return millimetres / 25.4 * 72; }

Handle destination(const Handle& page, double top, double height) {
    return Handle::newArray(
        {page, Handle::newName("/XYZ"), Handle::newNull(), Handle::newReal(height - pointsOf(top)), Handle::newNull()});
}

// ISO 32000-1, 12.3.3: a tree of items that know their parent, neighbours and children.
void addOutline(QPDF& pdf, const std::vector<Handle>& pages, double height, const std::vector<PdfTarget>& targets) {
    auto root = pdf.makeIndirectObject(Handle::newDictionary());
    root.replaceKey("/Type", Handle::newName("/Outlines"));
    std::vector<std::pair<int, Handle>> open{{0, root}}; // level and item, from the root to the one before
    int shown = 0;
    for (const auto& target : targets) {
        while (open.back().first >= target.level && open.size() > 1)
            open.pop_back();
        auto& parent = open.back().second;
        auto item = pdf.makeIndirectObject(Handle::newDictionary());
        item.replaceKey("/Title", Handle::newUnicodeString(target.words));
        item.replaceKey("/Parent", parent);
        item.replaceKey("/Dest", destination(pages[static_cast<std::size_t>(target.page)], target.top, height));
        if (parent.hasKey("/Last")) {
            auto last = parent.getKey("/Last");
            item.replaceKey("/Prev", last);
            last.replaceKey("/Next", item);
        } else {
            parent.replaceKey("/First", item);
        }
        parent.replaceKey("/Last", item);
        for (auto& [level, above] : open)
            above.replaceKey(
                "/Count", Handle::newInteger((above.hasKey("/Count") ? above.getKey("/Count").getIntValue() : 0) + 1));
        open.emplace_back(target.level, item);
        ++shown;
    }
    if (shown > 0) {
        pdf.getRoot().replaceKey("/Outlines", root);
        pdf.getRoot().replaceKey("/PageMode", Handle::newName("/UseOutlines"));
    }
}

void addLink(QPDF& pdf, Handle page, const Handle& to, double height, const PdfTarget& target) {
    auto link = pdf.makeIndirectObject(Handle::newDictionary());
    link.replaceKey("/Type", Handle::newName("/Annot"));
    link.replaceKey("/Subtype", Handle::newName("/Link"));
    link.replaceKey("/Border", Handle::newArray({Handle::newInteger(0), Handle::newInteger(0), Handle::newInteger(0)}));
    link.replaceKey("/Rect", Handle::newArray({Handle::newReal(pointsOf(target.link.left())),
                                               Handle::newReal(height - pointsOf(target.link.bottom())),
                                               Handle::newReal(pointsOf(target.link.right())),
                                               Handle::newReal(height - pointsOf(target.link.top()))}));
    link.replaceKey("/Dest", destination(to, target.top, height));
    if (!page.hasKey("/Annots"))
        page.replaceKey("/Annots", Handle::newArray());
    page.getKey("/Annots").appendItem(link);
}

} // namespace

Result<std::string> withTargets(const std::string& pdf, const PdfFacts& facts, const std::vector<PdfTarget>& targets) {
    try {
        QPDF document;
        document.processMemoryFile("report", pdf.data(), pdf.size());
        std::vector<Handle> pages;
        for (auto& page : QPDFPageDocumentHelper(document).getAllPages())
            pages.push_back(page.getObjectHandle());
        const double height = pages.empty() ? 0 : pages.front().getKey("/MediaBox").getArrayItem(3).getNumericValue();
        const auto isThere = [&](int page) { return page >= 0 && static_cast<std::size_t>(page) < pages.size(); };
        std::vector<PdfTarget> found;
        for (const auto& target : targets)
            if (isThere(target.page))
                found.push_back(target);
        addOutline(document, pages, height, found);
        for (const auto& target : found)
            if (isThere(target.linkPage))
                addLink(document, pages[static_cast<std::size_t>(target.linkPage)],
                        pages[static_cast<std::size_t>(target.page)], height, target);
        document.getRoot().replaceKey("/Lang", Handle::newString("en"));
        auto info = document.getTrailer().getKey("/Info");
        if (info.isDictionary() && !facts.author.empty())
            info.replaceKey("/Author", Handle::newUnicodeString(facts.author));
        auto preferences = Handle::newDictionary();
        preferences.replaceKey("/DisplayDocTitle", Handle::newBool(true));
        document.getRoot().replaceKey("/ViewerPreferences", preferences);
        QPDFWriter writer(document);
        writer.setOutputMemory();
        writer.write();
        const auto buffer = writer.getBufferSharedPointer();
        return std::string(reinterpret_cast<const char*>(buffer->getBuffer()), buffer->getSize());
    } catch (const std::exception& problem) {
        return fail(ErrorCode::WriteFailed, std::string("the PDF cannot be completed: ") + problem.what(), "report",
                    "Please report it");
    }
}

} // namespace pyro
