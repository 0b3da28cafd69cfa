// Exodus II: element blocks as parts, side sets as boundaries, all time steps; classic, 64-bit and netCDF-4 files; also
// the pieces of a case that was computed in parallel ("name.e.4.0" and its like), of which any one stands for all.
//
// The file is read with netCDF's own library: the mesh as it was solved on, without displacements. Names that end in x,
// y, z become one vector. Errors: as scanNetcdf; LengthMismatch and IndexOutOfRange with the variable; NotSupported for
// kinds of elements; NoCells.
#include "core/case/readers/format.h"

#include "core/case/case_endings.h"
#include "core/case/readers/cell_sides.h"
#include "core/case/readers/exodus_cells.h"
#include "core/case/readers/loose_cells.h"
#include "core/case/readers/netcdf_file.h"
#include "core/case/readers/remedies.h"
#include "core/case/readers/vector_names.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <unordered_map>
#include <vtkCellData.h>
#include <vtkCellType.h>

namespace pyro {
namespace {

// A block of elements, over all pieces of the case.
struct ElementBlock {
    std::string key; // its id, the same in every piece
    std::string name;
    std::optional<ExodusKind> kind; // nothing where its elements are left out
    bool shell = false;
    CellRows cells; // in VTK's order of nodes
    std::vector<NamedValues> fields;
};

// The elements of a block in one piece, numbered there after those of the blocks before it.
struct PieceBlock {
    std::size_t block; // in the list of all
    std::size_t first; // number in the piece
    std::size_t count;
    std::size_t firstRow; // among the block's cells
};

struct SideSet {
    std::string key;
    std::string name;
    CellRows cells;
};

// The entry of a key in a list; made when it is new.
template <class One>
One& keyed(std::vector<One>& list, std::string One::*key, const std::string& value) {
    const auto found = std::ranges::find(list, value, key);
    if (found != list.end())
        return *found;
    list.emplace_back().*key = value;
    return list.back();
}

// Adds values of one piece to those of the pieces before it: `count` entries so far, what is missing becomes NaN.
void append(std::vector<NamedValues>& to, const std::vector<NamedValues>& more, std::size_t before, std::size_t added) {
    for (const auto& one : more) {
        auto& all = keyed(to, &NamedValues::name, one.name);
        all.components = one.components;
        all.values.resize(before * one.components, std::nan(""));
        all.values.insert(all.values.end(), one.values.begin(), one.values.end());
    }
    for (auto& all : to)
        all.values.resize((before + added) * all.components, std::nan(""));
}

std::vector<double> timesIn(const NetcdfFile& file) {
    return file.has("time_whole") ? file.numbers("time_whole").value_or(std::vector<double>()) : std::vector<double>();
}

class ExodusReader {
public:
    ExodusReader(const CaseSource& source, Intake& to) : m_source(source), m_to(to) {}

    // One file, or all pieces of a case that was computed in parallel.
    Done run(const std::vector<std::filesystem::path>& pieces) {
        for (std::size_t i = 0; i < pieces.size(); ++i) {
            if (m_to.progress().cancelled())
                return fail(ErrorCode::Cancelled, "reading was cancelled", m_source.file.string());
            m_to.progress().report(static_cast<double>(i) / static_cast<double>(pieces.size() + 1),
                                   "reading " + pieces[i].filename().string());
            const auto file = NetcdfFile::open(pieces[i]);
            if (!file)
                return tl::unexpected(file.error());
            m_file = &*file;
            m_path = pieces[i];
            m_byNumber = pieces.size() > 1;
            if (auto read = readPiece(i == 0); !read)
                return read;
            m_file = nullptr;
        }
        return takeAll();
    }

private:
    void remark(const char* code, std::string text) {
        m_to.remark({Severity::Note, code, std::move(text), m_source.file.string()});
    }
    tl::unexpected<Error> stop(ErrorCode code, std::string what) const {
        return fail(code, std::move(what), m_path.string(), writeAgain);
    }

