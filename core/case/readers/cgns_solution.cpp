#include "core/case/readers/cgns_solution.h"

#include "core/case/readers/remedies.h"
#include "core/case/readers/vector_names.h"

#include <algorithm>
#include <fmt/format.h>
#include <set>

namespace pyro {
namespace {

std::string trimmed(std::string_view text) {
    const auto end = text.find_last_not_of(std::string_view(" \0\n\t", 4));
    return std::string(text.substr(0, end == std::string_view::npos ? 0 : end + 1));
}

class Solutions {
public:
    Solutions(const CgnsFile& file, const CgnsZone& zone, std::size_t nodes, std::size_t cells, int step,
              Remarks& remarks)
        : m_file(file), m_zone(zone), m_nodes(nodes), m_cells(cells), m_step(step), m_remarks(remarks) {}

    Result<CgnsValues> run() {
        readPointers();
        int solutions = 0;
        if (cg_nsols(m_file.id(), m_zone.base, m_zone.zone, &solutions) != CG_OK)
            return m_file.failure(fmt::format("zone \"{}\": its solutions cannot be read", m_zone.name));
        for (int solution = 1; solution <= solutions; ++solution) {
            CgnsName name{};
            auto location = CGNS_ENUMV(Vertex);
            if (cg_sol_info(m_file.id(), m_zone.base, m_zone.zone, solution, name.data(), &location) != CG_OK)
                return m_file.failure(fmt::format("zone \"{}\": solution {} cannot be read", m_zone.name, solution));
            if (m_ofOtherSteps.contains(name.data()) && !m_ofThisStep.contains(name.data()))
                continue;
            auto points = CGNS_ENUMV(PointSetTypeNull);
            cgsize_t listed = 0;
            const bool partial = cg_sol_ptset_info(m_file.id(), m_zone.base, m_zone.zone, solution, &points, &listed) ==
                                     CG_OK &&
                                 points != CGNS_ENUMV(PointSetTypeNull);
            if (partial || (location != CGNS_ENUMV(Vertex) && location != CGNS_ENUMV(CellCenter))) {
                remark(
                    "not-read",
                    fmt::format(
                        "the solution \"{}\" of zone \"{}\" lies neither at all nodes nor in all cells and is left out",
                        name.data(), m_zone.name));
                continue;
            }
            const bool cell = location == CGNS_ENUMV(CellCenter);
            if (auto read = readFields(solution, cell, cell ? m_out.inCells : m_out.atNodes); !read)
                return tl::unexpected(read.error());
        }
        for (const auto& one : m_converted)
            remark("units-converted", one);
        return std::move(m_out);
    }

private:
    void remark(const char* code, std::string text) {
        m_remarks.push_back({Severity::Note, code, std::move(text), m_file.path().string()});
    }

    // Every list of names in the zone's iterative data that is as long as there are steps names solutions
    // ("FlowSolutionPointers" by the standard; writers add lists for further solutions).
    void readPointers() {
        CgnsName name{};
        int arrays = 0;
        if (cg_ziter_read(m_file.id(), m_zone.base, m_zone.zone, name.data()) != CG_OK ||
            cg_goto(m_file.id(), m_zone.base, "Zone_t", m_zone.zone, "ZoneIterativeData_t", 1, "end") != CG_OK ||
            cg_narrays(&arrays) != CG_OK)
            return;
        for (int array = 1; array <= arrays; ++array) {
            auto type = CGNS_ENUMV(DataTypeNull);
            int rank = 0;
            std::array<cgsize_t, 12> dims{};
            if (cg_array_info(array, name.data(), &type, &rank, dims.data()) != CG_OK ||
                type != CGNS_ENUMV(Character) || rank != 2 || dims[0] < 1 || dims[0] > 1024 || dims[1] < 1 ||
                dims[1] > 10'000'000)
                continue;
            std::string text(static_cast<std::size_t>(dims[0]) * static_cast<std::size_t>(dims[1]), ' ');
            if (cg_array_read(array, text.data()) != CG_OK)
                continue;
            for (int step = 0; step < dims[1]; ++step)
                (step == m_step ? m_ofThisStep : m_ofOtherSteps)
                    .insert(trimmed(std::string_view(text).substr(static_cast<std::size_t>(step) *
                                                                      static_cast<std::size_t>(dims[0]),
                                                                  static_cast<std::size_t>(dims[0]))));
        }
    }

