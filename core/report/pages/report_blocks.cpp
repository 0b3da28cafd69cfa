#include "core/report/pages/report_blocks.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr const ReportBlockKind* everyBlock[]{
#define BLOCK(name) &name##Block,
#include "core/report/pages/blocks/list.inc"
#undef BLOCK
};

// Columns by their titles, as far as the block names some.
ShownTable withColumns(ShownTable table, const std::vector<std::string>& wanted) {
    if (wanted.empty())
        return table;
    std::vector<std::size_t> kept;
    for (const auto& title : wanted)
        for (std::size_t i = 0; i < table.columns.size(); ++i)
            if (table.columns[i].title == title)
                kept.push_back(i);
    if (kept.empty())
        return table;
    ShownTable out;
    for (const auto i : kept)
        out.columns.push_back(table.columns[i]);
    for (const auto& row : table.rows) {
        auto& own = out.rows.emplace_back();
        for (const auto i : kept)
            own.push_back(row[i]);
    }
    return out;
}

// Numbers with a comma where the report is read in such a country; words stay as they are.
void useComma(ReportDocument& document) {
    for (auto& part : document.parts)
        for (auto& row : part.table.rows)
            for (std::size_t i = 0; i < row.size() && i < part.table.columns.size(); ++i)
                if (part.table.columns[i].isNumber)
                    std::ranges::replace(row[i], '.', ',');
}

} // namespace

std::span<const ReportBlockKind* const> reportBlockKinds() { return everyBlock; }

const ReportBlockKind* reportBlockKind(std::string_view key) {
    const auto found = std::ranges::find(everyBlock, key, [](const ReportBlockKind* kind) { return kind->key; });
    return found == std::end(everyBlock) ? nullptr : *found;
}

std::vector<ReportedCase> casesOf(const ReportInput& input, const ReportBlock& block) {
    std::vector<ReportedCase> out;
    for (const auto& one : input.run.cases) {
        const auto* entry = input.survey.caseNamed(one.name);
        const bool named = block.cases.empty() ? input.onlyCase.empty() || one.name == input.onlyCase
                                               : std::ranges::find(block.cases, one.name) != block.cases.end();
        if (entry != nullptr && named)
            out.push_back({one, *entry, one.steps.empty() ? nullptr : &one.steps.back()});
    }
    return out;
}

void addHeading(const ReportBlock& block, ReportDocument& into) {
    const auto* kind = reportBlockKind(block.kind);
    into.parts.push_back(headingPart(!block.title.empty() ? block.title
                                     : kind != nullptr    ? std::string(kind->title)
                                                          : block.kind));
}

void addTable(const ReportBlock& block, ShownTable table, const std::string& caption, ReportDocument& into) {
    into.parts.push_back(tablePart(withColumns(std::move(table), block.columns), caption));
}

void addPicture(const ReportBlock& block, ReportPicture picture, const std::string& caption, ReportDocument& into) {
    ReportPart part;
    part.kind = ReportPart::Kind::Picture;
    part.size = block.size;
    part.caption = caption;
    part.picture = std::move(picture);
    into.parts.push_back(std::move(part));
}

std::vector<ReportBlock> usualBlocks(const Survey& survey) {
    std::vector<ReportBlock> blocks;
    const auto add = [&](const ReportBlockKind& kind) {
        blocks.emplace_back();
        blocks.back().kind = kind.key;
    };
    add(titleBlock);
    add(casesBlock);
    if (!survey.viewpoints.empty()) {
        add(viewpointBlock);
        blocks.back().name = survey.viewpoints.front().name;
    }
    add(verdictsBlock);
    add(transmittancesBlock);
    add(compareBlock);
    add(sweepBlock);
    add(gridsBlock);
    add(measuredBlock);
    add(findingsBlock);
    return blocks;
}

ReportDocument makeReport(const ReportInput& input, const std::vector<ReportBlock>& blocks) {
    ReportDocument out;
    out.title = input.survey.title.empty() ? "Thermal evaluation" : input.survey.title;
    out.preparedBy = input.survey.report.preparedBy;
    out.date = input.date;
    out.foot = fmt::format("{}, {}, Pyrometer {}", out.title, input.date, input.version);
    for (const auto& block : blocks) {
        if (block.off)
            continue;
        if (const auto* kind = reportBlockKind(block.kind))
            kind->make(input, block, out);
        else
            out.remarks.push_back(fmt::format("there is no block \"{}\"; it is left out", block.kind));
    }
    if (input.survey.report.decimal == "comma")
        useComma(out);
    return out;
}

} // namespace pyro