    Done readPiece(bool first) {
        if (auto read = coordinates(); !read)
            return read;
        if (auto read = nodalFields(); !read)
            return read;
        const auto blocks = m_file->dimension("num_el_blk");
        const auto names = m_file->names("eb_names");
        const auto ids = m_file->has("eb_prop1") ? m_file->numbers("eb_prop1")
                                                 : Result<std::vector<double>>(std::vector<double>());
        if (blocks == 0)
            return fail(ErrorCode::NoCells, "the file has no element blocks", m_path.string(),
                        "Export the mesh together with the result");
        m_pieceBlocks.clear();
        for (std::size_t block = 0; block < blocks; ++block)
            if (auto read = readBlock(block, keyOf(ids, block), nameOf(names, ids, block, "block")); !read)
                return read;
        for (std::size_t set = 0; set < m_file->dimension("num_side_sets"); ++set)
            if (auto read = readSideSet(set); !read)
                return read;
        if (!first)
            return {};
        if (const auto times = timesIn(*m_file); static_cast<std::size_t>(m_source.step) < times.size())
            m_to.setTime(times[static_cast<std::size_t>(m_source.step)]);
        for (const auto& [dimension, what] : {std::pair{"num_node_sets", "node sets"},
                                              {"num_edge_sets", "edge sets"},
                                              {"num_face_sets", "face sets"},
                                              {"num_elem_sets", "element sets"}})
            if (const auto count = m_file->dimension(dimension); count > 0)
                remark("not-read", fmt::format("{} {} are left out: boundaries are made of side sets", count, what));
        return globalVariables();
    }

    // Values for the whole model at every time.
    Done globalVariables() {
        const auto names = namesOf("glo");
        MonitoredInFile monitored{timesIn(*m_file), {}};
        if (names.empty() || monitored.times.empty())
            return {};
        const auto values = m_file->numbers("vals_glo_var");
        if (!values)
            return tl::unexpected(values.error());
        if (values->size() != names.size() * monitored.times.size())
            return stop(ErrorCode::LengthMismatch, fmt::format("{} global variables at {} times have {} values",
                                                               names.size(), monitored.times.size(), values->size()));
        for (std::size_t i = 0; i < names.size(); ++i) {
            auto& column = monitored.columns.emplace_back(names[i], std::vector<double>());
            for (std::size_t step = 0; step < monitored.times.size(); ++step)
                column.second.push_back((*values)[step * names.size() + i]);
        }
        m_to.setMonitored(std::move(monitored));
        return {};
    }

    // What the pieces came to, block by block.
    Done takeAll() {
        for (auto& block : m_blocks) {
            if (block.cells.size() == 0) {
                remark("block-empty", fmt::format("\"{}\" is empty", block.name));
                continue;
            }
            auto grid = gridOf(block.cells, m_table);
            block.cells = {}; // sides were taken from it already, and it need not be held twice
            for (const auto& one : block.fields)
                addValues(*grid->GetCellData(), one);
            if (auto taken = m_to.take(
                    {block.name, false, grid, fmt::format("{}, {}", m_source.file.string(), block.name)});
                !taken)
                return taken;
        }
        for (const auto& set : m_sets) {
            if (set.cells.size() == 0) {
                remark("block-empty", fmt::format("\"{}\" is empty", set.name));
                continue;
            }
            if (auto taken = m_to.take({set.name, true, gridOf(set.cells, m_table),
                                        fmt::format("{}, {}", m_source.file.string(), set.name)});
                !taken)
                return taken;
        }
        return {};
    }

    static std::string keyOf(const Result<std::vector<double>>& ids, std::size_t at) {
        return ids && at < ids->size() ? fmt::format("{:.0f}", (*ids)[at]) : fmt::format("#{}", at);
    }
    static std::string nameOf(const std::vector<std::string>& names, const Result<std::vector<double>>& ids,
                              std::size_t at, const char* what) {
        if (at < names.size() && !names[at].empty())
            return names[at];
        return fmt::format("{} {:.0f}", what, ids && at < ids->size() ? (*ids)[at] : static_cast<double>(at + 1));
    }

