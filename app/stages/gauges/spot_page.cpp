#include "app/stages/gauges/spot_page.h"

#include "core/survey/gauge_edit.h"
#include "core/units/millimetres.h"
#include "core/units/unit.h"
#include "render/text.h"

#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr int slotCount = 100;

QString seconds(const std::optional<double>& time) { return time ? q(fmt::format("{:.4g} s", *time)) : QString(); }

} // namespace

SpotPage::SpotPage(Session& session, QWidget* parent)
    : LedgerPage("", parent), m_session(session), m_slider(new QSlider(Qt::Horizontal)), m_least(new QLabel) {
    m_spots = addTable("spotTable", "Hotspots");
    m_path = addTable("pathTable", "Thermal path");
    m_tracks = addTable("trackTable", "Tracks");
    m_least->setObjectName("prominenceText");
    m_least->setToolTip("Least prominence of the hotspots listed, and how many there are");
    m_slider->setObjectName("prominenceSlider");
    m_slider->setRange(0, slotCount);
    m_slider->setFixedWidth(40);
    m_slider->setToolTip("Least prominence of hotspots");
    addTool(m_least);
    addTool(m_slider);
    auto* lines = addLink("fluxLines", "Draw lines");
    lines->setToolTip("Heat flux lines from the chosen hotspot to where its heat leaves");
    connect(lines, &QPushButton::clicked, this, &SpotPage::drawFluxLines);
    const auto showTools = [this, lines](int table) { // each table has its own
        m_least->setVisible(table == 0);
        m_slider->setVisible(table == 0);
        lines->setVisible(table == 1);
    };
    connect(this, &LedgerPage::tableShown, this, showTools);
    showTools(0);
    connect(view("spotTable")->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            [this](const QModelIndex& row) { choose(row.row()); });
    connect(m_slider, &QSlider::valueChanged, this, &SpotPage::slide);
    connect(m_slider, &QSlider::sliderReleased, this, &SpotPage::keepProminence);
}

const GaugeReading* SpotPage::reading() const {
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->readings)
        return nullptr;
    const auto found = std::ranges::find(state->readings->gauges, m_session.selection().selectedGauge(),
                                         &GaugeReading::id);
    return found == state->readings->gauges.end() || !found->derivation ? nullptr : &*found;
}

const std::vector<Spot>& SpotPage::spots() const {
    static const std::vector<Spot> none;
    const auto* one = reading();
    return one != nullptr ? one->derivation->spots : none;
}

void SpotPage::fill() {
    m_chosen = std::clamp(m_chosen, 0, std::max(0, static_cast<int>(spots().size()) - 1));
    fillSpots();
    fillPath();
    fillTracks();
}

// The first stands out by the whole range; the slider goes down to a thousandth of that.
double SpotPage::prominenceAt(int position) const {
    return spots().empty()
               ? 0
               : spots().front().prominence * std::pow(10.0, -3.0 * (1 - static_cast<double>(position) / slotCount));
}

void SpotPage::slide(int position) {
    const double least = prominenceAt(position);
    const auto left = std::ranges::count_if(spots(), [&](const Spot& spot) { return spot.prominence >= least; });
    m_least->setText(q(fmt::format("\u2265 {:.3g} K: {}{}", least, left,
                                   spots().empty() || spots().back().prominence > 1.001 * least ? " or more" : "")));
    m_session.selection().setSpotFloor(least);
    if (!m_slider->isSliderDown())
        keepProminence();
}

void SpotPage::keepProminence() {
    const auto at = m_session.selection().selectedGaugeAt();
    const auto* one = reading();
    if (!at || one == nullptr)
        return;
    const auto unit = one->isTemperature ? std::string("K") : one->unit;
    const auto kelvin = one->isTemperature ? conversion(one->unit, "K") : Result<Affine>(Affine{});
    const double least = kelvin ? kelvin->difference(prominenceAt(m_slider->value())) : prominenceAt(m_slider->value());
    m_session.editOrComplain("Prominence of hotspots", withGaugeKey(m_session.survey(), *at, "prominence",
                                                                    fmt::format("{:.4g} {}", least, unit)));
}

