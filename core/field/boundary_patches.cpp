#include "core/field/boundary_patches.h"

#include "core/case/store.h"
#include "core/field/boundary_match.h"
#include "core/field/face_lookup.h"
#include "core/field/face_measure.h"
#include "core/field/face_side.h"
#include "core/field/interface_faces.h"
#include "core/field/straight_pieces.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <numeric>

namespace pyro {
namespace {

constexpr int patchesVersion = 2;
constexpr std::uint32_t noPart = ~0U;
constexpr const char* patchesEnding = ".patches";
constexpr double planeWithin = std::numbers::pi / 180; // rad
constexpr std::size_t mostOfPart = 100;                // patches; a surface of steps has one for each of them

struct Facing {
    Point normal{}; // unit length, out of the part
    double area = 0;
};

class Sets {
public:
    explicit Sets(std::size_t count) : m_parent(count) { std::iota(m_parent.begin(), m_parent.end(), 0U); }
    std::uint32_t rootOf(std::uint32_t at) {
        while (m_parent[at] != at)
            at = m_parent[at] = m_parent[m_parent[at]];
        return at;
    }
    void join(std::uint32_t a, std::uint32_t b) {
        a = rootOf(a);
        b = rootOf(b);
        m_parent[std::max(a, b)] = std::min(a, b); // the smallest face number names the set
    }

private:
    std::vector<std::uint32_t> m_parent;
};

class PartPatches {
public:
    PartPatches(const Region& part, const ShellView& shell, std::vector<std::uint32_t> free)
        : m_part(part), m_shell(shell), m_free(std::move(free)) {}

    // Named without the part.
    std::vector<Patch> run(double angle) {
        measure();
        divide(std::cos(angle));
        std::vector<Patch> named;
        nameByAxis(named);
        nameByArea(named);
        return named;
    }

    // The same without names: the pieces between sharper edges, by falling area, as faces of the shell.
    std::vector<std::vector<std::uint32_t>> pieces(double angle) {
        measure();
        divide(std::cos(angle));
        std::ranges::stable_sort(m_patches, [](const One& a, const One& b) { return a.area > b.area * (1 + 1e-6); });
        std::vector<std::vector<std::uint32_t>> out;
        out.reserve(m_patches.size());
        for (const auto& one : m_patches)
            out.push_back(patchOf(one, {}).faces);
        return out;
    }

private:
    struct One {
        std::vector<std::uint32_t> faces; // positions in m_free
        double area = 0;
        bool named = false;
    };

    void measure() {
        FaceMeasure measured(m_part.mesh);
        for (const auto face : m_free) {
            const auto& fan = measured.of(m_shell.cell[face], m_shell.face(face));
            m_facing.push_back(
                {outOfCell(fan.normal(), m_part.mesh, m_shell.cell[face], m_shell.face(face)), fan.size});
        }
        for (std::size_t node = 0; node < m_part.mesh.nodes(); ++node)
            for (std::size_t axis = 0; axis < 3; ++axis) {
                m_low[axis] = std::min(m_low[axis], m_part.mesh.node(node)[axis]);
                m_high[axis] = std::max(m_high[axis], m_part.mesh.node(node)[axis]);
            }
    }

    // Out of the part, amid an edge of a face; on a curved cell by its shape functions, so that no smooth face is
    // divided where its pieces meet.
    Point normalAt(std::uint32_t free, std::size_t corner) const {
        const auto& facing = m_facing[free].normal;
        const auto face = m_free[free];
        const auto* lattice = latticeOf(m_part.mesh, m_shell.cell[face]);
        if (lattice == nullptr)
            return facing;
        const auto ids = m_part.mesh.cell(m_shell.cell[face]);
        const auto ring = m_shell.face(face);
        const auto local = [&](std::size_t at) {
            return lattice->place(
                static_cast<std::size_t>(std::ranges::find(ids, ring[at % ring.size()]) - ids.begin()));
        };
        const auto here = local(corner);
        const auto along = minus(local(corner + 1), here);
        const auto inwards = minus(local(corner + ring.size() - 1), here);
        std::vector<double> values(ids.size());
        std::vector<LocalPoint> slopes(ids.size());
        lattice->shape({here[0] + along[0] / 2, here[1] + along[1] / 2, here[2] + along[2] / 2}, values, slopes);
        Point first{};
        Point second{};
        for (std::size_t i = 0; i < ids.size(); ++i)
            for (std::size_t axis = 0; axis < 3; ++axis) {
                first[axis] += dot(slopes[i], along) * m_part.mesh.node(ids[i])[axis];
                second[axis] += dot(slopes[i], inwards) * m_part.mesh.node(ids[i])[axis];
            }
        auto normal = unit(cross(first, second));
        if (dot(normal, facing) < 0)
            for (auto& one : normal)
                one = -one;
        return length(normal) > 0 ? normal : facing;
    }

