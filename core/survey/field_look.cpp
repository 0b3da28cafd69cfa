#include "core/survey/field_look.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {

std::string_view groundText(Ground ground) {
    return ground == Ground::Field ? "field" : ground == Ground::Plain ? "plain" : "materials";
}

std::string_view paletteText(PaletteName palette) {
    switch (palette) {
    case PaletteName::Ember:
        return "ember";
    case PaletteName::Ash:
        return "ash";
    case PaletteName::Tide:
        return "tide";
    }
    return "ember";
}

std::string_view startText(PathStart start) {
    switch (start) {
    case PathStart::Hottest:
        return "hottest";
    case PathStart::Boundary:
        return "boundary";
    case PathStart::Section:
        return "section";
    case PathStart::Place:
        return "place";
    case PathStart::Line:
        return "line";
    case PathStart::Disk:
        return "disk";
    }
    return "hottest";
}

std::string FieldLook::freeSectionName() const {
    for (char letter = 'A'; letter <= 'Z'; ++letter) {
        auto name = fmt::format("Section {}", letter);
        if (std::ranges::find(sections, name, &SectionView::name) == sections.end())
            return name;
    }
    return fmt::format("Section {}", sections.size() + 1);
}

const IsolineValues& IsothermView::of(const std::string& key) const {
    static const IsolineValues none;
    const auto found = values.find(key);
    return found == values.end() ? none : found->second;
}

std::string isolineKey(const std::string& quantity, const std::string& component) {
    return component.empty() ? quantity : quantity + " " + component;
}

} // namespace pyro