void SpotPage::fillSpots() {
    const auto* one = reading();
    if (one == nullptr)
        return m_spots->reset(0, {{"No.", {}}});
    const auto& derivation = one->derivation;
    m_spots->reset(shownSpots(*m_session.activeEntry(), *m_session.activeCase()->readings, *one),
                   {34, 60, 68, 90, 78, 92, 92, 76});
    const QSignalBlocker quiet(m_slider);
    const auto kept = optionalProminence();
    if (kept && !m_slider->isSliderDown() && !derivation->spots.empty())
        m_slider->setValue(static_cast<int>(
            std::lround(slotCount * (1 + std::log10(*kept / derivation->spots.front().prominence) / 3))));
    if (!m_slider->isSliderDown())
        m_least->setText(kept ? q(fmt::format("\u2265 {:.3g} K: {}", *kept, derivation->spots.size()))
                              : q(fmt::format("{} found", derivation->spots.size())));
}

std::optional<double> SpotPage::optionalProminence() const {
    const auto at = m_session.selection().selectedGaugeAt();
    if (!at)
        return std::nullopt;
    const auto number = splitMeasured(gaugeKey(m_session.survey().gauges[*at], "prominence"));
    return number && number->value > 0 ? std::optional(number->value) : std::nullopt;
}

void SpotPage::choose(int row) {
    if (row < 0 || static_cast<std::size_t>(row) >= spots().size())
        return;
    m_chosen = row;
    emit placeRequested(spots()[static_cast<std::size_t>(row)].at);
    fillPath();
}

// Where the heat of the chosen spot goes: neighbours with their share first, then leg by leg along the largest.
void SpotPage::fillPath() {
    const auto* one = reading();
    const auto refuse = [this](const QString& why) {
        m_path->reset(1, {{"Thermal path", [why](int) { return why; }}});
    };
    if (one == nullptr || spots().empty())
        return refuse("There is no hotspot.");
    const auto& readings = *m_session.activeCase()->readings;
    const auto& spot = spots()[static_cast<std::size_t>(m_chosen)];
    const auto kelvin = conversion(one->unit, "K");
    if (!kelvin || !one->isTemperature)
        return refuse("A thermal path begins at a hotspot of temperature.");
    auto path = heatPath(readings, readings.parts[spot.part].name, (*kelvin)(spot.value));
    if (!path)
        return refuse(q(path.error().what + (path.error().remedy.empty() ? "" : ". " + path.error().remedy)));
    const auto shared = std::make_shared<HeatPath>(std::move(*path));
    const auto entry = std::make_shared<CaseEntry>(*m_session.activeEntry());
    const auto first = static_cast<int>(shared->neighbours.size());
    const auto leg = [shared, first](int row) -> const PathLeg* {
        return row >= first ? &shared->legs[static_cast<std::size_t>(row - first)] : nullptr;
    };
    const auto link = [shared](int row) -> const PartLink& {
        return shared->neighbours[static_cast<std::size_t>(row)];
    };
    const auto number = [](const std::optional<double>& value, const char* format) {
        return value ? q(fmt::format(fmt::runtime(format), *value)) : QString("unknown");
    };
    const auto words = [entry, leg, link, shared, first](int row) {
        if (const auto* here = leg(row)) {
            const auto way = here->kind == LegKind::Within ? "within " + q(shownName(*entry, here->from))
                             : here->kind == LegKind::Across
                                 ? "from " + q(shownName(*entry, here->from)) + " to " + q(shownName(*entry, here->to))
                                 : "out through " + q(here->to);
            return shared->largestDrop && row - first == static_cast<int>(*shared->largestDrop)
                       ? way + " \u2013 largest drop"
                       : way;
        }
        return "leaves to " + (link(row).toBoundary ? q(link(row).to) : q(shownName(*entry, link(row).to)));
    };
    m_path->reset(
        first + static_cast<int>(shared->legs.size()),
        {{QString("From hotspot %1").arg(m_chosen + 1), words, false, {}, {}, {}, {}, 206},
         {"Drop, K",
          [leg, number](int row) { return leg(row) != nullptr ? number(leg(row)->drop, "{:.3g}") : QString(); },
          true,
          {},
          {},
          {},
          {},
          64},
         {"K/W",
          [leg, number](int row) { return leg(row) != nullptr ? number(leg(row)->resistance, "{:.3g}") : QString(); },
          true,
          {},
          {},
          {},
          {},
          60},
         {"Heat, W",
          [leg, link](int row) {
              return q(fmt::format("{:.4g}", leg(row) != nullptr ? leg(row)->heat : link(row).heat));
          },
          true,
          {},
          {},
          {},
          {},
          64},
         {"Share",
          [leg, link](int row) {
              return q(formatShare(leg(row) != nullptr ? leg(row)->share : link(row).share.value_or(0)));
          },
          true}});
}

