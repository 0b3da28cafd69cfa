// Keeps the pictures of the sections on display and makes anew only those that changed, so that a drag pays for one.
#pragma once

#include "core/survey/view_state.h"
#include "render/field_scene.h"

namespace pyro {

class SectionKeeper {
public:
    // `orders` and `picture` may be missing while they are made. True when anything changed.
    bool update(const FieldLook& view, const CellOrders* orders, const std::shared_ptr<const FieldPicture>& picture,
                const std::vector<std::size_t>& parts);
    const std::vector<ShownSection>& shown() const { return m_shown; }

private:
    std::vector<ShownSection> m_shown; // as in the view, one by one
    std::shared_ptr<const FieldPicture> m_picture;
    std::vector<std::size_t> m_parts;
};

} // namespace pyro
