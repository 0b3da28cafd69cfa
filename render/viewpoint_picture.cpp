#include "render/viewpoint_picture.h"

#include "render/extra_pictures.h"
#include "render/part_labels.h"
#include "render/pinned_labels.h"
#include "render/seen.h"
#include "render/text.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

// "temperature, t = 40 s".
std::string quantityText(const DrawnCase& shown, const Quantity& quantity, const std::string& component) {
    auto name = quantity.name + (quantity.components == 3 && !component.empty() ? " along " + component : "");
    std::ranges::replace(name, '_', ' ');
    return shown.when.empty() ? name : fmt::format("{}, {}", name, shown.when);
}

// Whether anything is cut, followed or read within the cells.
bool meetsCells(const FieldLook& look) {
    return !look.sections.empty() || look.paths.shown || look.arrows.shown || !look.labels.empty();
}

// Draws one viewpoint; a step of it after the other, so that each may fail by itself.
class ViewpointDrawing {
public:
    ViewpointDrawing(Headless& headless, DrawnCase& shown, const ViewpointWish& wish)
        : m_headless(headless), m_case(shown), m_wish(wish), m_survey(wish.survey) {
        m_survey.view = wish.viewpoint.view;
    }

    Result<PictureSheet> draw(Progress& progress) {
        const auto& view = m_survey.view;
        SubProgress measuring(progress, 0, 0.4);
        SubProgress picturing(progress, 0.4, 0.6);
        SubProgress adding(progress, 0.6, 0.9);
        const bool within = meetsCells(view.field) || !isolineValues(seen()).surfaces.empty();
        if (within && !m_case.isMeasured) {
            auto measuredCase = measured(m_case.opened, measuring);
            if (!measuredCase)
                return tl::unexpected(measuredCase.error());
            m_case.opened = std::move(*measuredCase);
            m_case.isMeasured = true;
        }
        if (auto made = takePicture(picturing); !made)
            return tl::unexpected(made.error());
        m_visible = visibleParts(seen());
        if (within) {
            auto orders = makeOrders(m_case.opened, adding);
            if (!orders)
                return tl::unexpected(orders.error());
            m_orders = std::move(*orders);
        }
        showSurfaces();
        if (auto added = addWithin(adding); !added)
            return tl::unexpected(added.error());
        return take();
    }

private:
    Seen seen() const {
        return {m_survey,        m_survey.caseNamed(m_case.entry.name),
                &m_case.opened,  &m_case.quantities,
                m_wish.readings, m_case.picture};
    }

    // Of the viewpoint's quantity; what the last picture holds already is taken from it.
    Done takePicture(Progress& progress) {
        const auto& view = m_survey.view;
        const auto* wanted = m_case.quantities.named(view.quantity);
        const auto quantity = wanted != nullptr ? *wanted : m_case.picture->quantity;
        const auto component = componentNamed(view.component);
        const bool same = m_case.picture->quantity.array == quantity.array &&
                          m_case.picture->quantity.on == quantity.on && m_case.picture->component == component &&
                          m_case.picture->opened.index == m_case.opened.index;
        if (same)
            return {};
        auto made = makePicture(m_case.opened, quantity, m_case.picture.get(), progress, component);
        if (!made)
            return tl::unexpected(made.error());
        m_case.picture = std::make_shared<const FieldPicture>(std::move(*made));
        return {};
    }

    void showSurfaces() {
        const auto& view = m_survey.view;
        m_scene.setLightGround(m_wish.look.ground != SheetGround::Graphite);
        m_scene.show(m_case.picture);
        const auto& parts = m_case.opened.solved->parts;
        for (std::size_t part = 0; part < parts.size(); ++part) {
            const auto opacity = view.opacity.find(parts[part].name);
            m_scene.setPart(part, std::ranges::find(m_visible, part) != m_visible.end(),
                            opacity == view.opacity.end() ? 1.0 : opacity->second);
        }
        m_range = shownRange(seen());
        if (m_range)
            m_scene.setRange((*m_range)[0], (*m_range)[1], view.field.strip, isLogarithmic(seen()));
        m_scene.setGround(view.field.isotherms.ground, materialGroups(seen()));
        if (view.field.shell)
            m_scene.setShell(std::make_shared<const ShellPicture>(makeShell(m_case.opened)));
        m_scene.setBoundaries(shownBoundaries(seen()));
    }

    // Sections, curves, arrows, surfaces of equal value, the deformed shape; then the isotherms on all of them.
    Done addWithin(Progress& progress) {
        const auto& look = m_survey.view.field;
        const auto& picture = *m_case.picture;
        if (m_orders) {
            for (const auto& one : look.sections)
                m_sections.push_back({one, one.shown ? std::make_shared<const SectionPicture>(makeSection(
                                                           m_case.opened, *m_orders, picture, one, m_visible))
                                                     : nullptr});
            m_scene.setSections(m_sections);
        }
        if (m_orders && look.paths.shown) {
            const PathSources sources{hottestVisible(seen()), shownSectionNamed(m_sections, look.paths.from)};
            auto paths = pathsOf(picture, *m_orders, m_case.quantities, look.paths, sources, progress);
            if (!paths)
                return tl::unexpected(paths.error());
            m_scene.setPaths(std::make_shared<const PathPicture>(std::move(*paths)), look.paths);
        }
        if (m_orders && look.arrows.shown) {
            std::vector<std::shared_ptr<const SectionPicture>> sections;
            if (look.arrows.sections)
                for (const auto& one : m_sections)
                    if (one.view.shown && one.picture)
                        sections.push_back(one.picture);
            auto arrows = arrowsOf(picture, *m_orders, m_case.quantities, look.arrows, sections, progress);
            if (!arrows)
                return tl::unexpected(arrows.error());
            m_scene.setArrows(std::make_shared<const ArrowPicture>(std::move(*arrows)));
        }
        if (const auto levels = isolineValues(seen()).surfaces; m_orders && !levels.empty()) {
            auto made = makeLevels(picture, *m_orders, levels, m_visible, progress);
            if (!made)
                return tl::unexpected(made.error());
            m_scene.setLevels(std::make_shared<const LevelPicture>(std::move(*made)));
        }
        if (look.deformed.shown)
            if (auto moved = deform(progress); !moved)
                return moved;
        m_scene.setIsotherms(isothermRule(seen())); // on the faces where they stand now
        return {};
    }

