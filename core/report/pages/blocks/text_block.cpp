#include "core/report/pages/markdown_text.h"
#include "core/report/pages/report_blocks.h"
#include "core/report/pages/report_fields.h"

#include <fmt/format.h>

namespace pyro {
namespace {

void makeText(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    if (!block.title.empty())
        addHeading(block, into);
    std::vector<std::string> unknown;
    const auto filled = fillFields(block.text, input, FieldEscape::None, unknown);
    if (!filled) {
        into.remarks.push_back(filled.error().what);
        into.parts.push_back(paragraphPart(block.text));
        return;
    }
    for (const auto& name : unknown)
        into.remarks.push_back(fmt::format("nothing is called \"{}\"; the field stands as it is", name));
    for (auto& part : partsOfMarkdown(*filled))
        into.parts.push_back(std::move(part));
}

} // namespace

constexpr ReportBlockKind textBlock{.key = "text",
                                    .title = "Text",
                                    .meaning = "Markdown, with values of gauges: \"The amplifier reaches {{T_amp}}\"",
                                    .keys = "title text",
                                    .make = makeText};

} // namespace pyro
