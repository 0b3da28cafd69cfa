#include "core/field/case_index.h"

#include "core/case/store.h"
#include "core/feedback/counted.h"
#include "core/field/boundary_match.h"
#include "core/field/measure.h"

#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <numeric>
#include <tbb/blocked_range.h>
#include <tbb/parallel_reduce.h>

namespace pyro {
namespace {

constexpr int indexVersion = 3;
constexpr const char* indexEnding = ".index";

using Box = std::array<double, 6>;

Box boxOf(const Mesh& mesh) {
    constexpr double far = std::numeric_limits<double>::max();
    return mesh.coordinates.visit([](auto values) {
        return tbb::parallel_deterministic_reduce(
            tbb::blocked_range<std::size_t>(0, values.size() / 3, 1 << 16), Box{far, -far, far, -far, far, -far},
            [&](const auto& range, Box box) {
                for (auto node = range.begin(); node != range.end(); ++node)
                    for (std::size_t axis = 0; axis < 3; ++axis) {
                        const auto value = static_cast<double>(values[3 * node + axis]);
                        box[2 * axis] = std::min(box[2 * axis], value);
                        box[2 * axis + 1] = std::max(box[2 * axis + 1], value);
                    }
                return box;
            },
            [](Box a, const Box& b) {
                for (std::size_t axis = 0; axis < 3; ++axis) {
                    a[2 * axis] = std::min(a[2 * axis], b[2 * axis]);
                    a[2 * axis + 1] = std::max(a[2 * axis + 1], b[2 * axis + 1]);
                }
                return a;
            });
    });
}

class Builder {
public:
    Builder(const Case& solved, const CaseShells& shells, Progress& progress)
        : m_case(solved), m_shells(shells), m_progress(progress), m_writer(besideStore(solved, indexEnding)) {}

    Done run() {
        const auto all = static_cast<double>(m_case.parts.size()) + 1;
        double done = 0;
        for (std::size_t i = 0; i < m_case.parts.size(); ++i) {
            m_progress.report(done++ / all, "measuring " + m_case.parts[i].name);
            addMeasures(m_case.parts[i], fmt::format("part/{}", i), m_parts);
            if (m_progress.cancelled())
                return cancelled();
        }
        m_progress.report(done / all, "matching boundaries");
        addBoundaries();
        if (m_progress.cancelled())
            return cancelled();
        auto meta = besideStoreMeta(m_case, indexVersion);
        meta["split"] = m_case.split.toJson();
        meta["parts"] = m_parts;
        meta["boundaries"] = m_boundaries;
        meta["remarks"] = m_remarks;
        return m_writer.finish(std::move(meta));
    }

private:
    Done cancelled() const { return fail(ErrorCode::Cancelled, "preparing the case was cancelled", m_case.file); }

    void remark(const char* code, const std::string& text, const std::string& where) {
        m_remarks.push_back({{"code", code}, {"text", text}, {"where", where}});
    }

    void addMeasures(const Region& region, const std::string& key, nlohmann::json& list) {
        const auto measures = measure(region);
        m_writer.add(key + "/cell", std::span<const double>(measures.cell));
        m_writer.add(key + "/node", std::span<const double>(measures.node));
        const double size = std::accumulate(measures.cell.begin(), measures.cell.end(), 0.0);
        list.push_back({{"size", size}, {"box", boxOf(region.mesh)}});
        if (measures.flawedCells > 0 && !region.patchOf && region.fileCells == region.mesh.cells())
            remark("flawed-cells",
                   fmt::format("{} without extent, which carry no weight", counted(measures.flawedCells, "cell")),
                   region.name);
    }

    void addBoundaries() {
        const auto matches = matchBoundaries(m_case, m_shells.parts);
        for (std::size_t i = 0; i < matches.size(); ++i) {
            const auto key = fmt::format("boundary/{}", i);
            addMeasures(m_case.boundaries[i], key, m_boundaries);
            m_writer.add(key + "/of-part", std::span<const std::uint32_t>(matches[i].part));
            m_writer.add(key + "/of-cell", std::span<const std::uint32_t>(matches[i].cell));
            m_writer.add(key + "/of-node", std::span<const std::uint32_t>(matches[i].node));
            m_writer.add(key + "/normal", std::span<const double>(matches[i].normal));
            if (matches[i].unmatched > 0)
                remark("boundary-unmatched",
                       fmt::format("{} of {} faces coincide with no outer face of a part; only their own arrays can "
                                   "be read there",
                                   matches[i].unmatched, m_case.boundaries[i].mesh.cells()),
                       m_case.boundaries[i].name);
        }
    }

