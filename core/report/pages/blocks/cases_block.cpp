#include "core/case/series_watch.h"
#include "core/feedback/check_sum.h"
#include "core/feedback/counted.h"
#include "core/report/pages/report_blocks.h"
#include "core/thermal/whole_heat.h"

#include <fmt/chrono.h>
#include <fmt/format.h>

namespace pyro {
namespace {

// Of the file as it is now.
std::string fileFacts(const std::string& file) {
    std::error_code status;
    const auto size = std::filesystem::file_size(file, status);
    if (status)
        return "not there any more";
    const auto changed = std::filesystem::last_write_time(file, status);
    const auto system = std::chrono::file_clock::to_sys(changed);
    return fmt::format("{:%Y-%m-%d %H:%M}, {} bytes",
                       fmt::localtime(std::chrono::system_clock::to_time_t(
                           std::chrono::time_point_cast<std::chrono::system_clock::duration>(system))),
                       size);
}

} // namespace

std::string checkSumOf(const CaseRun& run) {
    std::vector<std::filesystem::path> files;
    for (const auto& stamp : stampsOf(run.file))
        files.push_back(stamp.file);
    if (files.empty())
        return "unknown: the file is not there any more";
    const auto sum = sha256Of(files);
    if (!sum)
        return "unknown: " + sum.error().what;
    return files.size() == 1 ? *sum : fmt::format("{} ({}, one after the other)", *sum, counted(files.size(), "file"));
}

namespace {

void makeCases(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    const auto cases = casesOf(input, block);
    addHeading(block, into);
    if (input.survey.cases.empty())
        into.parts.push_back(paragraphPart("There is no case.", true));
    for (const auto& name : unreadCases(input, block))
        into.parts.push_back(paragraphPart(name + " has not been read, so nothing is told of it."));
    for (const auto& one : cases) {
        ReportPart part;
        part.kind = ReportPart::Kind::Facts;
        part.table.columns = {{""}, {""}};
        auto& rows = part.table.rows;
        rows.push_back({"Case", one.entry.name});
        rows.push_back({"File", one.entry.file}); // as the survey names it: no folder of a machine on a page
        rows.push_back({"Date and size", fileFacts(one.run.file)});
        if (input.checkSum)
            rows.push_back({"SHA-256", input.checkSum(one.run)});
        if (one.run.error)
            rows.push_back({"Not read", one.run.error->what});
        if (one.readings != nullptr) {
            const auto& readings = *one.readings;
            std::uint64_t cells = 0;
            for (const auto& part2 : readings.parts)
                cells += part2.cells;
            rows.push_back(
                {"Extent", fmt::format("{}, {}, {}", counted(readings.parts.size(), "part"),
                                       counted(readings.boundaries.size(), "boundary"), counted(cells, "cell"))});
            if (readings.time)
                rows.push_back({"Time", fmt::format("{:g} s", *readings.time)});
            if (readings.symmetry != 1)
                rows.push_back({"Symmetry", fmt::format("the model is 1/{:g} of the whole, for which flows, powers and "
                                                        "chi are told",
                                                        readings.symmetry)});
            if (const auto& balance = readings.balance)
                rows.push_back({"Heat balance", balanceText(*balance)});
        }
        into.parts.push_back(std::move(part));
    }
}

// What the evaluation rests on beside the files: materials, powers, surroundings.
void makeAssumptions(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    addHeading(block, into);
    ShownTable materials{
        {{"Material"}, {"Conductivity", true}, {"Density", true}, {"Heat capacity", true}, {"Viscosity", true}}, {}};
    const auto text = [](const std::optional<Written<double>>& value) { return value ? value->text : std::string(); };
    for (const auto& [name, one] : input.survey.materials)
        materials.rows.push_back(
            {name, text(one.conductivity), text(one.density), text(one.heatCapacity), text(one.viscosity)});
    if (!materials.rows.empty())
        addTable(block, std::move(materials), "Materials", into);
    for (const auto& one : casesOf(input, block)) {
        ShownTable parts{{{"Part"}, {"Material"}, {"Power", true}, {"Kind"}}, {}};
        for (const auto& [name, note] : one.entry.parts)
            parts.rows.push_back({note.label.empty() ? name : note.label, note.material, text(note.power), note.kind});
        if (!parts.rows.empty())
            addTable(block, std::move(parts), "Parts of " + one.entry.name, into);
        ShownTable sides{{{"Boundary"}, {"Temperature", true}, {"Resistance", true}, {"Film coefficient", true}}, {}};
        for (const auto& [name, note] : one.entry.boundaries)
            if (note.temperature || note.surfaceResistance || note.filmCoefficient)
                sides.rows.push_back({note.label.empty() ? name : note.label, text(note.temperature),
                                      text(note.surfaceResistance), text(note.filmCoefficient)});
        if (!sides.rows.empty())
            addTable(block, std::move(sides), "Surroundings of " + one.entry.name, into);
        if (one.entry.ambient)
            into.parts.push_back(paragraphPart(fmt::format("{}: ambient {}", one.entry.name, one.entry.ambient->text)));
    }
}

} // namespace

constexpr ReportBlockKind casesBlock{.key = "cases",
                                     .title = "Cases",
                                     .meaning = "the cases with their files, dates, extents and heat balances",
                                     .keys = "title cases",
                                     .make = makeCases};
constexpr ReportBlockKind assumptionsBlock{.key = "assumptions",
                                           .title = "Assumptions and materials",
                                           .meaning = "materials, powers and surroundings as the survey has them",
                                           .keys = "title cases columns",
                                           .make = makeAssumptions};

} // namespace pyro