    Done readFields(int solution, bool cell, std::vector<NamedValues>& out) {
        int fields = 0;
        if (cg_nfields(m_file.id(), m_zone.base, m_zone.zone, solution, &fields) != CG_OK)
            return m_file.failure(
                fmt::format("zone \"{}\": the fields of solution {} cannot be read", m_zone.name, solution));
        std::vector<std::string> names;
        for (int field = 1; field <= fields; ++field) {
            CgnsName name{};
            auto type = CGNS_ENUMV(DataTypeNull);
            if (cg_field_info(m_file.id(), m_zone.base, m_zone.zone, solution, field, &type, name.data()) != CG_OK)
                return m_file.failure(
                    fmt::format("zone \"{}\": field {} of solution {} cannot be read", m_zone.name, field, solution));
            names.emplace_back(name.data());
        }
        for (const auto& joined : joinVectors(names, static_cast<std::size_t>(m_zone.physical))) {
            if (std::ranges::find(out, joined.name, &NamedValues::name) != out.end()) {
                remark("duplicate-name", fmt::format("zone \"{}\" has \"{}\" in several solutions; the first is read",
                                                     m_zone.name, joined.name));
                continue;
            }
            NamedValues made{joined.name, joined.arrays.size(),
                             std::vector<double>(joined.arrays.size() * (cell ? m_cells : m_nodes), 0.0)};
            for (std::size_t c = 0; c < joined.arrays.size(); ++c)
                if (joined.arrays[c] < names.size()) // else the third of a vector in a plane case
                    if (auto read = readField(solution, static_cast<int>(joined.arrays[c]) + 1, names[joined.arrays[c]],
                                              cell, made, c);
                        !read)
                        return read;
            out.push_back(std::move(made));
        }
        return {};
    }

    Done readField(int solution, int field, const std::string& name, bool cell, NamedValues& to,
                   std::size_t component) {
        std::array<cgsize_t, 3> from{1, 1, 1}; // the library counts rind cells from 0 downwards
        std::array<cgsize_t, 3> last{1, 1, 1};
        std::size_t count = 1;
        for (int i = 0; i < m_zone.indices(); ++i) {
            last[static_cast<std::size_t>(i)] = cell ? m_zone.cells(i) : m_zone.vertices(i);
            count *= static_cast<std::size_t>(last[static_cast<std::size_t>(i)]);
        }
        if (count * to.components != to.values.size())
            return fail(ErrorCode::LengthMismatch,
                        fmt::format("zone \"{}\": \"{}\" does not have {} values", m_zone.name, name, to.values.size()),
                        m_file.path().string(), writeAgain);
        std::vector<double> values(count);
        if (cg_field_read(m_file.id(), m_zone.base, m_zone.zone, solution, name.c_str(), CGNS_ENUMV(RealDouble),
                          from.data(), last.data(), values.data()) != CG_OK)
            return m_file.failure(fmt::format("zone \"{}\": \"{}\" cannot be read", m_zone.name, name));
        const auto scale = cgnsScale(m_file, m_zone, {{"FlowSolution_t", solution}, {"DataArray_t", field}}, name);
        if (scale.nondimensional)
            m_converted.insert(fmt::format("\"{}\" has no unit in the file: it is nondimensional there", name));
        else if (scale != CgnsScale{})
            m_converted.insert(fmt::format("\"{}\" was converted to SI by the units that the file tells", name));
        for (std::size_t i = 0; i < count; ++i)
            to.values[to.components * i + component] = values[i] * scale.factor + scale.offset;
        return {};
    }

    const CgnsFile& m_file;
    const CgnsZone& m_zone;
    std::size_t m_nodes;
    std::size_t m_cells;
    int m_step;
    Remarks& m_remarks;
    CgnsValues m_out;
    std::set<std::string> m_ofThisStep;
    std::set<std::string> m_ofOtherSteps;
    std::set<std::string> m_converted;
};

} // namespace

Result<CgnsValues> readCgnsValues(const CgnsFile& file, const CgnsZone& zone, std::size_t nodes, std::size_t cells,
                                  int step, Remarks& remarks) {
    return Solutions(file, zone, nodes, cells, step, remarks).run();
}

} // namespace pyro
