#include "core/report/pages/report_blocks.h"

#include <algorithm>

namespace pyro {
namespace {

void makeBalances(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    addHeading(block, into);
    for (const auto& one : casesOf(input, block)) {
        if (one.readings == nullptr || !one.readings->balances) {
            into.parts.push_back(paragraphPart(one.entry.name + ": no balances are known.", true));
            continue;
        }
        addTable(block, shownBalances(one.entry, *one.readings, input.unit), "Heat balances of " + one.entry.name,
                 into);
        addTable(block, shownFlows(*one.readings, input.unit), "Heat through boundaries of " + one.entry.name, into);
        if (!one.readings->balances->links.empty())
            addTable(block, shownLinks(one.entry, *one.readings, input.unit), "Heat between parts of " + one.entry.name,
                     into);
    }
}

void makeHeatFlow(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    addHeading(block, into);
    for (const auto& one : casesOf(input, block)) {
        addPicture(block,
                   input.pictures.heatFlowDiagram ? input.pictures.heatFlowDiagram(one.run)
                                                  : withoutPicture("no diagrams are drawn here"),
                   "Heat flow diagram of " + one.entry.name, into);
    }
}

// The viewpoints that a block names; those that are gone are told.
std::vector<const Viewpoint*> viewpointsOf(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    auto names = block.rows;
    if (names.empty() && !block.name.empty())
        names = {block.name};
    std::vector<const Viewpoint*> out;
    if (names.empty())
        for (const auto& one : input.survey.viewpoints)
            out.push_back(&one);
    for (const auto& name : names) {
        const auto found = std::ranges::find(input.survey.viewpoints, name, &Viewpoint::name);
        if (found != input.survey.viewpoints.end()) {
            out.push_back(&*found);
            continue;
        }
        into.remarks.push_back("there is no viewpoint \"" + name + "\"");
        into.parts.push_back(paragraphPart("The viewpoint \"" + name + "\" is not in the survey.", true));
    }
    return out;
}

// Each viewpoint on its case, or on each case that the block names; those of `rows` side by side in one figure.
void makeViewpoint(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    auto viewpoints = viewpointsOf(input, block, into);
    Viewpoint now; // of a survey that keeps none: as it is looked at
    now.name = "As seen";
    now.view = input.survey.view;
    if (input.survey.viewpoints.empty() && block.name.empty() && block.rows.empty())
        viewpoints.push_back(&now);
    std::vector<std::vector<const Viewpoint*>> figures;
    if (!block.rows.empty() && !viewpoints.empty())
        figures.push_back(viewpoints);
    else
        for (const auto* one : viewpoints)
            figures.push_back({one});
    auto cases = block.cases;
    if (cases.empty())
        cases.push_back(input.onlyCase);
    for (const auto& figure : figures)
        for (const auto& caseName : cases) {
            std::string caption = block.title;
            if (caption.empty())
                for (const auto* one : figure)
                    caption += (caption.empty() ? "" : "; ") + one->name;
            if (!caseName.empty() && cases.size() > 1)
                caption += ", " + caseName;
            addViewpoints(input, {figure, caseName, block.step, block}, caption, into);
        }
}

} // namespace

constexpr ReportBlockKind balancesBlock{.key = "balances",
                                        .title = "Heat balances",
                                        .meaning = "what enters and leaves each part and boundary",
                                        .keys = "title cases columns decimals",
                                        .make = makeBalances};
constexpr ReportBlockKind heatFlowBlock{.key = "heat flow diagram",
                                        .title = "Heat flow",
                                        .meaning = "which way the heat goes, drawn",
                                        .keys = "title cases size",
                                        .make = makeHeatFlow};
constexpr ReportBlockKind viewpointBlock{.key = "viewpoint",
                                         .title = "Picture",
                                         .meaning = "viewpoints, drawn for paper",
                                         .keys = "title name rows cases step size ground scale labels legend",
                                         .make = makeViewpoint};

} // namespace pyro
