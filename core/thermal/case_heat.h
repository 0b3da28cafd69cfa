// Heat through the boundaries, interfaces and outer faces of one step of a case; what is computed once is kept.
#pragma once

#include "core/field/interface_faces.h"
#include "core/gauge/site.h"
#include "core/thermal/shell_heat.h"

#include <mutex>

namespace pyro {

// Heat through the facets of a surface, along their normals.
struct FacetHeat {
    std::vector<double> flux; // W/m2 per facet
    HeatMethod method = HeatMethod::Gradient;
    double total = 0; // W
    // W, by the plain gradient, beside a conservative value or that of a film
    std::optional<double> gradientTotal = {};
    std::string why = {}; // why a better method does not apply
};

// What the survey says of a boundary's environment; SI.
struct GivenEnvironment {
    std::optional<double> temperature;
    std::optional<double> resistance; // m2.K/W
};
using GivenEnvironments = std::map<std::string, GivenEnvironment>; // by boundary

// Thread-safe. The fields must outlive it.
class CaseHeat {
public:
    CaseHeat(const PartFields& fields, Transience transience, GivenEnvironments given = {})
        : m_fields(fields), m_transience(transience), m_given(std::move(given)) {}

    const PartFields& fields() const { return m_fields; }
    const Transience& transience() const { return m_transience; }
    // Of one part's outer faces. Errors: as shellHeat.
    const Result<ShellHeat>& shell(std::size_t part) const;
    const ShellAreas& areas(std::size_t part) const;
    // The shell's face of each face of a boundary.
    const std::vector<std::uint32_t>& shellFaces(std::size_t boundary) const;

    // The face of another part that coincides with this one.
    TwinFace twin(std::size_t part, std::size_t face) const;

    // Through a boundary, out of its part: stored flux if there is one, else conservative, else by its film where its
    // environment is told by survey or case, else by gradient. The film comes before the conservative method where that
    // leaves heat over behind the boundary's faces, as of a field that was averaged on nodes. `wanted` asks for one of
    // them. Errors: what is missing.
    Result<FacetHeat> through(std::size_t boundary, std::optional<HeatMethod> wanted = {}) const;
    // Through the facets of a site: boundaries and interfaces as above; sections, isotherms and surfaces by the flux
    // field, stored or by gradient.
    Result<FacetHeat> through(const Site& site, std::optional<HeatMethod> wanted = {}) const;
    // W: how far the second layer of cells behind a wall is from the first, where the plain gradient is what `through`
    // tells there. It needs a point search, so that only who shows it asks. Nothing for places within the mesh.
    std::optional<double> spread(const Site& site, std::optional<HeatMethod> wanted) const;
    // The flux at the nodes of a boundary, W/m2, for values along a line on it.
    Result<std::vector<double>> nodeFlux(std::size_t boundary, std::optional<HeatMethod> wanted,
                                         HeatMethod& method) const;

private:
    BeyondFaces beyond(std::size_t part) const;
    std::optional<FacetHeat> storedThrough(std::size_t boundary) const;
    std::optional<FacetHeat> filmThrough(std::size_t boundary) const;
    bool leavesHeatOver(std::size_t boundary, double total) const;
    // Temperature and resistance for each face, as survey or case tell them; NaN where they do not.
    BeyondFaces environmentOn(std::size_t boundary) const;
    Result<FacetHeat> computedThrough(std::size_t boundary, bool plain) const;
    Result<FacetHeat> throughInterface(const Site& site, std::optional<HeatMethod> wanted) const;
    Result<FacetHeat> throughField(const Site& site, std::optional<HeatMethod> wanted) const;

    const PartFields& m_fields;
    Transience m_transience;
    GivenEnvironments m_given;
    mutable std::recursive_mutex m_lock;
    mutable std::map<std::size_t, Result<ShellHeat>> m_shells;
    mutable std::optional<std::vector<std::vector<TwinFace>>> m_twins; // made when a temperature on cells needs them
    mutable std::map<std::size_t, ShellAreas> m_areas;
    mutable std::map<std::size_t, std::vector<std::uint32_t>> m_shellFaces;
};

} // namespace pyro
