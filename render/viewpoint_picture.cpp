#include "render/viewpoint_picture.h"

#include "core/survey/survey_file.h"
#include "render/scaled_picture.h"
#include "render/seen.h"

#include <fmt/format.h>

namespace pyro {
namespace {

constexpr int scaleBand = 54; // pixels beneath the picture that withScale adds

Result<const CaseEntry*> entryOf(const ViewpointWish& wish) {
    const auto& survey = wish.survey;
    const auto& own = !wish.caseName.empty() ? wish.caseName : wish.viewpoint.view.caseName;
    const auto* entry = !own.empty() ? survey.caseNamed(own) : survey.cases.empty() ? nullptr : &survey.cases.front();
    if (entry == nullptr && wish.caseName.empty() && !wish.viewpoint.withCase && !survey.cases.empty())
        entry = &survey.cases.front(); // a viewpoint works on any case
    if (entry == nullptr)
        return fail(ErrorCode::NameUnknown, fmt::format("the survey has no case \"{}\"", own), wish.viewpoint.name,
                    "Choose one of its cases");
    return entry;
}

std::string captionOf(const Survey& survey, const CaseEntry& entry, const FirstLook& look, const Quantity& quantity,
                      const std::string& component) {
    auto name = quantity.name + (quantity.components == 3 && !component.empty() ? " along " + component : "");
    std::ranges::replace(name, '_', ' ');
    const auto& step = look.series.steps[static_cast<std::size_t>(look.step)].step;
    return fmt::format("{}, {}: {}{}", survey.title, entry.name, name,
                       step.time && look.series.steps.size() > 1 ? fmt::format(", t = {:g} s", *step.time) : "");
}

} // namespace

Result<QImage> drawViewpoint(Headless& headless, const ViewpointWish& wish, Progress& progress) {
    const auto entry = entryOf(wish);
    if (!entry)
        return tl::unexpected(entry.error());
    auto survey = wish.survey;
    survey.view = wish.viewpoint.view;
    const auto& view = survey.view;
    LookWish asked{besideSurvey((*entry)->file, wish.folder), (*entry)->series};
    asked.step = wish.step ? wish.step : wish.viewpoint.withCase ? view.step : std::nullopt;
    asked.choices = (*entry)->quantities;
    asked.quantity = view.quantity;
    asked.component = componentNamed(view.component);
    asked.split = (*entry)->wholeSplit();
    SubProgress looking(progress, 0, 0.5);
    auto look = firstLook(asked, looking);
    if (!look)
        return tl::unexpected(look.error());
    if (!look->picture)
        return fail(ErrorCode::NotSupported, "the case has no field to draw", (*entry)->file);
    SubProgress measuring(progress, 0.5, 0.8);
    auto opened = measured(look->opened, measuring);
    if (!opened)
        return tl::unexpected(opened.error());
    const auto quantities = recognise(*opened->solved, (*entry)->quantities);
    SubProgress drawing(progress, 0.8, 1);
    auto made = makePicture(*opened, look->picture->quantity, look->picture.get(), drawing, asked.component);
    if (!quantities || !made)
        return tl::unexpected(quantities ? made.error() : quantities.error());
    const auto picture = std::make_shared<const FieldPicture>(std::move(*made));
    const Seen seen{survey, survey.caseNamed((*entry)->name), &*opened, &*quantities, wish.readings, picture};
    const auto visible = visibleParts(seen);
    FieldScene scene;
    scene.setLightGround(wish.light);
    scene.show(picture);
    for (std::size_t part = 0; part < opened->solved->parts.size(); ++part) {
        const auto opacity = view.opacity.find(opened->solved->parts[part].name);
        scene.setPart(part, std::ranges::find(visible, part) != visible.end(),
                      opacity == view.opacity.end() ? 1.0 : opacity->second);
    }
    const auto range = shownRange(seen);
    if (range)
        scene.setRange((*range)[0], (*range)[1], view.field.strip, isLogarithmic(seen));
    if (const auto orders = view.field.sections.empty() ? Result<CellOrders>(CellOrders{})
                                                        : makeOrders(*opened, drawing);
        orders && !view.field.sections.empty()) {
        std::vector<ShownSection> sections;
        for (const auto& one : view.field.sections)
            sections.push_back({one, one.shown ? std::make_shared<const SectionPicture>(
                                                     makeSection(*opened, *orders, *picture, one, visible))
                                               : nullptr});
        scene.setSections(sections);
    }
    scene.setGround(view.field.isotherms.ground, materialGroups(seen));
    scene.setIsotherms(isothermRule(seen));
    scene.setBoundaries(shownBoundaries(seen));
    const QSize inner(wish.size.width(), std::max(64, wish.size.height() - static_cast<int>(scaleBand * wish.ratio)));
    auto image = headless.draw(scene, inner, [&] {
        if (view.camera)
            scene.setCamera(*view.camera);
        else
            scene.fitFirst();
    });
    image.setDevicePixelRatio(wish.ratio);
    if (!range)
        return image;
    const auto unit = unitOf(seen);
    return withScale(image, {captionOf(survey, **entry, *look, picture->quantity, view.component),
                             unitText(unit.symbol()),
                             {unit.of((*range)[0]), unit.of((*range)[1])},
                             isLogarithmic(seen),
                             view.field.strip,
                             wish.light});
}

} // namespace pyro
