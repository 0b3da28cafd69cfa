#include "core/survey/report_block.h"

namespace pyro {
namespace {

constexpr std::string_view whiteWord() { return "white"; }
constexpr std::string_view graphiteWord() { return "graphite"; }
constexpr std::string_view transparentWord() { return "transparent"; }
constexpr std::string_view beneathWord() { return "beneath"; }
constexpr std::string_view besideWord() { return "beside"; }
constexpr std::string_view insideWord() { return "inside"; }
constexpr std::string_view noneWord() { return "none"; }
constexpr std::string_view partsWord() { return "parts"; }

} // namespace

template <>
std::span<const KeyRow<ReportBlock>> rowsOf<ReportBlock>() {
    using Row = RowsOf<ReportBlock>;
    static constexpr KeyRow<ReportBlock> rows[]{
        Row::needed<&ReportBlock::kind>("kind", "title, text, verdicts, viewpoint ...; see docs/report.md"),
        Row::by(
            "off", "whether it is left out",
            [](const Json& json, const ReadPlace& place, ReportBlock& into) {
                KeyValue<bool>::read(json, place, into.off);
            },
            [](const ReportBlock& from) { return from.off ? Json(true) : Json(); }, KeyValue<bool>::schema),
        Row::of<&ReportBlock::title>("title", "left out: that of its kind"),
        Row::of<&ReportBlock::text>("text", "Markdown, with {{fields}}"),
        Row::of<&ReportBlock::name>("name", "of a viewpoint or a chart; left out: all"),
        Row::of<&ReportBlock::cases>("cases", "left out: all"),
        Row::of<&ReportBlock::rows>("rows", "gauges, who signs, or viewpoints side by side; left out: all"),
        Row::of<&ReportBlock::columns>("columns", "by their titles, in this order; left out: all"),
        Row::where(Row::of<&ReportBlock::step>("step", "of a viewpoint, from 0"), "a number from 0",
                   [](const ReportBlock& one) { return *one.step >= 0; }),
        Row::where(Row::by(
                       "size", "of a picture, share of the width of the text",
                       [](const Json& json, const ReadPlace& place, ReportBlock& into) {
                           KeyValue<double>::read(json, place, into.size);
                       },
                       [](const ReportBlock& from) { return from.size == 1 ? Json() : Json(from.size); },
                       KeyValue<double>::schema),
                   "a share from 0.1 to 1", [](const ReportBlock& one) { return one.size >= 0.1 && one.size <= 1; }),
        Row::where(Row::of<&ReportBlock::decimals>("decimals", "of numbers; left out: four significant digits"),
                   "a number from 0 to 9",
                   [](const ReportBlock& one) { return *one.decimals >= 0 && *one.decimals <= 9; }),
        Row::oneOf<&ReportBlock::ground, whiteWord, graphiteWord, transparentWord>("ground", "of a viewpoint"),
        Row::oneOf<&ReportBlock::scale, beneathWord, besideWord, insideWord, noneWord>("scale", "of a viewpoint"),
        Row::oneOf<&ReportBlock::labels, partsWord, noneWord>("labels", "of a viewpoint; left out: parts"),
        Row::oneOf<&ReportBlock::legend, partsWord, noneWord>("legend", "of a viewpoint; left out: none"),
    };
    return rows;
}

} // namespace pyro
