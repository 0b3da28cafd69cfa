#include "core/case/readers/exodus.h"

#include "core/case/readers/exodus_cells.h"
#include "core/case/readers/netcdf_file.h"
#include "core/case/readers/remedies.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkCellType.h>
#include <vtkDoubleArray.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkUnsignedCharArray.h>
#include <vtkUnstructuredGrid.h>

namespace pyro {
namespace {

struct Element {
    const ExodusKind* kind = nullptr;
    bool shell = false;
    std::vector<std::size_t> nodes; // in VTK's order, from 0
};

// One array of the file, or three that make a vector.
struct Field {
    std::string name;
    std::vector<std::size_t> variables; // from 0
};

// "velx", "vel_y", "VELZ" -> "vel" ..., 0 to 2; nothing for any other name.
std::optional<std::pair<std::string, std::size_t>> componentOf(const std::string& name) {
    if (name.size() < 2)
        return std::nullopt;
    const auto axis = std::string_view("xyz").find(static_cast<char>(std::tolower(static_cast<unsigned char>(name.back()))));
    if (axis == std::string_view::npos)
        return std::nullopt;
    auto base = name.substr(0, name.size() - 1);
    while (base.size() > 1 && base.back() == '_')
        base.pop_back();
    return std::pair(base, axis);
}

std::vector<Field> fieldsOf(const std::vector<std::string>& names, std::size_t dimensions) {
    std::map<std::string, std::vector<std::size_t>> vectors;
    for (std::size_t i = 0; i < names.size(); ++i)
        if (const auto part = componentOf(names[i])) {
            auto& found = vectors[part->first];
            found.resize(3, names.size());
            found[part->second] = i;
        }
    std::vector<Field> out;
    for (std::size_t i = 0; i < names.size(); ++i) {
        const auto part = componentOf(names[i]);
        const auto* whole = part ? &vectors[part->first] : nullptr;
        const bool complete = whole != nullptr && std::ranges::count(*whole, names.size()) <= static_cast<std::ptrdiff_t>(3 - std::max<std::size_t>(dimensions, 2)) && (*whole)[0] < names.size() && (*whole)[1] < names.size();
        if (!complete)
            out.push_back({names[i], {i}});
        else if (part->second == 0)
            out.push_back({part->first, *whole});
    }
    return out;
}

class Reader {
public:
    Reader(const CaseSource& source, const NetcdfFile& file, Intake& to) : m_source(source), m_file(file), m_to(to) {}

    Done run() {
        if (auto read = coordinates(); !read)
            return read;
        if (auto read = nodalFields(); !read)
            return read;
        const auto blocks = m_file.dimension("num_el_blk");
        const auto names = m_file.names("eb_names");
        const auto ids = m_file.has("eb_prop1") ? m_file.numbers("eb_prop1") : Result<std::vector<double>>(std::vector<double>());
        if (blocks == 0)
            return fail(ErrorCode::NoCells, "the file has no element blocks", m_source.file.string(), "Export the mesh together with the result");
        m_kinds.reserve(blocks);
        for (std::size_t block = 0; block < blocks; ++block)
            if (auto read = readBlock(block, nameOf(names, ids, block, "block")); !read)
                return read;
        for (std::size_t set = 0; set < m_file.dimension("num_side_sets"); ++set)
            if (auto read = readSideSet(set); !read)
                return read;
        for (const auto& [dimension, what] : {std::pair{"num_node_sets", "node sets"}, {"num_edge_sets", "edge sets"}, {"num_face_sets", "face sets"}, {"num_elem_sets", "element sets"}})
            if (const auto count = m_file.dimension(dimension); count > 0)
                remark("not-read", fmt::format("{} {} are left out: boundaries are made of side sets", count, what));
        if (const auto count = m_file.dimension("num_glo_var"); count > 0)
            remark("not-read", fmt::format("{} global variables are left out: histories are read from a CSV", count));
        return {};
    }

private:
    void remark(const char* code, std::string text) { m_to.remark({Severity::Note, code, std::move(text), m_source.file.string()}); }
    tl::unexpected<Error> stop(ErrorCode code, std::string what) const { return fail(code, std::move(what), m_source.file.string(), writeAgain); }

    static std::string nameOf(const std::vector<std::string>& names, const Result<std::vector<double>>& ids, std::size_t at, const char* what) {
        if (at < names.size() && !names[at].empty())
            return names[at];
        return fmt::format("{} {:.0f}", what, ids && at < ids->size() ? (*ids)[at] : static_cast<double>(at + 1));
    }

