#include "core/case/readers/xdmf_mesh.h"

#include "core/case/lower_case.h"
#include "core/case/readers/format.h"
#include "core/case/readers/remedies.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <sstream>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkCellType.h>
#include <vtkDoubleArray.h>
#include <vtkIdTypeArray.h>
#include <vtkIntArray.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkStructuredGrid.h>
#include <vtkUnsignedCharArray.h>
#include <vtkUnstructuredGrid.h>

namespace pyro {
namespace {

// Kinds of cells by the names and the numbers of the format's specification (XDMF 3, "Topology"), with their node
// count; 0: it is told.
struct Kind {
    std::string_view name;
    std::string_view other; // a second spelling
    int number;
    int vtk;
    int nodes;
};
constexpr std::array<Kind, 19> kinds{{{"polyvertex", "", 1, VTK_VERTEX, 0},
                                      {"polyline", "", 2, VTK_POLY_LINE, 0},
                                      {"polygon", "", 3, VTK_POLYGON, 0},
                                      {"triangle", "", 4, VTK_TRIANGLE, 3},
                                      {"quadrilateral", "", 5, VTK_QUAD, 4},
                                      {"tetrahedron", "", 6, VTK_TETRA, 4},
                                      {"pyramid", "", 7, VTK_PYRAMID, 5},
                                      {"wedge", "", 8, VTK_WEDGE, 6},
                                      {"hexahedron", "", 9, VTK_HEXAHEDRON, 8},
                                      {"edge_3", "", 34, VTK_QUADRATIC_EDGE, 3},
                                      {"quadrilateral_9", "quad_9", 35, VTK_BIQUADRATIC_QUAD, 9},
                                      {"triangle_6", "tri_6", 36, VTK_QUADRATIC_TRIANGLE, 6},
                                      {"quadrilateral_8", "quad_8", 37, VTK_QUADRATIC_QUAD, 8},
                                      {"tetrahedron_10", "tet_10", 38, VTK_QUADRATIC_TETRA, 10},
                                      {"pyramid_13", "pyr_13", 39, VTK_QUADRATIC_PYRAMID, 13},
                                      {"wedge_15", "", 40, VTK_QUADRATIC_WEDGE, 15},
                                      {"wedge_18", "", 41, VTK_BIQUADRATIC_QUADRATIC_WEDGE, 18},
                                      {"hexahedron_20", "hex_20", 48, VTK_QUADRATIC_HEXAHEDRON, 20},
                                      {"hexahedron_27", "hex_27", 50, VTK_TRIQUADRATIC_HEXAHEDRON, 27}}};

class MeshReader {
public:
    MeshReader(pugi::xml_node grid, XdmfData& data) : m_grid(grid), m_data(data) {}

    Result<vtkSmartPointer<vtkPointSet>> run() {
        const auto topology = m_data.child(m_grid, "Topology");
        if (!topology)
            return tl::unexpected(topology.error());
        const auto geometry = m_data.child(m_grid, "Geometry");
        if (!geometry)
            return tl::unexpected(geometry.error());
        if (!*topology || !*geometry)
            return m_data.syntax("the grid has no topology or no geometry", m_grid);
        m_topology = *topology;
        m_kind = lowerCase(m_topology.attribute("TopologyType").as_string(m_topology.attribute("Type").as_string()));
        if (auto read = points(*geometry); !read)
            return tl::unexpected(read.error());
        if (m_kind.ends_with("mesh"))
            return structured();
        return m_kind == "mixed" ? mixed() : uniform();
    }

private:
    Result<std::vector<HdfArray>> items(pugi::xml_node element) {
        std::vector<HdfArray> out;
        for (const auto one : element.children("DataItem")) {
            auto numbers = m_data.numbers(one);
            if (!numbers)
                return tl::unexpected(numbers.error());
            out.push_back(std::move(*numbers));
        }
        return out;
    }

    // Nodes from the axes of a grid, the first varying fastest.
    void addLattice(const std::array<std::vector<double>, 3>& axes) {
        for (const double z : axes[2])
            for (const double y : axes[1])
                for (const double x : axes[0])
                    m_points->InsertNextPoint(x, y, z);
        m_lattice = {static_cast<int>(axes[0].size()), static_cast<int>(axes[1].size()),
                     static_cast<int>(axes[2].size())};
    }