    // Nodes of the piece among those of all: by their numbers in the whole where there are several pieces.
    Done coordinates() {
        m_nodes = m_file->dimension("num_nodes");
        m_dimensions = m_file->dimension("num_dim");
        m_before = m_table.size();
        const auto numbers = m_byNumber ? m_file->numbers("node_num_map")
                                        : Result<std::vector<double>>(std::vector<double>());
        if (!numbers || (m_byNumber && numbers->size() != m_nodes))
            return stop(ErrorCode::LengthMismatch,
                        "this piece of a case does not tell the numbers of its nodes in the whole (node_num_map)");
        m_nodeOf.resize(m_nodes);
        std::size_t next = m_before;
        for (std::size_t node = 0; node < m_nodes; ++node) {
            if (!m_byNumber) {
                m_nodeOf[node] = static_cast<vtkIdType>(node);
                continue;
            }
            const auto [known, isNew] = m_known.try_emplace(static_cast<std::int64_t>((*numbers)[node]),
                                                            static_cast<vtkIdType>(next));
            next += isNew ? 1 : 0;
            m_nodeOf[node] = known->second;
        }
        m_table.at.resize(3 * (m_byNumber ? next : m_nodes), 0.0);
        for (std::size_t axis = 0; axis < std::min<std::size_t>(m_dimensions, 3); ++axis) {
            const std::string own = std::string("coord") + "xyz"[axis];
            auto read = m_file->has(own) ? m_file->numbers(own) : m_file->numbers("coord", axis);
            if (!read)
                return tl::unexpected(read.error());
            if (read->size() != m_nodes)
                return stop(ErrorCode::LengthMismatch,
                            fmt::format("{} coordinates along {} for {} nodes", read->size(), "xyz"[axis], m_nodes));
            for (std::size_t node = 0; node < m_nodes; ++node)
                m_table.at[3 * static_cast<std::size_t>(m_nodeOf[node]) + axis] = (*read)[node];
        }
        return {};
    }

    // One variable at the step asked for, in either of the two layouts: one array for each, or one for all.
    Result<NamedValues> variable(const std::string& name, const std::string& own, const std::string& shared,
                                 std::size_t number, std::size_t count) const {
        const auto step = static_cast<std::size_t>(m_source.step);
        NamedValues out{name, 1, {}};
        if (m_file->has(own)) {
            const auto shape = m_file->shape(own);
            auto read = m_file->numbers(own, step);
            if (!read)
                return tl::unexpected(read.error());
            if (count == 0 || shape.size() < 2 || shape[1] != count || read->size() % count != 0)
                return stop(ErrorCode::LengthMismatch,
                            fmt::format("\"{}\" does not have {} values at each step", own, count));
            out.components = read->size() / count;
            out.values = std::move(*read);
            return out;
        }
        const auto shape = m_file->shape(shared);
        if (shape.size() != 3 || number >= shape[1] || shape[2] != count)
            return stop(ErrorCode::LengthMismatch, fmt::format("the values of \"{}\" are not there", name));
        auto read = m_file->numbers(shared, step);
        if (!read)
            return tl::unexpected(read.error());
        out.values.assign(read->begin() + static_cast<std::ptrdiff_t>(number * count),
                          read->begin() + static_cast<std::ptrdiff_t>((number + 1) * count));
        return out;
    }