    void divide(double leastCosine) {
        struct Side {
            std::uint32_t low;
            std::uint32_t high;
            std::uint32_t face;
            std::uint32_t corner; // of the face, from which it runs to the next one
        };
        std::vector<Side> sides;
        for (std::uint32_t i = 0; i < m_free.size(); ++i) {
            const auto corners = m_shell.face(m_free[i]);
            for (std::size_t k = 0; k < corners.size(); ++k) {
                const auto [low, high] = std::minmax(corners[k], corners[(k + 1) % corners.size()]);
                sides.push_back({low, high, i, static_cast<std::uint32_t>(k)});
            }
        }
        std::ranges::sort(sides, [](const Side& a, const Side& b) {
            return std::tie(a.low, a.high, a.face) < std::tie(b.low, b.high, b.face);
        });
        Sets sets(m_free.size());
        for (std::size_t i = 0; i < sides.size();) {
            std::size_t end = i + 1;
            while (end < sides.size() && sides[end].low == sides[i].low && sides[end].high == sides[i].high)
                ++end;
            // An edge of more than two faces, where bodies meet, divides whatever the angle.
            if (end - i == 2 && dot(normalAt(sides[i].face, sides[i].corner),
                                    normalAt(sides[i + 1].face, sides[i + 1].corner)) >= leastCosine - 1e-9)
                sets.join(sides[i].face, sides[i + 1].face);
            i = end;
        }
        std::map<std::uint32_t, One> bySet;
        for (std::uint32_t i = 0; i < m_free.size(); ++i) {
            auto& one = bySet[sets.rootOf(i)];
            one.faces.push_back(i);
            one.area += m_facing[i].area;
        }
        for (auto& [root, one] : bySet)
            m_patches.push_back(std::move(one));
    }

    // Whether all of its faces lie across an axis, at that end of the part's box.
    bool endsAt(const One& one, std::size_t axis, bool high) const {
        double reach = high ? -HUGE_VAL : HUGE_VAL;
        for (const auto i : one.faces) {
            if (m_facing[i].normal[axis] * (high ? 1 : -1) < std::cos(planeWithin))
                return false;
            for (const auto node : m_shell.face(m_free[i]))
                reach = high ? std::max(reach, m_part.mesh.node(node)[axis])
                             : std::min(reach, m_part.mesh.node(node)[axis]);
        }
        return std::abs(reach - (high ? m_high : m_low)[axis]) <= 1e-6 * (m_high[axis] - m_low[axis]);
    }

    void nameByAxis(std::vector<Patch>& named) {
        for (std::size_t axis = 0; axis < 3; ++axis)
            for (const bool high : {false, true}) {
                One* only = nullptr;
                std::size_t there = 0;
                for (auto& one : m_patches)
                    if (endsAt(one, axis, high)) {
                        only = &one;
                        ++there;
                    }
                if (there != 1)
                    continue;
                only->named = true;
                named.push_back(patchOf(*only, fmt::format("{} {}", "xyz"[axis], high ? "max" : "min")));
            }
    }

    void nameByArea(std::vector<Patch>& named) {
        std::vector<const One*> rest;
        double most = 0;
        for (const auto& one : m_patches)
            if (!one.named) {
                rest.push_back(&one);
                most = std::max(most, one.area);
            }
        // Areas within rounding are equal: the smallest face number decides, which is their order already.
        const auto rank = [&](const One* one) { return most > 0 ? std::llround(1e6 * one->area / most) : 0; };
        std::ranges::stable_sort(rest, [&](const One* a, const One* b) { return rank(a) > rank(b); });
        const std::size_t single = rest.size() > mostOfPart ? mostOfPart : rest.size();
        for (std::size_t i = 0; i < single; ++i)
            named.push_back(patchOf(*rest[i], fmt::format("face {}", i + 1)));
        One others;
        for (std::size_t i = single; i < rest.size(); ++i)
            others.faces.insert(others.faces.end(), rest[i]->faces.begin(), rest[i]->faces.end());
        std::ranges::sort(others.faces);
        if (!others.faces.empty())
            named.push_back(patchOf(others, "other faces"));
    }