void SpotPage::fillTracks() {
    const auto* state = m_session.activeCase();
    const auto at = m_session.selection().selectedGaugeAt();
    if (state == nullptr || !state->opened || !state->history || !at || state->history->size() < 2)
        return m_tracks->reset(
            1, {{"Tracks", [](int) { return QString("Hotspots are followed where the case has several steps."); }}});
    std::vector<double> extent;
    for (const auto& part : state->opened->index->parts)
        extent.push_back(std::max({part.box[1] - part.box[0], part.box[3] - part.box[2], part.box[5] - part.box[4]}));
    const auto tracks = std::make_shared<std::vector<SpotTrack>>(spotTracks(*at, *state->history, extent));
    const auto entry = std::make_shared<CaseEntry>(*m_session.activeEntry());
    const auto track = [tracks](int row) -> const SpotTrack& { return (*tracks)[static_cast<std::size_t>(row)]; };
    m_tracks->reset(
        static_cast<int>(tracks->size()),
        {{"Part",
          [track, entry](int row) { return q(shownName(*entry, track(row).partName)); },
          false,
          {},
          {},
          {},
          {},
          110},
         {"First seen", [track](int row) { return seconds(track(row).born); }, true, {}, {}, {}, {}, 72},
         {"Last seen",
          [track](int row) { return track(row).gone ? seconds(track(row).gone) : QString("still there"); },
          true,
          {},
          {},
          {},
          {},
          72},
         {"Steps", [track](int row) { return QString::number(track(row).steps.size()); }, true, {}, {}, {}, {}, 50},
         {"Highest",
          [track](int row) { return q(fmt::format("{:.4g}", track(row).value[track(row).hottest])); },
          true,
          {},
          {},
          {},
          {},
          66},
         {"In step",
          [track](int row) { return QString::number(track(row).steps[track(row).hottest] + 1); },
          true,
          {},
          {},
          {},
          {},
          56},
         {"Displacement",
          [track](int row) { return q(fmt::format("{:.3g} mm", 1e3 * track(row).moved)); },
          true,
          {},
          {},
          {},
          {},
          76},
         {"Last at, mm", [track](int row) { return q(placeInMillimetres(track(row).path.back())); }}});
}

void SpotPage::drawFluxLines() {
    if (static_cast<std::size_t>(m_chosen) >= spots().size())
        return;
    const auto& spot = spots()[static_cast<std::size_t>(m_chosen)];
    auto view = m_session.view();
    auto& paths = view.field.paths;
    if (paths.shown && paths.start == PathStart::Place && paths.at == spot.at) {
        paths.shown = false;
    } else {
        paths.shown = true;
        paths.quantity = "heat_flux";
        paths.start = PathStart::Place;
        paths.at = spot.at;
        paths.radius = std::cbrt(std::max(spot.size, 1e-15)) / 2;
        paths.forwards = true;
        paths.backwards = false;
    }
    m_session.editView("Heat flux lines of a hotspot", view);
}

} // namespace pyro
