#include "app/session/extra_keeper.h"

#include <algorithm>

namespace pyro {
namespace {

// A vector; or, where no heat flux is stored, the temperature, whose fall tells the way.
std::optional<Quantity> followedIn(const QuantityList& quantities, const std::string& name, bool orFalling) {
    if (const auto* stored = quantities.named(name); stored != nullptr && stored->components == 3)
        return *stored;
    const auto* temperature = orFalling && name == "heat_flux" ? quantities.named("temperature") : nullptr;
    return temperature != nullptr && temperature->on == Location::Node ? std::optional(*temperature) : std::nullopt;
}

std::shared_ptr<const SectionPicture> sectionNamed(const std::vector<ShownSection>& sections, const std::string& name) {
    const auto found = std::ranges::find_if(
        sections, [&](const ShownSection& one) { return one.view.shown && one.view.name == name; });
    return found == sections.end() ? nullptr : found->picture;
}

} // namespace

template <class Key, class Made, class Make>
void ExtraKeeper::want(Slot<Key, Made>& slot, const Key& key, const QString& title, Make make) {
    if (slot.wanted == key)
        return;
    if (!slot.wanted || slot.wanted->picture != key.picture)
        slot.made.reset();
    slot.wanted = key;
    slot.start = [this, &slot, key, title, make] {
        slot.running = true;
        m_jobs.run<Made>(title, &m_context, make, [this, &slot, key](Result<Made> made) {
            slot.running = false;
            if (slot.wanted != key) {
                if (slot.wanted)
                    slot.start();
                return;
            }
            if (!made) // cancelled: asked again at the next change
                return drop(slot);
            slot.made = std::make_shared<const Made>(std::move(*made));
            m_ready();
        });
    };
    if (!slot.running)
        slot.start();
}

template <class Key, class Made>
void ExtraKeeper::drop(Slot<Key, Made>& slot) {
    slot.wanted.reset();
    slot.made.reset();
}

void ExtraKeeper::clear() {
    drop(m_paths);
    drop(m_arrows);
    drop(m_levels);
    drop(m_deformed);
    drop(m_shell);
}

void ExtraKeeper::update(const OnDisplay& shown) {
    if (!shown.picture)
        return clear();
    updateDeformed(shown);
    updateShell(shown);
    if (!shown.orders) { // what cells are met in is not known yet
        drop(m_paths);
        drop(m_arrows);
        return drop(m_levels);
    }
    updatePaths(shown);
    updateArrows(shown);
    updateLevels(shown);
}

void ExtraKeeper::updatePaths(const OnDisplay& shown) {
    if (!shown.look.paths.shown)
        return drop(m_paths);
    PathKey key{shown.look.paths, shown.picture, {}};
    key.view.ghost = key.view.plain = key.view.tubes = key.view.moving = false; // concern the drawing only
    if (key.view.start == PathStart::Hottest)
        key.sources.hottest = shown.hottest;
    if (key.view.start == PathStart::Section)
        key.sources.section = sectionNamed(shown.sections, key.view.from);
    const auto followed = followedIn(shown.quantities, key.view.quantity, true);
    want(m_paths, key, "Following " + QString::fromStdString(key.view.quantity),
         [key, followed, orders = shown.orders](Progress& progress) -> Result<PathPicture> {
             if (followed)
                 return makePaths(*key.picture, *orders, *followed, key.view, key.sources, progress);
             PathPicture none;
             none.why = "this case has no vectors of " + key.view.quantity;
             return none;
         });
}

void ExtraKeeper::updateArrows(const OnDisplay& shown) {
    if (!shown.look.arrows.shown)
        return drop(m_arrows);
    ArrowKey key{shown.look.arrows, shown.picture, {}};
    if (key.view.sections)
        for (const auto& section : shown.sections)
            if (section.view.shown && section.picture)
                key.sections.push_back(section.picture);
    const auto followed = followedIn(shown.quantities, key.view.quantity, false);
    want(m_arrows, key, "Placing arrows",
         [key, followed, orders = shown.orders](Progress& progress) -> Result<ArrowPicture> {
             if (followed)
                 return makeArrows(*key.picture, *orders, *followed, key.view, key.sections, progress);
             ArrowPicture none;
             none.why = "this case has no vectors of " + key.view.quantity;
             return none;
         });
}

void ExtraKeeper::updateLevels(const OnDisplay& shown) {
    if (shown.surfaces.empty())
        return drop(m_levels);
    const LevelKey key{shown.surfaces, shown.picture, shown.parts};
    want(m_levels, key, "Isotherm surfaces", [key, orders = shown.orders](Progress& progress) {
        return makeLevels(*key.picture, *orders, key.values, key.parts, progress);
    });
}

void ExtraKeeper::updateDeformed(const OnDisplay& shown) {
    const auto& view = shown.look.deformed;
    if (!view.shown)
        return drop(m_deformed);
    const DeformedKey key{shown.picture, shown.moved ? shown.moved->solved : nullptr, view.quantity, view.factor};
    const auto* stored = shown.movedQuantities.named(view.quantity);
    const auto quantity = stored != nullptr ? std::optional(*stored) : std::nullopt;
    want(m_deformed, key, "Deformed shape", [key, moved = shown.moved, quantity](Progress&) -> Result<DeformedPicture> {
        if (moved && quantity)
            return makeDeformed(*key.picture, *moved, *quantity, key.factor);
        DeformedPicture none;
        none.why = moved ? "the case has no \"" + key.quantity + "\"" : "the case is not there yet";
        return none;
    });
}

void ExtraKeeper::updateShell(const OnDisplay& shown) {
    if (!shown.look.shell)
        return drop(m_shell);
    const ShellKey key{shown.picture};
    want(m_shell, key, "Outer shell",
         [key](Progress&) -> Result<ShellPicture> { return makeShell(key.picture->opened); });
}

} // namespace pyro