    Patch patchOf(const One& one, std::string name) const {
        Patch out{std::move(name), 0, {}};
        for (const auto i : one.faces)
            out.faces.push_back(m_free[i]);
        return out;
    }

    const Region& m_part;
    ShellView m_shell;
    std::vector<std::uint32_t> m_free; // faces of the shell
    std::vector<Facing> m_facing;      // of each
    std::vector<One> m_patches;
    Point m_low{HUGE_VAL, HUGE_VAL, HUGE_VAL};
    Point m_high{-HUGE_VAL, -HUGE_VAL, -HUGE_VAL};
};

// Per part the faces of its shell that touch no other part and that no boundary covers.
std::vector<std::vector<std::uint32_t>> freeFaces(const Case& solved, std::span<const ShellView> shells) {
    std::vector<std::vector<bool>> taken;
    for (const auto& shell : shells)
        taken.emplace_back(shell.faces(), false);
    if (shells.size() > 1) {
        const auto twins = twinFaces(solved, shells);
        for (std::size_t part = 0; part < twins.size(); ++part)
            for (std::size_t face = 0; face < twins[part].size(); ++face)
                taken[part][face] = twins[part][face].part != ~0U;
    }
    for (const auto& match : matchBoundaries(solved, shells))
        for (std::size_t face = 0; face < match.part.size(); ++face)
            if (match.part[face] != ~0U)
                taken[match.part[face]][match.face[face]] = true;
    std::vector<std::vector<std::uint32_t>> free(shells.size());
    for (std::size_t part = 0; part < shells.size(); ++part)
        for (std::uint32_t face = 0; solved.parts[part].dimension == 3 && face < taken[part].size(); ++face)
            if (!taken[part][face])
                free[part].push_back(face);
    return free;
}

// The faces of a patch as a mesh of its own.
class PatchWriter {
public:
    PatchWriter(ArrayFileWriter& to, std::string key) : m_to(to), m_key(std::move(key)) {}

    void write(const Mesh& mesh, const ShellView& shell, const Patch& patch) {
        std::vector<std::uint32_t> nodes;
        for (const auto face : patch.faces)
            nodes.insert(nodes.end(), shell.face(face).begin(), shell.face(face).end());
        std::ranges::sort(nodes);
        nodes.erase(std::unique(nodes.begin(), nodes.end()), nodes.end());
        std::vector<double> points;
        for (const auto node : nodes)
            for (const double at : mesh.node(node))
                points.push_back(at);
        const auto numberOf = [&](std::uint32_t node) {
            return static_cast<std::uint32_t>(std::ranges::lower_bound(nodes, node) - nodes.begin());
        };
        std::vector<std::uint32_t> connectivity;
        std::vector<std::uint64_t> offsets{0};
        std::vector<std::uint8_t> types;
        for (const auto face : patch.faces) {
            const auto ring = shell.face(face);
            for (const auto node : ring)
                connectivity.push_back(numberOf(node));
            offsets.push_back(connectivity.size());
            types.push_back(static_cast<std::uint8_t>(ring.size() == 3 ? CellType::Triangle : CellType::Quad));
        }
        add("points", points);
        add("connectivity", connectivity);
        add("offsets", offsets);
        add("types", types);
        add("faces", patch.faces);
        if (hasCurved(mesh))
            addMeasures(mesh, shell, patch, nodes);
    }

private:
    void addMeasures(const Mesh& mesh, const ShellView& shell, const Patch& patch,
                     const std::vector<std::uint32_t>& nodes) {
        std::vector<double> extent;
        std::vector<double> share(nodes.size(), 0.0);
        FaceMeasure measure(mesh);
        for (const auto face : patch.faces) {
            const double area = measure.of(shell.cell[face], shell.face(face)).size;
            extent.push_back(area);
            measure.forShares([&](std::uint32_t node, double part) {
                if (const auto at = std::ranges::lower_bound(nodes, node); at != nodes.end() && *at == node)
                    share[static_cast<std::size_t>(at - nodes.begin())] += area * part;
            });
        }
        add("extent", extent);
        add("share", share);
    }
    template <class T>
    void add(const char* name, const std::vector<T>& values) {
        m_to.add(m_key + name, std::span<const T>(values));
    }

