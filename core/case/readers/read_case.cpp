#include "core/case/readers/read_case.h"

#include "core/case/case.h"
#include "core/case/readers/format.h"
#include "core/case/readers/grid.h"
#include "core/case/readers/part_split.h"
#include "core/case/store.h"

#include <cmath>
#include <fmt/format.h>
#include <set>
#include <vtkDataArray.h>
#include <vtkFieldData.h>

namespace pyro {
namespace {

class StoreIntake final : public Intake {
public:
    StoreIntake(const CaseSource& request, const std::filesystem::path& storeFile, Progress& progress)
        : m_request(request), m_store(storeFile), m_progress(progress), m_sources{request.file} {}

    Done take(NamedGrid one) override {
        takeTime(*one.grid);
        auto& list = one.boundary ? m_boundaries : m_parts;
        const auto name = uniqueName(one.name, one.boundary ? m_boundaryNames : m_partNames);
        const auto key = fmt::format("{}/{}", one.boundary ? "boundary" : "part", list.size());
        auto stored = storeGrid(*one.grid, key, name, one.where, m_store);
        if (!stored)
            return tl::unexpected(stored.error());
        list.push_back(std::move(stored->entry));
        m_remarks.insert(m_remarks.end(), stored->remarks.begin(), stored->remarks.end());
        return {};
    }

    Done takeLone(NamedGrid one) override {
        auto pieces = splitParts(*one.grid, m_request.parts, one.where);
        if (!pieces)
            return tl::unexpected(pieces.error());
        if (pieces->parts.empty())
            return take(std::move(one));
        takeTime(*one.grid);
        m_remarks.push_back({Severity::Note, "parts-split", fmt::format("the cell array \"{}\" divides the grid into {} parts", pieces->array, pieces->parts.size()), one.where});
        for (auto& piece : pieces->parts)
            if (auto taken = take({piece.name, false, std::move(piece.grid), one.where}); !taken)
                return taken;
        return {};
    }

    void remark(Remark remark) override { m_remarks.push_back(std::move(remark)); }
    void addSource(const std::filesystem::path& file) override { m_sources.push_back(file); }
    void setTime(double seconds) override { m_time = seconds; }
    Progress& progress() override { return m_progress; }

    Done finish() {
        if (m_parts.empty())
            return fail(ErrorCode::NoCells, "the file has boundaries but no part", m_request.file.string(), "Add the mesh of the parts to it");
        return m_store.finish(meta());
    }

private:
    std::string uniqueName(std::string name, std::set<std::string>& taken) {
        if (name.empty())
            name = fmt::format("part {}", taken.size() + 1);
        std::string unique = name;
        for (int copy = 2; taken.contains(unique); ++copy)
            unique = fmt::format("{} ({})", name, copy);
        if (unique != name)
            m_remarks.push_back({Severity::Warning, "duplicate-name", fmt::format("the name \"{}\" occurs twice; the later one reads \"{}\"", name, unique), m_request.file.string()});
        taken.insert(unique);
        return unique;
    }

    void takeTime(vtkPointSet& grid) {
        auto* time = grid.GetFieldData()->GetArray("TimeValue");
        if (!m_time && time != nullptr && time->GetNumberOfValues() > 0)
            m_time = time->GetComponent(0, 0);
    }

    nlohmann::json meta() const {
        auto remarks = nlohmann::json::array();
        for (const auto& remark : m_remarks)
            remarks.push_back({{"severity", static_cast<int>(remark.severity)}, {"code", remark.code}, {"text", remark.text}, {"where", remark.where}});
        nlohmann::json meta{{"version", storeVersion}, {"file", m_request.file.string()}, {"parts", m_parts}, {"boundaries", m_boundaries},
                            {"remarks", remarks},      {"sources", sourceStamps(m_sources)}, {"step", m_request.step}};
        meta["split"] = m_request.parts ? nlohmann::json(*m_request.parts) : nlohmann::json();
        if (m_time && std::isfinite(*m_time))
            meta["time"] = *m_time;
        return meta;
    }

    const CaseSource& m_request;
    ArrayFileWriter m_store;
    Progress& m_progress;
    nlohmann::json m_parts = nlohmann::json::array();
    nlohmann::json m_boundaries = nlohmann::json::array();
    std::set<std::string> m_partNames;
    std::set<std::string> m_boundaryNames;
    std::vector<std::filesystem::path> m_sources;
    std::optional<double> m_time;
    Remarks m_remarks;
};

} // namespace

Done readCaseIntoStore(const CaseSource& request, const std::filesystem::path& storeFile, Progress& progress) {
    if (auto readable = checkReadable(request.file); !readable)
        return readable;
    const auto* format = formatOf(request.file);
    if (format == nullptr)
        return fail(ErrorCode::FormatUnknown, fmt::format("files ending in \"{}\" are not read", request.file.extension().string()), request.file.string(), "Read are " + endingsRead());
    StoreIntake intake(request, storeFile, progress);
    if (auto read = format->read(request, intake); !read)
        return read;
    return intake.finish();
}

} // namespace pyro