    // `own(i)`: the array of the variable i.
    template <class Own>
    Result<std::vector<NamedValues>> fields(const std::vector<std::string>& names, Own own, const std::string& shared,
                                            std::size_t count) const {
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

    bool hasSteps() const { return m_file->dimension("time_step") > 0; }

    Done nodalFields() {
        if (!hasSteps())
            return {};
        auto read = fields(
            namesOf("nod"), [](std::size_t i) { return fmt::format("vals_nod_var{}", i + 1); }, "vals_nod_var",
            m_nodes);
        if (!read)
            return tl::unexpected(read.error());
        if (!m_byNumber) {
            m_table.fields = std::move(*read);
            return {};
        }
        append(m_table.fields, {}, m_before, m_table.size() - m_before);
        for (const auto& one : *read) {
            auto& all = keyed(m_table.fields, &NamedValues::name, one.name);
            all.components = one.components;
            all.values.resize(m_table.size() * one.components, std::nan(""));
            for (std::size_t node = 0; node < m_nodes; ++node)
                for (std::size_t c = 0; c < one.components; ++c)
                    all.values[static_cast<std::size_t>(m_nodeOf[node]) * one.components + c] =
                        one.values[node * one.components + c];
        }
        return {};
    }

    // Nameless ones are numbered.
    std::vector<std::string> namesOf(const std::string& kind) const {
        auto names = m_file->names("name_" + kind + "_var");
        names.resize(m_file->dimension("num_" + kind + "_var"));
        for (std::size_t i = 0; i < names.size(); ++i)
            if (names[i].empty())
                names[i] = fmt::format("variable {}", i + 1);
        return names;
    }

    Done readBlock(std::size_t block, const std::string& key, const std::string& name) {
        const auto variable = fmt::format("connect{}", block + 1);
        const auto count = m_file->dimension(fmt::format("num_el_in_blk{}", block + 1));
        auto& elements = keyed(m_blocks, &ElementBlock::key, key);
        elements.name = name;
        const auto first = m_pieceBlocks.empty() ? 0 : m_pieceBlocks.back().first + m_pieceBlocks.back().count;
        m_pieceBlocks.push_back(
            {static_cast<std::size_t>(&elements - m_blocks.data()), first, count, elements.cells.size()});
        if (count == 0 || !m_file->has(variable))
            return {};
        const auto shape = m_file->shape(variable);
        const auto type = m_file->attribute(variable, "elem_type");
        const auto kind = shape.size() == 2 && shape[0] == count ? exodusKind(type, shape[1]) : std::nullopt;
        if (!kind) {
            if (shape.size() == 2 && shape[1] == 1) {
                remark("cells-left-out", fmt::format("\"{}\" of {} points is left out", name, count));
                return {};
            }
            return fail(ErrorCode::NotSupported,
                        fmt::format("\"{}\" has elements of the type \"{:.40}\" with {} nodes, which are not read",
                                    name, type, shape.size() == 2 ? shape[1] : 0),
                        m_path.string(), "Export linear or quadratic elements");
        }
        elements.kind = kind;
        elements.shell = lowerCase(type).starts_with("shell") || lowerCase(type).starts_with("trishell");
        const auto before = elements.cells.size();
        if (auto read = readElements(variable, name, shape[1], count, elements); !read)
            return read;
        std::vector<NamedValues> values;
        if (hasSteps()) {
            const auto there = namesOf("elem");
            const auto own = [&](std::size_t i) { return fmt::format("vals_elem_var{}eb{}", i + 1, block + 1); };
            std::vector<std::size_t> numbersThere; // the truth table: not every block has every variable
            std::vector<std::string> namesThere;
            for (std::size_t i = 0; i < there.size(); ++i)
                if (m_file->has(own(i))) {
                    numbersThere.push_back(i);
                    namesThere.push_back(there[i]);
                }
            auto read = fields(
                namesThere, [&](std::size_t i) { return own(numbersThere[i]); }, "", count);
            if (!read)
                return tl::unexpected(read.error());
            values = std::move(*read);
        }
        append(elements.fields, values, before, count);
        return {};
    }

    Done readElements(const std::string& variable, const std::string& name, std::size_t nodesOfOne, std::size_t count,
                      ElementBlock& to) const {
        const auto numbers = m_file->numbers(variable);
        if (!numbers)
            return tl::unexpected(numbers.error());
        std::vector<vtkIdType> nodes(nodesOfOne);
        for (std::size_t i = 0; i < count; ++i) {
            for (std::size_t n = 0; n < nodesOfOne; ++n) {
                const double node = (*numbers)[i * nodesOfOne + (to.kind->order.empty() ? n : to.kind->order[n])] - 1;
                if (!(node >= 0 && node < static_cast<double>(m_nodes)))
                    return stop(ErrorCode::IndexOutOfRange,
                                fmt::format("element {} of \"{}\" refers to node {:.0f}, but there are {}", i + 1, name,
                                            node + 1, m_nodes));
                nodes[n] = m_nodeOf[static_cast<std::size_t>(node)];
            }
            to.cells.add(to.kind->vtk, nodes);
        }
        return {};
    }

    // The block of an element, numbered from 0 over the whole piece; null beyond its end.
    const PieceBlock* blockOf(double element) const {
        const auto after = std::ranges::upper_bound(
            m_pieceBlocks, element, {}, [](const PieceBlock& one) { return static_cast<double>(one.first); });
        if (!(element >= 0) || after == m_pieceBlocks.begin())
            return nullptr;
        const auto& block = *std::prev(after);
        return element < static_cast<double>(block.first + block.count) ? &block : nullptr;
    }

    Done readSideSet(std::size_t set) {
        const auto names = m_file->names("ss_names");
        const auto ids = m_file->has("ss_prop1") ? m_file->numbers("ss_prop1")
                                                 : Result<std::vector<double>>(std::vector<double>());
        const auto name = nameOf(names, ids, set, "side set");
        const auto ofElements = fmt::format("elem_ss{}", set + 1);
        auto& to = keyed(m_sets, &SideSet::key, keyOf(ids, set));
        to.name = name;
        auto& cells = to.cells;
        if (!m_file->has(ofElements))
            return {};
        const auto elements = m_file->numbers(ofElements);
        const auto sides = m_file->numbers(fmt::format("side_ss{}", set + 1));
        if (!elements || !sides)
            return tl::unexpected((elements ? sides : elements).error());
        if (elements->size() != sides->size())
            return stop(ErrorCode::LengthMismatch,
                        fmt::format("\"{}\" has {} elements and {} sides", name, elements->size(), sides->size()));
        for (std::size_t i = 0; i < elements->size(); ++i) {
            const double at = (*elements)[i] - 1;
            const auto* there = blockOf(at);
            if (there == nullptr)
                return stop(ErrorCode::IndexOutOfRange,
                            fmt::format("\"{}\" refers to element {:.0f}, but there are {}", name, at + 1,
                                        m_pieceBlocks.back().first + m_pieceBlocks.back().count));
            const auto& block = m_blocks[there->block];
            if (!block.kind)
                continue;
            const auto corners = exodusSide(*block.kind, block.shell,
                                            static_cast<std::size_t>(std::max(0.0, (*sides)[i])));
            if (corners.empty())
                return stop(ErrorCode::IndexOutOfRange,
                            fmt::format("\"{}\" refers to side {:.0f} of element {:.0f}, which has none such", name,
                                        (*sides)[i], at + 1));
            addSide(block.kind->vtk, block.cells.row(there->firstRow + static_cast<std::size_t>(at) - there->first),
                    corners, cells);
        }
        return {};
    }

    const CaseSource& m_source;
    Intake& m_to;
    const NetcdfFile* m_file = nullptr; // the piece being read
    std::filesystem::path m_path;
    bool m_byNumber = false;
    std::size_t m_nodes = 0;
    std::size_t m_dimensions = 3;
    std::size_t m_before = 0;                            // nodes of the pieces before
    std::vector<vtkIdType> m_nodeOf;                     // of the piece's nodes
    std::unordered_map<std::int64_t, vtkIdType> m_known; // by their number in the whole
    std::vector<PieceBlock> m_pieceBlocks;
    NodeTable m_table;
    std::vector<ElementBlock> m_blocks;
    std::vector<SideSet> m_sets;
};

} // namespace

std::vector<std::filesystem::path> exodusPieces(const std::filesystem::path& file) {
    if (!isPiece(file))
        return {};
    const auto number = file.extension().string(); // name.e.4.0: the first of four
    const auto count = file.stem().extension().string();
    const auto base = file.stem().stem();
    const auto all = std::stoul(count.substr(1));
    std::vector<std::filesystem::path> out;
    for (std::size_t i = 0; i < all && all <= 100'000; ++i)
        out.push_back(file.parent_path() / fmt::format("{}{}.{:0{}}", base.string(), count, i, number.size() - 1));
    return out;
}

Done readExodus(const CaseSource& source, Intake& to) {
    auto pieces = exodusPieces(source.file);
    if (pieces.empty())
        pieces.push_back(source.file);
    for (const auto& piece : pieces)
        if (!std::filesystem::exists(piece))
            return fail(ErrorCode::FileMissing,
                        fmt::format("the case has {} pieces, and \"{}\" is not there", pieces.size(),
                                    piece.filename().string()),
                        source.file.string(), "Copy all of its pieces into one folder");
    for (const auto& piece : pieces)
        if (piece != source.file)
            to.addSource(piece);
    return ExodusReader(source, to).run(pieces);
}

std::vector<double> exodusTimes(const std::filesystem::path& file) {
    const auto opened = NetcdfFile::open(file);
    return opened ? timesIn(*opened) : std::vector<double>();
}

} // namespace pyro