    Done coordinates() {
        m_nodes = m_file.dimension("num_nodes");
        m_dimensions = m_file.dimension("num_dim");
        m_at.assign(3, std::vector<double>(m_nodes, 0.0));
        for (std::size_t axis = 0; axis < std::min<std::size_t>(m_dimensions, 3); ++axis) {
            const std::string own = std::string("coord") + "xyz"[axis];
            auto read = m_file.has(own) ? m_file.numbers(own) : m_file.numbers("coord", axis);
            if (!read)
                return tl::unexpected(read.error());
            if (read->size() != m_nodes)
                return stop(ErrorCode::LengthMismatch, fmt::format("{} coordinates along {} for {} nodes", read->size(), "xyz"[axis], m_nodes));
            m_at[axis] = std::move(*read);
        }
        return {};
    }

    struct Values {
        std::string name;
        std::size_t components = 1;
        std::vector<double> values;
    };

    // One variable at the step asked for, in either of the two layouts: one array for each, or one for all.
    Result<Values> variable(const std::string& name, const std::string& own, const std::string& shared, std::size_t number, std::size_t count) const {
        const auto step = static_cast<std::size_t>(m_source.step);
        Values out{name, 1, {}};
        if (m_file.has(own)) {
            const auto shape = m_file.shape(own);
            auto read = m_file.numbers(own, step);
            if (!read)
                return tl::unexpected(read.error());
            if (count == 0 || shape.size() < 2 || shape[1] != count || read->size() % count != 0)
                return stop(ErrorCode::LengthMismatch, fmt::format("\"{}\" does not have {} values at each step", own, count));
            out.components = read->size() / count;
            out.values = std::move(*read);
            return out;
        }
        const auto shape = m_file.shape(shared);
        if (shape.size() != 3 || number >= shape[1] || shape[2] != count)
            return stop(ErrorCode::LengthMismatch, fmt::format("the values of \"{}\" are not there", name));
        auto read = m_file.numbers(shared, step);
        if (!read)
            return tl::unexpected(read.error());
        out.values.assign(read->begin() + static_cast<std::ptrdiff_t>(number * count), read->begin() + static_cast<std::ptrdiff_t>((number + 1) * count));
        return out;
    }

    // `own(i)`: the array of the variable i.
    template <class Own> Result<std::vector<Values>> fields(const std::vector<std::string>& names, Own own, const std::string& shared, std::size_t count) const {
        std::vector<Values> out;
        for (const auto& field : fieldsOf(names, m_dimensions)) {
            Values joined{field.name, field.variables.size(), std::vector<double>(field.variables.size() * count, 0.0)};
            for (std::size_t c = 0; c < field.variables.size(); ++c) {
                if (field.variables[c] >= names.size())
                    continue; // the third of a vector in a plane case
                auto one = variable(names[field.variables[c]], own(field.variables[c]), shared, field.variables[c], count);
                if (!one)
                    return tl::unexpected(one.error());
                if (field.variables.size() == 1) {
                    joined = std::move(*one);
                    joined.name = field.name;
                    break;
                }
                for (std::size_t i = 0; i < count; ++i)
                    joined.values[3 * i + c] = one->values[i];
            }
            out.push_back(std::move(joined));
        }
        return out;
    }

    bool hasSteps() const { return m_file.dimension("time_step") > 0; }

    Done nodalFields() {
        if (!hasSteps())
            return {};
        auto read = fields(namesOf("nod"), [](std::size_t i) { return fmt::format("vals_nod_var{}", i + 1); }, "vals_nod_var", m_nodes);
        if (!read)
            return tl::unexpected(read.error());
        m_nodal = std::move(*read);
        return {};
    }

    // Nameless ones are numbered.
    std::vector<std::string> namesOf(const std::string& kind) const {
        auto names = m_file.names("name_" + kind + "_var");
        names.resize(m_file.dimension("num_" + kind + "_var"));
        for (std::size_t i = 0; i < names.size(); ++i)
            if (names[i].empty())
                names[i] = fmt::format("variable {}", i + 1);
        return names;
    }

