#include "app/session/section_keeper.h"

namespace pyro {
namespace {

bool sameCut(const SectionView& a, const SectionView& b) {
    return a.plane == b.plane && a.exempt == b.exempt && a.name == b.name;
}

} // namespace

bool SectionKeeper::update(const FieldLook& view, const CellOrders* orders,
                           const std::shared_ptr<const FieldPicture>& picture, const std::vector<std::size_t>& parts) {
    const bool sameField = picture == m_picture && parts == m_parts;
    bool changed = view.sections.size() != m_shown.size();
    std::vector<ShownSection> next;
    for (std::size_t i = 0; i < view.sections.size(); ++i) {
        const auto& wanted = view.sections[i];
        const auto* known = sameField && i < m_shown.size() && m_shown[i].picture && sameCut(m_shown[i].view, wanted)
                                ? &m_shown[i]
                                : nullptr;
        next.push_back({wanted, known != nullptr ? known->picture : nullptr});
        if (known == nullptr && wanted.shown && orders != nullptr && picture)
            next.back().picture = std::make_shared<const SectionPicture>(
                makeSection(picture->opened, *orders, *picture, wanted, parts));
        changed = changed || next[i].picture != m_shown[i].picture || !(next[i].view == m_shown[i].view);
    }
    m_shown = std::move(next);
    m_picture = picture;
    m_parts = parts;
    return changed;
}

} // namespace pyro
