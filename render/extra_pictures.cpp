#include "render/extra_pictures.h"

namespace pyro {
namespace {

// A vector; or, where no heat flux is stored, the temperature, whose fall tells the way.
std::optional<Quantity> followedIn(const QuantityList& quantities, const std::string& name, bool orFalling) {
    if (const auto* stored = quantities.named(name); stored != nullptr && stored->components == 3)
        return *stored;
    const auto* temperature = orFalling && name == "heat_flux" ? quantities.named("temperature") : nullptr;
    return temperature != nullptr && temperature->on == Location::Node ? std::optional(*temperature) : std::nullopt;
}

} // namespace

Result<PathPicture> pathsOf(const FieldPicture& picture, const CellOrders& orders, const QuantityList& quantities,
                            const PathView& view, const PathSources& sources, Progress& progress) {
    if (const auto followed = followedIn(quantities, view.quantity, true))
        return makePaths(picture, orders, *followed, view, sources, progress);
    PathPicture none;
    none.why = "this case has no vectors of " + view.quantity;
    return none;
}

Result<ArrowPicture> arrowsOf(const FieldPicture& picture, const CellOrders& orders, const QuantityList& quantities,
                              const ArrowView& view, std::span<const std::shared_ptr<const SectionPicture>> sections,
                              Progress& progress) {
    if (const auto followed = followedIn(quantities, view.quantity, false))
        return makeArrows(picture, orders, *followed, view, sections, progress);
    ArrowPicture none;
    none.why = "this case has no vectors of " + view.quantity;
    return none;
}

DeformedPicture deformedOf(const FieldPicture& picture, const OpenedCase* moved, const QuantityList& quantities,
                           const std::string& quantity, std::optional<double> factor) {
    const auto* stored = quantities.named(quantity);
    if (moved != nullptr && stored != nullptr)
        return makeDeformed(picture, *moved, *stored, factor);
    DeformedPicture none;
    none.why = moved != nullptr ? "the case has no \"" + quantity + "\"" : "the case is not there yet";
    return none;
}

} // namespace pyro