    Done points(pugi::xml_node geometry) {
        const auto kind = lowerCase(
            geometry.attribute("GeometryType").as_string(geometry.attribute("Type").as_string("XYZ")));
        const auto read = items(geometry);
        if (!read)
            return tl::unexpected(read.error());
        m_points->SetDataTypeToDouble();
        const auto wrong = [&] {
            return m_data.syntax(fmt::format("the coordinates \"{:.40}\" do not have the data they need", kind),
                                 m_grid);
        };
        if (kind == "xyz" || kind == "xy") {
            const std::size_t width = kind == "xyz" ? 3 : 2;
            if (read->size() != 1 || (*read)[0].values.size() % width != 0)
                return wrong();
            const auto& at = (*read)[0].values;
            for (std::size_t i = 0; i + width <= at.size(); i += width)
                m_points->InsertNextPoint(at[i], at[i + 1], width == 3 ? at[i + 2] : 0);
            return {};
        }
        if (kind == "x_y_z" || kind == "x_y") {
            const std::size_t width = kind == "x_y_z" ? 3 : 2;
            if (read->size() != width || std::ranges::any_of(*read, [&](const HdfArray& one) {
                    return one.values.size() != (*read)[0].values.size();
                }))
                return wrong();
            for (std::size_t i = 0; i < (*read)[0].values.size(); ++i)
                m_points->InsertNextPoint((*read)[0].values[i], (*read)[1].values[i],
                                          width == 3 ? (*read)[2].values[i] : 0);
            return {};
        }
        std::array<std::vector<double>, 3> axes{std::vector<double>{0}, {0}, {0}};
        if (kind == "vxvyvz" || kind == "vxvy") {
            if (read->size() != (kind == "vxvyvz" ? 3U : 2U))
                return wrong();
            for (std::size_t axis = 0; axis < read->size(); ++axis)
                axes[axis] = (*read)[axis].values;
        } else if (kind == "origin_dxdydz" || kind == "origin_dxdy") {
            const std::size_t rank = kind == "origin_dxdydz" ? 3 : 2;
            const auto counts = dimensions();
            if (read->size() != 2 || (*read)[0].values.size() != rank || (*read)[1].values.size() != rank ||
                counts.size() != rank)
                return wrong();
            for (std::size_t i = 0; i < rank; ++i) { // z y x in the file
                auto& axis = axes[rank - 1 - i];
                axis.clear();
                for (std::size_t n = 0; n < counts[i]; ++n)
                    axis.push_back((*read)[0].values[i] + static_cast<double>(n) * (*read)[1].values[i]);
            }
        } else {
            return fail(ErrorCode::NotSupported, fmt::format("coordinates of the kind \"{:.40}\" are not read", kind),
                        m_data.file().string(), "Write them as XYZ");
        }
        double all = 1;
        for (const auto& axis : axes)
            all *= static_cast<double>(axis.size());
        if (all >= 4294967295.0)
            return fail(ErrorCode::SizeAbsurd,
                        fmt::format("the grid would have {:.3g} nodes; 2^32 and more are not supported", all),
                        m_data.file().string(), writeAgain);
        addLattice(axes);
        return {};
    }

    std::vector<std::size_t> dimensions() const {
        std::istringstream words(
            m_topology.attribute("Dimensions").as_string(m_topology.attribute("NumberOfElements").as_string()));
        std::vector<std::size_t> out;
        for (std::size_t one = 0; words >> one && one < (1U << 31U);)
            out.push_back(one);
        return out;
    }

