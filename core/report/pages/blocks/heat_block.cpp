#include "core/report/pages/report_blocks.h"

namespace pyro {
namespace {

void makeBalances(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    addHeading(block, into);
    for (const auto& one : casesOf(input, block)) {
        if (one.readings == nullptr || !one.readings->balances) {
            into.parts.push_back(paragraphPart(one.entry.name + ": no balances are known.", true));
            continue;
        }
        addTable(block, shownBalances(one.entry, *one.readings), "Heat balances of " + one.entry.name, into);
        addTable(block, shownFlows(*one.readings, input.unit), "Heat through boundaries of " + one.entry.name, into);
        if (!one.readings->balances->links.empty())
            addTable(block, shownLinks(one.entry, *one.readings), "Heat between parts of " + one.entry.name, into);
    }
}

void makeHeatFlow(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    addHeading(block, into);
    for (const auto& one : casesOf(input, block)) {
        addPicture(block,
                   input.pictures.heatFlowDiagram ? input.pictures.heatFlowDiagram(one.run)
                                                  : ReportPicture{{}, 0, 0, {}, "no diagrams are drawn here"},
                   "Heat flow diagram of " + one.entry.name, into);
    }
}

// A viewpoint on its case, or on each case that the block names.
void makeViewpoint(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    for (const auto& viewpoint : input.survey.viewpoints) {
        if (!block.name.empty() && viewpoint.name != block.name)
            continue;
        auto cases = block.cases;
        if (cases.empty())
            cases.push_back(input.onlyCase);
        for (const auto& caseName : cases) {
            auto caption = block.title.empty() ? viewpoint.name : block.title;
            if (!caseName.empty() && cases.size() > 1)
                caption += ", " + caseName;
            addPicture(block,
                       input.pictures.viewpoint ? input.pictures.viewpoint(viewpoint, caseName, block.step)
                                                : ReportPicture{{}, 0, 0, {}, "no pictures are drawn here"},
                       caption, into);
        }
    }
    const auto isNamed = [&](const Viewpoint& one) { return one.name == block.name; };
    if (!block.name.empty() && std::ranges::none_of(input.survey.viewpoints, isNamed)) {
        into.remarks.push_back("there is no viewpoint \"" + block.name + "\"");
        into.parts.push_back(paragraphPart("The viewpoint \"" + block.name + "\" is not in the survey.", true));
    }
}

} // namespace

constexpr ReportBlockKind balancesBlock{.key = "balances",
                                        .title = "Heat balances",
                                        .meaning = "what enters and leaves each part and boundary",
                                        .make = makeBalances};
constexpr ReportBlockKind heatFlowBlock{.key = "heat flow diagram",
                                        .title = "Heat flow",
                                        .meaning = "which way the heat goes, drawn",
                                        .make = makeHeatFlow};
constexpr ReportBlockKind viewpointBlock{.key = "viewpoint",
                                         .title = "Picture",
                                         .meaning = "a viewpoint, drawn for paper; without a name all of them",
                                         .make = makeViewpoint};

} // namespace pyro
