// What the stage Field adds to the plain surfaces: sections and isotherms. Part of the view, saved in the survey.
#pragma once

#include "core/field/cut.h"
#include "core/units/written.h"

#include <set>

namespace pyro {

struct SectionView {
    std::string name;
    Plane plane;               // normal of any length
    bool shown = true;
    bool fill = true;
    bool mesh = false;         // the edges of the cut cells
    bool opened = false;       // what lies on the side of the normal is cut away
    std::set<std::string> exempt; // parts that are neither cut nor shown in the section
    bool operator==(const SectionView&) const = default;
};

struct IsothermView {
    bool shown = false;        // on the surfaces and sections that are seen
    bool labels = true;
    std::optional<double> spacing; // in the unit on display; nothing: a round one that fits the range
    int heavyEvery = 5;
    std::vector<double> marks; // single values, SI, with a colour of their own
    bool operator==(const IsothermView&) const = default;
};

struct FieldView {
    std::vector<SectionView> sections;
    IsothermView isotherms;
    bool operator==(const FieldView&) const = default;

    // "Section A", "Section B" ...: the first name that is free.
    std::string freeSectionName() const;
};

// Malformed entries are left out; a plane without a normal too.
FieldView fieldViewFrom(const Json& view);
void putFieldView(Json& view, const FieldView& field);

} // namespace pyro