    Result<vtkSmartPointer<vtkPointSet>> structured() {
        vtkNew<vtkStructuredGrid> grid;
        auto counts = dimensions();
        if (m_lattice[0] > 0)
            counts = {static_cast<std::size_t>(m_lattice[2]), static_cast<std::size_t>(m_lattice[1]),
                      static_cast<std::size_t>(m_lattice[0])};
        std::array<int, 3> dims{1, 1, 1};
        double all = 1;
        for (std::size_t i = 0; i < counts.size() && i < 3; ++i) {
            dims[counts.size() - 1 - i] = static_cast<int>(counts[i]);
            all *= static_cast<double>(counts[i]);
        }
        if (counts.size() < 2 || counts.size() > 3 || all != static_cast<double>(m_points->GetNumberOfPoints()))
            return m_data.syntax("the dimensions of the grid do not fit its coordinates", m_grid);
        grid->SetDimensions(dims.data());
        grid->SetPoints(m_points);
        return asCells(*grid, m_data.file().string());
    }

    Result<HdfArray> connectivity() {
        const auto item = m_data.child(m_topology, "DataItem");
        if (!item || !*item)
            return m_data.syntax("the topology has no data", m_grid);
        return m_data.numbers(*item);
    }

    // Adds a cell; false when a node number cannot be.
    bool add(int type, const double* nodes, std::size_t count) {
        m_cell.clear();
        for (std::size_t i = 0; i < count; ++i) {
            const double node = nodes[i] - m_base;
            if (!(node >= 0 && node < static_cast<double>(m_points->GetNumberOfPoints()) && node == std::floor(node)))
                return false;
            m_cell.push_back(static_cast<vtkIdType>(node));
        }
        m_cells->InsertNextCell(static_cast<vtkIdType>(count), m_cell.data());
        m_types->InsertNextValue(static_cast<unsigned char>(type));
        return true;
    }
    tl::unexpected<Error> badNode() const {
        return fail(ErrorCode::IndexOutOfRange,
                    fmt::format("cell {} refers to a node that is not there; there are {}", m_cells->GetNumberOfCells(),
                                m_points->GetNumberOfPoints()),
                    m_data.file().string(), writeAgain);
    }

    Result<vtkSmartPointer<vtkPointSet>> uniform() {
        const auto kind = std::ranges::find_if(
            kinds, [&](const Kind& one) { return m_kind == one.name || (!one.other.empty() && m_kind == one.other); });
        if (kind == kinds.end())
            return fail(ErrorCode::NotSupported, fmt::format("cells of the kind \"{:.40}\" are not read", m_kind),
                        m_data.file().string(), "Export linear or quadratic cells");
        const auto read = connectivity();
        if (!read)
            return tl::unexpected(read.error());
        m_base = m_topology.attribute("BaseOffset").as_double(0);
        const auto each = kind->nodes > 0
                              ? static_cast<std::size_t>(kind->nodes)
                              : static_cast<std::size_t>(m_topology.attribute("NodesPerElement")
                                                             .as_uint(read->dims.size() == 2
                                                                          ? static_cast<unsigned>(read->dims[1])
                                                                      : kind->number == 2 ? 2
                                                                                          : 1));
        if (each == 0 || read->values.size() % each != 0)
            return m_data.syntax(
                fmt::format("{} numbers are no whole number of cells of {} nodes", read->values.size(), each), m_grid);
        for (std::size_t i = 0; i < read->values.size(); i += each)
            if (!add(kind->number == 2 && each == 2 ? VTK_LINE : kind->vtk, read->values.data() + i, each))
                return badNode();
        return finished();
    }

    // Each cell begins with the number of its kind; polygons and the like tell their count next.
    Result<vtkSmartPointer<vtkPointSet>> mixed() {
        const auto read = connectivity();
        if (!read)
            return tl::unexpected(read.error());
        const auto& values = read->values;
        for (std::size_t at = 0; at < values.size();) {
            const auto number = values[at++];
            const auto kind = std::ranges::find_if(kinds, [&](const Kind& one) { return number == one.number; });
            if (kind == kinds.end())
                return fail(
                    ErrorCode::NotSupported,
                    fmt::format("cell {} has the kind {:g}, which is not read", m_cells->GetNumberOfCells(), number),
                    m_data.file().string(), "Export linear or quadratic cells");
            auto count = static_cast<std::size_t>(kind->nodes);
            if (kind->nodes == 0) {
                if (at >= values.size() || !(values[at] >= 1 && values[at] < 1e9))
                    return m_data.syntax("a cell does not tell how many nodes it has", m_grid);
                count = static_cast<std::size_t>(values[at++]);
            }
            if (count > values.size() - at)
                return m_data.syntax("the last cell has too few nodes", m_grid);
            if (!add(kind->number == 2 && count == 2 ? VTK_LINE : kind->vtk, values.data() + at, count))
                return badNode();
            at += count;
        }
        return finished();
    }