    Done readBlock(std::size_t block, const std::string& name) {
        const auto variable = fmt::format("connect{}", block + 1);
        const auto count = m_file.dimension(fmt::format("num_el_in_blk{}", block + 1));
        m_to.progress().report(static_cast<double>(block) / static_cast<double>(block + 1), "reading " + name);
        if (count == 0 || !m_file.has(variable)) {
            remark("block-empty", fmt::format("\"{}\" is empty", name));
            m_elements.resize(m_elements.size() + count);
            return {};
        }
        const auto shape = m_file.shape(variable);
        const auto type = m_file.attribute(variable, "elem_type");
        const auto kind = shape.size() == 2 ? exodusKind(type, shape[1]) : std::nullopt;
        if (!kind) {
            if (shape.size() == 2 && shape[1] == 1) {
                remark("cells-left-out", fmt::format("\"{}\" of {} points is left out", name, count));
                m_elements.resize(m_elements.size() + count);
                return {};
            }
            return fail(ErrorCode::NotSupported, fmt::format("\"{}\" has elements of the type \"{:.40}\" with {} nodes, which are not read", name, type, shape.size() == 2 ? shape[1] : 0), m_source.file.string(), "Export linear or quadratic elements");
        }
        m_kinds.push_back(*kind);
        const auto numbers = m_file.numbers(variable);
        if (!numbers)
            return tl::unexpected(numbers.error());
        const auto first = m_elements.size();
        for (std::size_t i = 0; i < shape[0]; ++i) {
            Element element{&m_kinds.back(), type.starts_with("SHELL") || type.starts_with("shell") || type.starts_with("TRISHELL"), std::vector<std::size_t>(shape[1])};
            for (std::size_t n = 0; n < shape[1]; ++n) {
                const double node = (*numbers)[i * shape[1] + (kind->order.empty() ? n : kind->order[n])] - 1;
                if (!(node >= 0 && node < static_cast<double>(m_nodes)))
                    return stop(ErrorCode::IndexOutOfRange, fmt::format("element {} of \"{}\" refers to node {:.0f}, but there are {}", i + 1, name, node + 1, m_nodes));
                element.nodes[n] = static_cast<std::size_t>(node);
            }
            m_elements.push_back(std::move(element));
        }
        std::vector<std::pair<int, std::vector<std::size_t>>> cells;
        for (auto at = first; at < m_elements.size(); ++at)
            cells.emplace_back(kind->vtk, m_elements[at].nodes);
        auto grid = gridOf(cells);
        if (hasSteps()) {
            std::vector<std::string> there = namesOf("elem");
            const auto own = [&](std::size_t i) { return fmt::format("vals_elem_var{}eb{}", i + 1, block + 1); };
            std::vector<std::size_t> numbersThere; // the truth table: not every block has every variable
            std::vector<std::string> namesThere;
            for (std::size_t i = 0; i < there.size(); ++i)
                if (m_file.has(own(i))) {
                    numbersThere.push_back(i);
                    namesThere.push_back(there[i]);
                }
            const auto read = fields(namesThere, [&](std::size_t i) { return own(numbersThere[i]); }, "", shape[0]);
            if (!read)
                return tl::unexpected(read.error());
            for (const auto& one : *read)
                addArray(*grid->GetCellData(), one, {});
        }
        return m_to.take({name, false, grid, fmt::format("{}, {}", m_source.file.string(), name)});
    }

    Done readSideSet(std::size_t set) {
        const auto names = m_file.names("ss_names");
        const auto ids = m_file.has("ss_prop1") ? m_file.numbers("ss_prop1") : Result<std::vector<double>>(std::vector<double>());
        const auto name = nameOf(names, ids, set, "side set");
        const auto ofElements = fmt::format("elem_ss{}", set + 1);
        if (!m_file.has(ofElements)) {
            remark("block-empty", fmt::format("\"{}\" is empty", name));
            return {};
        }
        const auto elements = m_file.numbers(ofElements);
        const auto sides = m_file.numbers(fmt::format("side_ss{}", set + 1));
        if (!elements || !sides)
            return tl::unexpected((elements ? sides : elements).error());
        if (elements->size() != sides->size())
            return stop(ErrorCode::LengthMismatch, fmt::format("\"{}\" has {} elements and {} sides", name, elements->size(), sides->size()));
        std::vector<std::pair<int, std::vector<std::size_t>>> cells;
        for (std::size_t i = 0; i < elements->size(); ++i) {
            const double at = (*elements)[i] - 1;
            if (!(at >= 0 && at < static_cast<double>(m_elements.size())))
                return stop(ErrorCode::IndexOutOfRange, fmt::format("\"{}\" refers to element {:.0f}, but there are {}", name, at + 1, m_elements.size()));
            const auto& element = m_elements[static_cast<std::size_t>(at)];
            if (element.kind == nullptr)
                continue;
            const auto corners = exodusSide(*element.kind, element.shell, static_cast<std::size_t>(std::max(0.0, (*sides)[i])));
            if (corners.empty())
                return stop(ErrorCode::IndexOutOfRange, fmt::format("\"{}\" refers to side {:.0f} of element {:.0f}, which has none such", name, (*sides)[i], at + 1));
            cells.push_back(sideOf(element, corners));
        }
        if (cells.empty()) {
            remark("block-empty", fmt::format("\"{}\" is empty", name));
            return {};
        }
        return m_to.take({name, true, gridOf(cells), fmt::format("{}, {}", m_source.file.string(), name)});
    }

