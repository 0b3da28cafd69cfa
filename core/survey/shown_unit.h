// How the values of a quantity are written for people: the unit chosen for it and its digits. One place, so that the
// heat strip, the viewport, the ledger and the pictures never disagree.
#pragma once

#include "core/survey/view_state.h"

#include <vector>

namespace pyro {

class ShownUnit {
public:
    double of(double si) const; // the value in the unit
    double si(double shown) const;
    double differenceOf(double si) const;
    const std::string& symbol() const { return m_symbol; } // "°C", "m/s"; empty: unknown
    const std::string& differenceSymbol() const { return m_differenceSymbol; }
    bool isTemperature() const { return m_temperature.has_value(); }

    // Never a bare zero for what is none. `moreDigits`: where two neighbours would read alike.
    std::string number(double si, int moreDigits = 0) const;
    std::string text(double si) const; // with the unit
    std::string differenceText(double si) const;

private:
    friend ShownUnit shownUnit(const std::string& quantity, const std::string& siUnit, const ViewState& view);
    Affine m_toSi; // of other quantities
    std::string m_symbol;
    std::string m_differenceSymbol;
    std::optional<int> m_decimals; // nothing: four significant digits
    std::optional<TemperatureUnit> m_temperature;
};

// What the field of one case less that of another is called by: the quantity and this.
constexpr std::string_view differenceEnding = "_difference";

// Of a quantity with that ending a difference, in the unit of the quantity. A chosen unit that does not fit counts as
// none: the view is never a reason to show nothing.
ShownUnit shownUnit(const std::string& quantity, const std::string& siUnit, const ViewState& view);

// Units, in UDUNITS spelling, that engineers use beside an SI unit (itself the first): common practice, no source.
std::vector<std::string> unitChoices(const std::string& siUnit);

} // namespace pyro
