#include "app/session/extra_keeper.h"

#include "render/extra_pictures.h"

namespace pyro {
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
        key.sources.section = shownSectionNamed(shown.sections, key.view.from);
    want(m_paths, key, "Following " + QString::fromStdString(key.view.quantity),
         [key, quantities = shown.quantities, orders = shown.orders](Progress& progress) {
             return pathsOf(*key.picture, *orders, quantities, key.view, key.sources, progress);
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
    want(m_arrows, key, "Placing arrows",
         [key, quantities = shown.quantities, orders = shown.orders](Progress& progress) {
             return arrowsOf(*key.picture, *orders, quantities, key.view, key.sections, progress);
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
    want(m_deformed, key, "Deformed shape",
         [key, moved = shown.moved, quantities = shown.movedQuantities](Progress&) -> Result<DeformedPicture> {
             return deformedOf(*key.picture, moved ? &*moved : nullptr, quantities, key.quantity, key.factor);
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
