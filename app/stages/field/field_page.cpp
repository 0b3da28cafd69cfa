#include "app/stages/field/field_page.h"

#include "app/stages/field/section_card.h"
#include "core/units/millimetres.h"
#include "render/text.h"

#include <QHeaderView>
#include <fmt/format.h>

namespace pyro {
namespace {

QString placeText(const std::optional<Place>& place) {
    return place ? q(placeInMillimetres(place->at)) + " mm" : QString();
}

} // namespace

FieldPage::FieldPage(Session& session, QWidget* parent)
    : LedgerPage("Temperature of sections, parts and boundaries", parent), m_session(session) {
    m_readings = addTable("readingsTable");
    addCopyLink("copyTable");
    connect(view("readingsTable")->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            [this](const QModelIndex& row) {
                if (row.isValid())
                    choose(static_cast<std::size_t>(row.row()));
            });
    session.listen(this, Changes(Change::Cases) | Change::Survey | Change::View | Change::Readings, &FieldPage::fill);
    fill();
}

void FieldPage::choose(std::size_t row) {
    const auto* state = m_session.activeCase();
    if (row < m_sectionRows.size())
        m_session.selection().selectSection(m_sectionRows[row]);
    else if (state != nullptr && state->readings && row - m_sectionRows.size() < state->readings->parts.size())
        m_session.selection().selectPart(state->readings->parts[row - m_sectionRows.size()].name);
}

// Of the quantity on display; the picture carries its values.
void FieldPage::fill() {
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->picture || !m_session.activeEntry())
        return m_readings->reset(0, {{"Place", {}}});
    struct Row {
        QString place;
        QString type;
        std::optional<double> min; // SI
        std::optional<double> mean;
        std::optional<double> max;
        QString at;
        QString note;
    };
    auto rows = std::make_shared<std::vector<Row>>();
    m_sectionRows.clear();
    for (std::size_t i = 0; i < m_session.sections().size(); ++i)
        if (const auto& section = m_session.sections()[i]; section.picture && section.view.shown) {
            m_sectionRows.push_back(i);
            const auto& cut = *section.picture;
            rows->push_back(
                {q(cut.name), "section", cut.min, cut.mean, cut.max, placeOfPlane(section.view.plane),
                 cut.empty() ? QString("misses the visible parts")
                             : q(formatExtent(cut.area, 2) +
                                 (cut.withValues < (1 - 1e-9) * cut.area
                                      ? fmt::format(", mean over the {} that have it", formatExtent(cut.withValues, 2))
                                      : ", linear within cells"))});
        }
    // What was made of faces that a file with boundaries leaves unnamed would hide those that it names.
    const auto told = std::min(state->picture->regions.size(),
                               state->opened->solved->parts.size() + state->opened->solved->passable());
    for (const auto& region : std::span(state->picture->regions).first(told))
        rows->push_back(
            {region.boundary ? q(region.name) : q(shownName(*m_session.activeEntry(), region.name)),
             region.boundary ? "boundary" : "part", region.min, region.mean, region.max, placeText(region.highest),
             !region.why.empty()
                 ? "no " + writtenName(state->picture->quantity, m_session.view().component).toLower() + " here"
             : region.highest ? q("stored on " + std::string(locationName(region.highest->on)) + "s")
                              : QString()});
    const auto at = [rows](int row) -> const Row& { return (*rows)[static_cast<std::size_t>(row)]; };
    const auto unit = m_session.unit();
    const auto number = [at, unit](std::optional<double> Row::*of) {
        return [at, unit, of](int row) { return at(row).*of ? q(unit.number(*(at(row).*of))) : QString("\u2013"); };
    };
    const auto symbol = " " + q(unitText(unit.symbol()));
    setTitle(writtenName(state->picture->quantity, m_session.view().component) + " of sections, parts and boundaries");
    m_readings->reset(static_cast<int>(rows->size()), {{"Place", [at](int row) { return at(row).place; }},
                                                       {"Type", [at](int row) { return at(row).type; }},
                                                       {"Lowest" + symbol, number(&Row::min), true},
                                                       {"Mean" + symbol, number(&Row::mean), true},
                                                       {"Highest" + symbol, number(&Row::max), true},
                                                       {"Highest at x y z", [at](int row) { return at(row).at; }, true},
                                                       {"Note", [at](int row) { return at(row).note; }}});
}

} // namespace pyro