    const Case& m_case;
    const CaseShells& m_shells;
    Progress& m_progress;
    ArrayFileWriter m_writer;
    nlohmann::json m_parts = nlohmann::json::array();
    nlohmann::json m_boundaries = nlohmann::json::array();
    nlohmann::json m_remarks = nlohmann::json::array();
};

// JSON has no word for what is not finite, which the extent of a mesh with absurd coordinates is.
double numberFrom(const nlohmann::json& value) { return value.is_number() ? value.get<double>() : std::nan(""); }

std::array<double, 6> boxFrom(const nlohmann::json& entry) {
    std::array<double, 6> box{};
    for (std::size_t i = 0; i < box.size(); ++i)
        box[i] = numberFrom(entry.at("box").at(i));
    return box;
}

PartIndex partFrom(const ArrayFile& file, const nlohmann::json& entry, const std::string& key, const ShellView& shell) {
    return {file.array<double>(key + "/cell"), file.array<double>(key + "/node"), shell, numberFrom(entry.at("size")),
            boxFrom(entry)};
}

BoundaryIndex boundaryFrom(const ArrayFile& file, const nlohmann::json& entry, const std::string& key) {
    return {file.array<double>(key + "/cell"),
            file.array<double>(key + "/node"),
            numberFrom(entry.at("size")),
            boxFrom(entry),
            file.array<std::uint32_t>(key + "/of-part"),
            file.array<std::uint32_t>(key + "/of-cell"),
            file.array<std::uint32_t>(key + "/of-node"),
            file.array<double>(key + "/normal")};
}

Result<std::shared_ptr<const CaseIndex>> fromFile(const Case& solved, const std::shared_ptr<const CaseShells>& shells) {
    auto file = openBesideStore(solved, indexEnding, indexVersion);
    if (!file)
        return tl::unexpected(file.error());
    const auto& meta = (*file)->meta();
    if (meta.value("split", nlohmann::json()) != solved.split.toJson())
        return fail(ErrorCode::WrongVersion, "its boundaries were made otherwise");
    auto index = std::make_shared<CaseIndex>();
    for (std::size_t i = 0; i < meta.at("parts").size(); ++i)
        index->parts.push_back(partFrom(**file, meta["parts"][i], fmt::format("part/{}", i), shells->parts[i]));
    for (std::size_t i = 0; i < meta.at("boundaries").size(); ++i)
        index->boundaries.push_back(boundaryFrom(**file, meta["boundaries"][i], fmt::format("boundary/{}", i)));
    for (const auto& remark : meta.at("remarks"))
        index->remarks.push_back({Severity::Warning, remark.at("code").get<std::string>(),
                                  remark.at("text").get<std::string>(), remark.at("where").get<std::string>()});
    index->shells = shells;
    index->search = std::make_shared<PartIndexes>(solved);
    index->file = std::move(*file);
    return index;
}

} // namespace

std::shared_ptr<const CaseIndex> unmeasuredIndex(std::shared_ptr<const CaseShells> shells) {
    auto index = std::make_shared<CaseIndex>();
    for (const auto& shell : shells->parts)
        index->parts.push_back({{}, {}, shell, 0, {}});
    index->measured = false;
    index->shells = std::move(shells);
    return index;
}

Result<std::shared_ptr<const CaseIndex>> indexOf(const Case& solved, Progress& progress) {
    SubProgress facing(progress, 0.0, 0.5);
    const auto shells = shellsOf(solved, facing);
    if (!shells)
        return tl::unexpected(shells.error());
    if (auto known = fromFile(solved, *shells))
        return known;
    SubProgress measuring(progress, 0.5, 1.0);
    if (auto built = Builder(solved, **shells, measuring).run(); !built)
        return tl::unexpected(built.error());
    return fromFile(solved, *shells);
}

} // namespace pyro
