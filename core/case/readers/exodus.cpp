#include "core/case/readers/exodus.h"

#include "core/case/lower_case.h"
#include "core/case/readers/exodus_cells.h"
#include "core/case/readers/loose_cells.h"
#include "core/case/readers/netcdf_file.h"
#include "core/case/readers/remedies.h"
#include "core/case/readers/vector_names.h"

#include <algorithm>
#include <fmt/format.h>
#include <vtkCellData.h>
#include <vtkCellType.h>

namespace pyro {
namespace {

// The elements of one block, numbered in the file after those of the blocks before it.
struct ElementBlock {
    std::optional<ExodusKind> kind; // nothing where its elements are left out
    bool shell = false;
    CellRows cells; // in VTK's order of nodes
    std::size_t first = 0;
    std::size_t count = 0;
};

class ExodusReader {
public:
    ExodusReader(const CaseSource& source, const NetcdfFile& file, Intake& to) : m_source(source), m_file(file), m_to(to) {}

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
        m_table.at.assign(3 * m_nodes, 0.0);
        for (std::size_t axis = 0; axis < std::min<std::size_t>(m_dimensions, 3); ++axis) {
            const std::string own = std::string("coord") + "xyz"[axis];
            auto read = m_file.has(own) ? m_file.numbers(own) : m_file.numbers("coord", axis);
            if (!read)
                return tl::unexpected(read.error());
            if (read->size() != m_nodes)
                return stop(ErrorCode::LengthMismatch, fmt::format("{} coordinates along {} for {} nodes", read->size(), "xyz"[axis], m_nodes));
            for (std::size_t node = 0; node < m_nodes; ++node)
                m_table.at[3 * node + axis] = (*read)[node];
        }
        return {};
    }