    ArrayFileWriter& m_to;
    std::string m_key;
};

std::shared_ptr<const Case> appended(const Case& solved, std::span<const Region> patches,
                                     std::shared_ptr<const ArrayFile> file, const CaseSplit& split) {
    auto more = std::make_shared<Case>(solved);
    more->boundaries.insert(more->boundaries.end(), patches.begin(), patches.end());
    more->patches = std::move(file);
    more->split = split;
    return more;
}

Result<std::shared_ptr<const Case>> fromFile(const Case& solved, const CaseSplit& split) {
    auto file = openBesideStore(solved, patchesEnding, patchesVersion);
    if (!file)
        return tl::unexpected(file.error());
    const auto& meta = (*file)->meta();
    if (meta.value("split", nlohmann::json()) != split.toJson())
        return fail(ErrorCode::WrongVersion, "it is divided otherwise");
    std::vector<Region> patches;
    for (std::size_t i = 0; i < meta.at("patches").size(); ++i) {
        const auto& entry = meta["patches"][i];
        const auto key = fmt::format("{}/", i);
        Region region;
        region.name = entry.at("name").get<std::string>();
        region.dimension = 2;
        region.mesh.coordinates = (*file)->reals(key + "points");
        region.mesh.connectivity = (*file)->array<std::uint32_t>(key + "connectivity");
        region.mesh.offsets = (*file)->array<std::uint64_t>(key + "offsets");
        region.mesh.types = (*file)->array<std::uint8_t>(key + "types");
        region.fileCells = region.mesh.cells();
        if (entry.value("curved", false)) {
            region.extent = (*file)->array<double>(key + "extent");
            region.share = (*file)->array<double>(key + "share");
        }
        region.patchOf = PatchOf{entry.at("part").get<std::uint32_t>(), (*file)->array<std::uint32_t>(key + "faces")};
        patches.push_back(std::move(region));
    }
    auto more = std::make_shared<Case>(*appended(solved, patches, *file, split));
    for (const auto& text : meta.value("remarks", nlohmann::json::array()))
        more->remarks.push_back({Severity::Warning, "split-unknown", text.get<std::string>(), solved.file});
    return more;
}

} // namespace

std::vector<Patch> patchesOf(const Case& solved, std::span<const ShellView> shells, double angle) {
    const auto free = freeFaces(solved, shells);
    std::vector<Patch> all;
    for (std::uint32_t part = 0; part < free.size(); ++part) {
        auto named = PartPatches(solved.parts[part], shells[part], free[part]).run(angle);
        for (auto& patch : named) {
            patch.part = part;
            if (solved.parts.size() > 1)
                patch.name = solved.parts[part].name + " " + patch.name;
            const auto plain = patch.name;
            for (int copy = 2;
                 solved.boundaryNamed(patch.name) || std::ranges::find(all, patch.name, &Patch::name) != all.end();
                 ++copy)
                patch.name = fmt::format("{} ({})", plain, copy);
            all.push_back(std::move(patch));
        }
    }
    return all;
}

namespace {

// The faces of a patch on both sides of a plane, by their middles.
std::vector<std::vector<std::uint32_t>> cutByPlane(const Mesh& mesh, const ShellView& shell, const Patch& patch,
                                                   const PatchCut& cut) {
    std::vector<std::vector<std::uint32_t>> sides(2);
    for (const auto face : patch.faces) {
        const double height = dot(minus(centroid(mesh, shell.face(face)), cut.origin), cut.normal);
        sides[height >= 0 ? 0 : 1].push_back(face);
    }
    std::erase_if(sides, [](const auto& side) { return side.empty(); });
    return sides;
}

std::string pieceName(const std::string& of, std::size_t at) {
    return at < 26 ? fmt::format("{} {}", of, static_cast<char>('a' + at)) : fmt::format("{} {}", of, at + 1);
}

} // namespace

void cutAndJoin(const Case& solved, std::span<const ShellView> shells, const CaseSplit& split,
                std::vector<Patch>& patches, Remarks& remarks) {
    const auto tell = [&](std::string text) {
        remarks.push_back({Severity::Warning, "split-unknown", std::move(text), solved.file});
    };
    for (const auto& cut : split.cuts) {
        const auto at = std::ranges::find(patches, cut.boundary, &Patch::name);
        if (at == patches.end()) {
            tell(fmt::format("\"{}\", which the survey divides, is no boundary made by edges here", cut.boundary));
            continue;
        }
        const auto whole = *at;
        const auto& part = solved.parts[whole.part];
        const auto pieces = cut.angle > 0 ? PartPatches(part, shells[whole.part], whole.faces).pieces(cut.angle)
                                          : cutByPlane(part.mesh, shells[whole.part], whole, cut);
        if (pieces.size() < 2) {
            tell(fmt::format("\"{}\" stays whole: {}", cut.boundary,
                             cut.angle > 0 ? "it has no edge so sharp" : "the plane does not pass through it"));
            continue;
        }
        std::vector<Patch> made;
        for (std::size_t i = 0; i < pieces.size(); ++i)
            made.push_back({pieceName(whole.name, i), whole.part, pieces[i]});
        patches.insert(patches.erase(at), std::make_move_iterator(made.begin()), std::make_move_iterator(made.end()));
    }
    for (const auto& join : split.joins) {
        Patch whole{join.name, noPart, {}};
        std::vector<std::string> missing;
        for (const auto& name : join.boundaries) {
            const auto at = std::ranges::find(patches, name, &Patch::name);
            if (at == patches.end() || (whole.part != noPart && at->part != whole.part)) {
                missing.push_back(name);
                continue;
            }
            whole.part = at->part;
            whole.faces.insert(whole.faces.end(), at->faces.begin(), at->faces.end());
            patches.erase(at);
        }
        if (!missing.empty())
            tell(fmt::format("\"{}\" is joined without {}: no such boundary made by edges on the same part", join.name,
                             fmt::join(missing, ", ")));
        if (whole.faces.empty())
            continue;
        std::ranges::sort(whole.faces);
        if (solved.boundaryNamed(whole.name) || std::ranges::find(patches, whole.name, &Patch::name) != patches.end()) {
            tell(fmt::format("the name \"{}\" is taken; the joined boundary is \"{} (joined)\"", whole.name,
                             whole.name));
            whole.name += " (joined)";
        }
        patches.push_back(std::move(whole));
    }
}

Result<std::shared_ptr<const Case>> withPatches(const std::shared_ptr<const Case>& solved, const CaseShells& shells,
                                                const CaseSplit& split, Progress& progress) {
    if (!split.boundaries)
        return appended(*solved, {}, nullptr, split);
    if (auto known = fromFile(*solved, split))
        return known;
    progress.report(0, "dividing the outer faces");
    auto patches = patchesOf(*solved, shells.parts, split.angle);
    Remarks remarks;
    cutAndJoin(*solved, shells.parts, split, patches, remarks);
    if (progress.cancelled())
        return fail(ErrorCode::Cancelled, "preparing the case was cancelled", solved->file);
    ArrayFileWriter writer(besideStore(*solved, patchesEnding));
    auto meta = besideStoreMeta(*solved, patchesVersion);
    meta["split"] = split.toJson();
    meta["patches"] = nlohmann::json::array();
    meta["remarks"] = nlohmann::json::array();
    for (const auto& remark : remarks)
        meta["remarks"].push_back(remark.text);
    for (std::size_t i = 0; i < patches.size(); ++i) {
        const auto& mesh = solved->parts[patches[i].part].mesh;
        meta["patches"].push_back({{"name", patches[i].name}, {"part", patches[i].part}, {"curved", hasCurved(mesh)}});
        PatchWriter(writer, fmt::format("{}/", i)).write(mesh, shells.parts[patches[i].part], patches[i]);
    }
    if (auto written = writer.finish(std::move(meta)); !written)
        return tl::unexpected(written.error());
    return fromFile(*solved, split);
}

std::shared_ptr<const Case> withPatchesOf(const std::shared_ptr<const Case>& solved, const Case& like) {
    std::vector<Region> patches;
    for (const auto& boundary : like.boundaries)
        if (boundary.patchOf)
            patches.push_back(boundary);
    return appended(*solved, patches, like.patches, like.split);
}

} // namespace pyro
