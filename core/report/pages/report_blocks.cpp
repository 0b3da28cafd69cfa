#include "core/report/pages/report_blocks.h"

#include "core/survey/survey_file.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr const ReportBlockKind* everyBlock[]{
#define BLOCK(name) &name##Block,
#include "core/report/pages/blocks/list.inc"
#undef BLOCK
};

constexpr std::size_t mostRows = 2000; // of a table on pages: some forty

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

bool heeds(const ReportBlockKind& kind, std::string_view key) {
    const auto words = std::string(" ").append(kind.keys).append(" ");
    return words.find(std::string(" ").append(key).append(" ")) != std::string::npos;
}

std::span<const ReportBlockKind* const> reportBlockKinds() { return everyBlock; }

const ReportBlockKind* reportBlockKind(std::string_view key) {
    const auto found = std::ranges::find(everyBlock, key, [](const ReportBlockKind* kind) { return kind->key; });
    return found == std::end(everyBlock) ? nullptr : *found;
}

namespace {

bool isWanted(const ReportInput& input, const ReportBlock& block, const std::string& caseName) {
    return block.cases.empty() ? input.onlyCase.empty() || caseName == input.onlyCase
                               : std::ranges::find(block.cases, caseName) != block.cases.end();
}

} // namespace

std::vector<ReportedCase> casesOf(const ReportInput& input, const ReportBlock& block) {
    std::vector<ReportedCase> out;
    for (const auto& one : input.run.cases)
        if (const auto* entry = input.survey.caseNamed(one.name); entry != nullptr && isWanted(input, block, one.name))
            out.push_back({one, *entry, one.steps.empty() ? nullptr : &one.steps.back()});
    return out;
}

std::vector<std::string> unreadCases(const ReportInput& input, const ReportBlock& block) {
    std::vector<std::string> out;
    for (const auto& entry : input.survey.cases)
        if (isWanted(input, block, entry.name) &&
            std::ranges::find(input.run.cases, entry.name, &CaseRun::name) == input.run.cases.end())
            out.push_back(entry.name);
    return out;
}

void addHeading(const ReportBlock& block, ReportDocument& into) {
    const auto* kind = reportBlockKind(block.kind);
    into.parts.push_back(headingPart(!block.title.empty() ? block.title
                                     : kind != nullptr    ? std::string(kind->title)
                                                          : block.kind));
}

void addTable(const ReportBlock& block, ShownTable table, const std::string& caption, ReportDocument& into) {
    const auto all = table.rows.size();
    if (all > mostRows)
        table.rows.resize(mostRows);
    into.parts.push_back(tablePart(withColumns(std::move(table), block.columns), caption));
    if (all > mostRows)
        into.parts.push_back(paragraphPart(
            fmt::format("{} of {} rows; all are in the spreadsheet of the report.", mostRows, all), true));
}

void addPicture(const ReportBlock& block, ReportPicture picture, const std::string& caption, ReportDocument& into) {
    ReportPart part;
    part.kind = ReportPart::Kind::Picture;
    part.size = block.size;
    part.caption = caption;
    part.picture = std::move(picture);
    into.parts.push_back(std::move(part));
}

void addViewpoints(const ReportInput& input, const ViewpointFigure& figure, const std::string& caption,
                   ReportDocument& into) {
    addPicture(figure.block,
               input.pictures.viewpoints ? input.pictures.viewpoints(figure)
                                         : withoutPicture("no pictures are drawn here"),
               caption, into);
}

std::filesystem::path ReportInput::folder() const { return std::filesystem::path(run.surveyFile).parent_path(); }

ReaderUnits reportUnits(const Survey& survey) {
    auto out = readerUnits(survey.view.unit, survey.report.units);
    out.comma = survey.report.decimal == "comma";
    return out;
}

std::vector<ReportBlock> usualBlocks(const Survey& survey) {
    std::vector<ReportBlock> blocks;
    const auto add = [&](const ReportBlockKind& kind) {
        blocks.emplace_back();
        blocks.back().kind = kind.key;
    };
    add(titleBlock);
    add(casesBlock);
    add(viewpointBlock);
    if (!survey.viewpoints.empty())
        blocks.back().name = survey.viewpoints.front().name;
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
    out.number = input.survey.report.number;
    out.date = input.date;
    out.foot = fmt::format("{}, {}, Pyrometer {}", out.title, input.date, input.version);
    auto own = input;
    for (std::size_t at = 0; at < blocks.size(); ++at) {
        const auto& block = blocks[at];
        if (block.off)
            continue;
        const auto before = out.parts.size();
        own.unit.decimals = block.decimals ? block.decimals : input.unit.decimals;
        if (const auto* kind = reportBlockKind(block.kind))
            kind->make(own, block, out);
        else
            out.remarks.push_back(fmt::format("there is no block \"{}\"; it is left out", block.kind));
        for (auto part = before; part < out.parts.size(); ++part)
            out.parts[part].block = at;
    }
    if (own.unit.comma)
        useComma(out);
    return out;
}

} // namespace pyro