    // One variable at the step asked for, in either of the two layouts: one array for each, or one for all.
    Result<NamedValues> variable(const std::string& name, const std::string& own, const std::string& shared, std::size_t number, std::size_t count) const {
        const auto step = static_cast<std::size_t>(m_source.step);
        NamedValues out{name, 1, {}};
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
    template <class Own> Result<std::vector<NamedValues>> fields(const std::vector<std::string>& names, Own own, const std::string& shared, std::size_t count) const {
        std::vector<NamedValues> out;
        for (const auto& field : joinVectors(names, m_dimensions)) {
            NamedValues joined{field.name, field.arrays.size(), std::vector<double>(field.arrays.size() * count, 0.0)};
            for (std::size_t c = 0; c < field.arrays.size(); ++c) {
                if (field.arrays[c] >= names.size())
                    continue; // the third of a vector in a plane case
                auto one = variable(names[field.arrays[c]], own(field.arrays[c]), shared, field.arrays[c], count);
                if (!one)
                    return tl::unexpected(one.error());
                if (field.arrays.size() == 1) {
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
        m_table.fields = std::move(*read);
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
        auto& elements = m_blocks.emplace_back();
        elements.first = m_blocks.size() == 1 ? 0 : m_blocks[m_blocks.size() - 2].first + m_blocks[m_blocks.size() - 2].count;
        elements.count = count;
        if (count == 0 || !m_file.has(variable)) {
            remark("block-empty", fmt::format("\"{}\" is empty", name));
            return {};
        }
        const auto shape = m_file.shape(variable);
        const auto type = m_file.attribute(variable, "elem_type");
        const auto kind = shape.size() == 2 && shape[0] == count ? exodusKind(type, shape[1]) : std::nullopt;
        if (!kind) {
            if (shape.size() == 2 && shape[1] == 1) {
                remark("cells-left-out", fmt::format("\"{}\" of {} points is left out", name, count));
                return {};
            }
            return fail(ErrorCode::NotSupported, fmt::format("\"{}\" has elements of the type \"{:.40}\" with {} nodes, which are not read", name, type, shape.size() == 2 ? shape[1] : 0), m_source.file.string(), "Export linear or quadratic elements");
        }
        elements.kind = kind;
        elements.shell = lowerCase(type).starts_with("shell") || lowerCase(type).starts_with("trishell");
        if (auto read = readElements(variable, name, shape[1], elements); !read)
            return read;
        auto grid = gridOf(elements.cells, m_table);
        if (hasSteps()) {
            const auto there = namesOf("elem");
            const auto own = [&](std::size_t i) { return fmt::format("vals_elem_var{}eb{}", i + 1, block + 1); };
            std::vector<std::size_t> numbersThere; // the truth table: not every block has every variable
            std::vector<std::string> namesThere;
            for (std::size_t i = 0; i < there.size(); ++i)
                if (m_file.has(own(i))) {
                    numbersThere.push_back(i);
                    namesThere.push_back(there[i]);
                }
            const auto read = fields(namesThere, [&](std::size_t i) { return own(numbersThere[i]); }, "", count);
            if (!read)
                return tl::unexpected(read.error());
            for (const auto& one : *read)
                addValues(*grid->GetCellData(), one);
        }
        return m_to.take({name, false, grid, fmt::format("{}, {}", m_source.file.string(), name)});
    }

    Done readElements(const std::string& variable, const std::string& name, std::size_t nodesOfOne, ElementBlock& to) const {
        const auto numbers = m_file.numbers(variable);
        if (!numbers)
            return tl::unexpected(numbers.error());
        std::vector<vtkIdType> nodes(nodesOfOne);
        for (std::size_t i = 0; i < to.count; ++i) {
            for (std::size_t n = 0; n < nodesOfOne; ++n) {
                const double node = (*numbers)[i * nodesOfOne + (to.kind->order.empty() ? n : to.kind->order[n])] - 1;
                if (!(node >= 0 && node < static_cast<double>(m_nodes)))
                    return stop(ErrorCode::IndexOutOfRange, fmt::format("element {} of \"{}\" refers to node {:.0f}, but there are {}", i + 1, name, node + 1, m_nodes));
                nodes[n] = static_cast<vtkIdType>(node);
            }
            to.cells.add(to.kind->vtk, nodes);
        }
        return {};
    }

    // The block of an element, numbered from 0 over the whole file; null beyond its end.
    const ElementBlock* blockOf(double element) const {
        const auto after = std::ranges::upper_bound(m_blocks, element, {}, [](const ElementBlock& one) { return static_cast<double>(one.first); });
        if (!(element >= 0) || after == m_blocks.begin())
            return nullptr;
        const auto& block = *std::prev(after);
        return element < static_cast<double>(block.first + block.count) ? &block : nullptr;
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
        CellRows cells;
        for (std::size_t i = 0; i < elements->size(); ++i) {
            const double at = (*elements)[i] - 1;
            const auto* block = blockOf(at);
            if (block == nullptr)
                return stop(ErrorCode::IndexOutOfRange, fmt::format("\"{}\" refers to element {:.0f}, but there are {}", name, at + 1, m_blocks.back().first + m_blocks.back().count));
            if (!block->kind)
                continue;
            const auto corners = exodusSide(*block->kind, block->shell, static_cast<std::size_t>(std::max(0.0, (*sides)[i])));
            if (corners.empty())
                return stop(ErrorCode::IndexOutOfRange, fmt::format("\"{}\" refers to side {:.0f} of element {:.0f}, which has none such", name, (*sides)[i], at + 1));
            addSide(block->kind->vtk, block->cells.row(static_cast<std::size_t>(at) - block->first), corners, cells);
        }
        if (cells.size() == 0) {
            remark("block-empty", fmt::format("\"{}\" is empty", name));
            return {};
        }
        return m_to.take({name, true, gridOf(cells, m_table), fmt::format("{}, {}", m_source.file.string(), name)});
    }

    static void addSide(int type, std::span<const vtkIdType> element, const std::vector<std::size_t>& corners, CellRows& to) {
        std::vector<vtkIdType> nodes;
        std::vector<vtkIdType> middles;
        for (std::size_t i = 0; i < corners.size(); ++i) {
            nodes.push_back(element[corners[i]]);
            if (const auto middle = middleNode(type, corners[i], corners[(i + 1) % corners.size()]))
                middles.push_back(element[*middle]);
        }
        const bool curved = middles.size() == corners.size();
        if (curved)
            nodes.insert(nodes.end(), middles.begin(), middles.end());
        const bool three = corners.size() == 3;
        to.add(corners.size() == 2 ? VTK_LINE : three ? (curved ? VTK_QUADRATIC_TRIANGLE : VTK_TRIANGLE) : curved ? VTK_QUADRATIC_QUAD : VTK_QUAD, nodes);
    }

    const CaseSource& m_source;
    const NetcdfFile& m_file;
    Intake& m_to;
    std::size_t m_nodes = 0;
    std::size_t m_dimensions = 3;
    NodeTable m_table;
    std::vector<ElementBlock> m_blocks;
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
    return ExodusReader(source, *file, to).run();
}

std::vector<double> exodusTimes(const std::filesystem::path& file) {
    const auto opened = NetcdfFile::open(file);
    return opened ? timesIn(*opened) : std::vector<double>();
}

} // namespace pyro
