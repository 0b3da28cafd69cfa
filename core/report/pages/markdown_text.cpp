#include "core/report/pages/markdown_text.h"

#include <md4c.h>

namespace pyro {
namespace {

// Follows md4c's walk through the text.
struct Walk {
    std::vector<ReportPart> parts;
    ReportPart part;
    TextRun run;
    bool inTable = false;

    void close(ReportPart::Kind kind) {
        part.kind = kind;
        if (!part.runs.empty())
            parts.push_back(std::move(part));
        part = {};
    }
    void openBlock(MD_BLOCKTYPE type, void* detail) {
        switch (type) {
        case MD_BLOCK_H:
            part.level = static_cast<int>(static_cast<MD_BLOCK_H_DETAIL*>(detail)->level) + 1;
            break;
        case MD_BLOCK_TABLE:
            inTable = true;
            part.table = {};
            break;
        case MD_BLOCK_TR:
            if (!part.table.columns.empty())
                part.table.rows.emplace_back();
            break;
        default:
            break;
        }
    }
    void closeBlock(MD_BLOCKTYPE type) {
        switch (type) {
        case MD_BLOCK_H:
            close(ReportPart::Kind::Heading);
            break;
        case MD_BLOCK_P:
            close(inList > 0 ? ReportPart::Kind::Item : ReportPart::Kind::Paragraph);
            break;
        case MD_BLOCK_LI:
            close(ReportPart::Kind::Item);
            break;
        case MD_BLOCK_CODE:
            close(ReportPart::Kind::Paragraph);
            break;
        case MD_BLOCK_TH:
            part.table.columns.push_back({plainText(part.runs)});
            part.runs.clear();
            break;
        case MD_BLOCK_TD:
            part.table.rows.back().push_back(plainText(part.runs));
            part.runs.clear();
            break;
        case MD_BLOCK_TABLE:
            part.kind = ReportPart::Kind::Table;
            parts.push_back(std::move(part));
            part = {};
            inTable = false;
            break;
        default:
            break;
        }
    }
    int inList = 0;
};

int enterBlock(MD_BLOCKTYPE type, void* detail, void* walk) {
    auto& own = *static_cast<Walk*>(walk);
    own.inList += type == MD_BLOCK_UL || type == MD_BLOCK_OL ? 1 : 0;
    own.openBlock(type, detail);
    return 0;
}
int leaveBlock(MD_BLOCKTYPE type, void*, void* walk) {
    auto& own = *static_cast<Walk*>(walk);
    own.inList -= type == MD_BLOCK_UL || type == MD_BLOCK_OL ? 1 : 0;
    own.closeBlock(type);
    return 0;
}
void setSpan(Walk& walk, MD_SPANTYPE type, void* detail, bool on) {
    switch (type) {
    case MD_SPAN_STRONG:
        walk.run.bold = on;
        break;
    case MD_SPAN_EM:
        walk.run.italic = on;
        break;
    case MD_SPAN_CODE:
        walk.run.code = on;
        break;
    case MD_SPAN_A: {
        const auto& href = static_cast<MD_SPAN_A_DETAIL*>(detail)->href;
        walk.run.link = on ? std::string(href.text, href.size) : std::string();
        break;
    }
    default:
        break;
    }
}
int enterSpan(MD_SPANTYPE type, void* detail, void* walk) {
    setSpan(*static_cast<Walk*>(walk), type, detail, true);
    return 0;
}
int leaveSpan(MD_SPANTYPE type, void* detail, void* walk) {
    setSpan(*static_cast<Walk*>(walk), type, detail, false);
    return 0;
}
int addText(MD_TEXTTYPE type, const MD_CHAR* text, MD_SIZE size, void* walk) {
    auto& own = *static_cast<Walk*>(walk);
    auto run = own.run;
    run.text = type == MD_TEXT_BR || type == MD_TEXT_SOFTBR ? " " : std::string(text, size);
    own.part.runs.push_back(std::move(run));
    return 0;
}

} // namespace

std::vector<ReportPart> partsOfMarkdown(const std::string& text) {
    Walk walk;
    MD_PARSER parser{};
    parser.flags = MD_FLAG_TABLES | MD_FLAG_NOHTML;
    parser.enter_block = enterBlock;
    parser.leave_block = leaveBlock;
    parser.enter_span = enterSpan;
    parser.leave_span = leaveSpan;
    parser.text = addText;
    if (md_parse(text.c_str(), static_cast<MD_SIZE>(text.size()), &parser, &walk) != 0)
        return {paragraphPart(text)};
    return walk.parts;
}

} // namespace pyro