    Done deform(Progress& progress) {
        const auto& look = m_survey.view.field.deformed;
        std::optional<DrawnCase> other;
        if (!look.caseName.empty() && look.caseName != m_case.entry.name) {
            if (!m_wish.otherCase)
                return {};
            auto opened = m_wish.otherCase(look.caseName, progress);
            if (!opened)
                return tl::unexpected(opened.error());
            other = std::move(*opened);
        }
        const auto& moved = other ? *other : m_case;
        m_scene.setDeformed(std::make_shared<const DeformedPicture>(deformedOf(
                                *m_case.picture, &moved.opened, moved.quantities, look.quantity, look.factor)),
                            look.ghost);
        return {};
    }

    PictureSheet take() {
        PictureSheet sheet;
        if (m_range)
            sheet.scale = scale();
        const auto size = viewSize(m_wish.size, m_wish.look, m_wish.hasLegend,
                                   sheet.scale && !sheet.scale->marks.empty());
        const auto aim = [&] {
            if (m_survey.view.camera)
                m_scene.setCamera(*m_survey.view.camera);
            else
                m_scene.fitFirst();
        };
        sheet.view = m_headless.draw(
            m_scene, size, aim, [&] { label(sheet, size); }, m_wish.look.ground == SheetGround::Transparent);
        return sheet;
    }

    void label(PictureSheet& sheet, const QSize& size) {
        const int height = size.height();
        const auto pinned = m_orders ? readLabels(*m_case.picture, *m_orders, m_survey.view.field.labels)
                                     : std::vector<PinnedLabel>();
        for (const auto& one : pinned)
            if (one.value) {
                const auto pixel = m_scene.toPixel(one.at);
                sheet.labels.push_back({{pixel[0], height - pixel[1]}, q(unitOf(seen()).text(*one.value))});
            }
        if (!m_wish.namesParts && !m_wish.hasLegend)
            return;
        const bool toned = m_survey.view.field.isotherms.ground == Ground::Materials;
        const auto groups = materialGroups(seen());
        for (const auto part : m_visible) {
            const auto name = q(shownName(m_case.entry, m_case.opened.solved->parts[part].name));
            const auto at = placeOfPart(m_scene, *m_case.picture, part, size);
            if (!at)
                continue; // hidden by others
            auto words = name;
            if (m_wish.hasLegend) {
                words = QString::number(sheet.legend.size() + 1);
                LegendEntry entry{words + "  " + name, {}};
                if (toned) {
                    const auto tone = materialTone(groups[part]);
                    entry.tone = QColor::fromRgbF(static_cast<float>(tone[0]), static_cast<float>(tone[1]),
                                                  static_cast<float>(tone[2]));
                }
                sheet.legend.push_back(entry);
            }
            if (m_wish.namesParts)
                sheet.labels.push_back({{(*at)[0], height - (*at)[1]}, words});
        }
    }

    // With the allowed temperatures of the visible parts.
    ScaleCaption scale() const {
        auto out = *scaleOf(seen());
        out.about = quantityText(m_case, m_case.picture->quantity, m_survey.view.component);
        out.caption = fmt::format("{}, {}: {}", m_survey.title, m_case.entry.name, out.about);
        const auto unit = unitOf(seen());
        if (m_case.picture->quantity.siUnit == "K")
            for (const auto part : m_visible) {
                const auto& name = m_case.opened.solved->parts[part].name;
                for (const double level : limitLevels(m_survey, name))
                    out.marks.push_back({unit.of(level), shownName(m_case.entry, name)});
            }
        return out;
    }

    Headless& m_headless;
    DrawnCase& m_case;
    const ViewpointWish& m_wish;
    Survey m_survey;
    FieldScene m_scene;
    std::vector<std::size_t> m_visible;
    std::optional<CellOrders> m_orders;
    std::vector<ShownSection> m_sections;
    std::optional<std::array<double, 2>> m_range;
};

} // namespace

Result<const CaseEntry*> caseOfViewpoint(const Survey& survey, const Viewpoint& viewpoint, const std::string& named) {
    const auto& own = !named.empty() ? named : viewpoint.view.caseName;
    const auto* entry = !own.empty() ? survey.caseNamed(own) : survey.cases.empty() ? nullptr : &survey.cases.front();
    if (entry == nullptr && named.empty() && !viewpoint.withCase && !survey.cases.empty())
        entry = &survey.cases.front(); // a viewpoint works on any case
    if (entry == nullptr)
        return fail(ErrorCode::NameUnknown, fmt::format("the survey has no case \"{}\"", own), viewpoint.name,
                    "Choose one of its cases");
    return entry;
}

Result<PictureSheet> drawViewpoint(Headless& headless, DrawnCase& shown, const ViewpointWish& wish,
                                   Progress& progress) {
    return ViewpointDrawing(headless, shown, wish).draw(progress);
}

} // namespace pyro