    Result<vtkSmartPointer<vtkPointSet>> finished() {
        if (m_cells->GetNumberOfCells() == 0)
            return fail(ErrorCode::NoCells, "the grid has no cells", m_data.file().string(),
                        "Export the mesh together with the result");
        vtkNew<vtkUnstructuredGrid> grid;
        grid->SetPoints(m_points);
        grid->SetCells(m_types, m_cells);
        return vtkSmartPointer<vtkPointSet>(grid);
    }

    pugi::xml_node m_grid;
    XdmfData& m_data;
    pugi::xml_node m_topology;
    std::string m_kind;
    double m_base = 0;
    std::array<int, 3> m_lattice{};
    vtkNew<vtkPoints> m_points;
    vtkNew<vtkCellArray> m_cells;
    vtkNew<vtkUnsignedCharArray> m_types;
    std::vector<vtkIdType> m_cell;
};

} // namespace

Result<vtkSmartPointer<vtkPointSet>> xdmfMesh(pugi::xml_node grid, XdmfData& data) {
    return MeshReader(grid, data).run();
}

Done addXdmfAttributes(pugi::xml_node grid, XdmfData& data, vtkPointSet& mesh, Remarks& remarks) {
    for (const auto written : grid.children("Attribute")) {
        const auto attribute = data.resolved(written, "Attribute");
        if (!attribute)
            return tl::unexpected(attribute.error());
        const std::string name = written.attribute("Name").as_string(attribute->attribute("Name").as_string());
        const auto centre = lowerCase(attribute->attribute("Center").as_string("Node"));
        if (centre != "node" && centre != "cell") {
            remarks.push_back({Severity::Note, "not-read",
                               fmt::format("\"{}\" lies on {}s and is left out", name, centre), data.file().string()});
            continue;
        }
        const auto item = data.child(*attribute, "DataItem");
        if (!item || !*item)
            return data.syntax("the attribute has no data", *attribute);
        const auto read = data.numbers(*item);
        if (!read)
            return tl::unexpected(read.error());
        const auto count = static_cast<std::size_t>(centre == "node" ? mesh.GetNumberOfPoints()
                                                                     : mesh.GetNumberOfCells());
        if (count == 0 || read->values.empty() || read->values.size() % count != 0)
            return fail(
                ErrorCode::LengthMismatch,
                fmt::format("the attribute \"{}\" has {} numbers for {} {}s", name, read->values.size(), count, centre),
                data.file().string(), writeAgain);
        const auto width = read->values.size() / count;
        const auto shown = width == 2 ? 3 : width; // a vector of a plane case
        const std::string_view kind = item->attribute("NumberType").as_string(item->attribute("DataType").as_string());
        // some writers leave it to the data
        const bool whole = width == 1 && (kind.empty() ? read->whole : kind.find("Int") != std::string_view::npos);
        vtkSmartPointer<vtkDataArray> array =
            whole ? vtkSmartPointer<vtkDataArray>(vtkSmartPointer<vtkIdTypeArray>::New())
                  : vtkSmartPointer<vtkDataArray>(vtkSmartPointer<vtkDoubleArray>::New());
        array->SetName(name.c_str());
        array->SetNumberOfComponents(static_cast<int>(shown));
        array->SetNumberOfTuples(static_cast<vtkIdType>(count));
        for (std::size_t i = 0; i < count; ++i)
            for (std::size_t c = 0; c < shown; ++c)
                array->SetComponent(static_cast<vtkIdType>(i), static_cast<int>(c),
                                    c < width ? read->values[i * width + c] : 0);
        (centre == "node" ? static_cast<vtkDataSetAttributes*>(mesh.GetPointData())
                          : static_cast<vtkDataSetAttributes*>(mesh.GetCellData()))
            ->AddArray(array);
    }
    return {};
}

} // namespace pyro