    static std::pair<int, std::vector<std::size_t>> sideOf(const Element& element, const std::vector<std::size_t>& corners) {
        std::vector<std::size_t> nodes;
        std::vector<std::size_t> middles;
        for (std::size_t i = 0; i < corners.size(); ++i) {
            nodes.push_back(element.nodes[corners[i]]);
            if (const auto middle = middleNode(element.kind->vtk, corners[i], corners[(i + 1) % corners.size()]))
                middles.push_back(element.nodes[*middle]);
        }
        const bool curved = middles.size() == corners.size();
        if (curved)
            nodes.insert(nodes.end(), middles.begin(), middles.end());
        const int type = corners.size() == 2 ? VTK_LINE : corners.size() == 3 ? (curved ? VTK_QUADRATIC_TRIANGLE : VTK_TRIANGLE) : curved ? VTK_QUADRATIC_QUAD : VTK_QUAD;
        return {type, nodes};
    }

    // The cells with the nodes that they use, and the nodal fields there.
    vtkSmartPointer<vtkUnstructuredGrid> gridOf(const std::vector<std::pair<int, std::vector<std::size_t>>>& cells) const {
        std::vector<std::size_t> used;
        for (const auto& [type, nodes] : cells)
            used.insert(used.end(), nodes.begin(), nodes.end());
        std::ranges::sort(used);
        used.erase(std::unique(used.begin(), used.end()), used.end());
        vtkNew<vtkPoints> points;
        points->SetDataTypeToDouble();
        for (const auto node : used)
            points->InsertNextPoint(m_at[0][node], m_at[1][node], m_at[2][node]);
        vtkNew<vtkCellArray> list;
        vtkNew<vtkUnsignedCharArray> types;
        std::vector<vtkIdType> ids;
        for (const auto& [type, nodes] : cells) {
            ids.clear();
            for (const auto node : nodes)
                ids.push_back(std::ranges::lower_bound(used, node) - used.begin());
            list->InsertNextCell(static_cast<vtkIdType>(ids.size()), ids.data());
            types->InsertNextValue(static_cast<unsigned char>(type));
        }
        auto grid = vtkSmartPointer<vtkUnstructuredGrid>::New();
        grid->SetPoints(points);
        grid->SetCells(types, list);
        for (const auto& one : m_nodal)
            addArray(*grid->GetPointData(), one, used);
        return grid;
    }

    // `of`: the entries to take; empty: all.
    static void addArray(vtkDataSetAttributes& data, const Values& from, const std::vector<std::size_t>& of) {
        vtkNew<vtkDoubleArray> array;
        array->SetName(from.name.c_str());
        array->SetNumberOfComponents(static_cast<int>(from.components));
        const auto count = of.empty() ? from.values.size() / from.components : of.size();
        array->SetNumberOfTuples(static_cast<vtkIdType>(count));
        for (std::size_t i = 0; i < count; ++i)
            for (std::size_t c = 0; c < from.components; ++c)
                array->SetComponent(static_cast<vtkIdType>(i), static_cast<int>(c), from.values[(of.empty() ? i : of[i]) * from.components + c]);
        data.AddArray(array);
    }

    const CaseSource& m_source;
    const NetcdfFile& m_file;
    Intake& m_to;
    std::size_t m_nodes = 0;
    std::size_t m_dimensions = 3;
    std::vector<std::vector<double>> m_at; // per axis
    std::vector<Values> m_nodal;
    std::vector<ExodusKind> m_kinds; // of the blocks; never grows beyond what was reserved
    std::vector<Element> m_elements; // of all blocks, as side sets number them
};

} // namespace

namespace {

std::vector<double> timesIn(const NetcdfFile& file) { return file.has("time_whole") ? file.numbers("time_whole").value_or(std::vector<double>()) : std::vector<double>(); }

} // namespace

Done readExodus(const CaseSource& source, Intake& to) {
    const auto file = NetcdfFile::open(source.file);
    if (!file)
        return tl::unexpected(file.error());
    if (const auto times = timesIn(*file); static_cast<std::size_t>(source.step) < times.size())
        to.setTime(times[static_cast<std::size_t>(source.step)]);
    return Reader(source, *file, to).run();
}

std::vector<double> exodusTimes(const std::filesystem::path& file) {
    const auto opened = NetcdfFile::open(file);
    return opened ? timesIn(*opened) : std::vector<double>();
}

} // namespace pyro
