#include "app/stages/gauges/gauge_choices.h"

#include "core/gauge/where_shape.h"
#include "core/quantities/gauge_quantity.h"
#include "core/quantities/offered_quantities.h"
#include "core/statistics/statistic_kind.h"
#include "render/text.h"

#include <QStandardItemModel>
#include <set>

namespace pyro {

void fillQuantities(QComboBox* box, const Gauge& gauge, const QuantityList& stored) {
    box->clear();
    auto* model = qobject_cast<QStandardItemModel*>(box->model());
    std::string group;
    for (const auto& one : offeredQuantities(gauge, stored)) {
        if (one.group != group) {
            group = one.group;
            box->addItem(q(group).toUpper());
            auto* head = model->item(box->count() - 1);
            head->setEnabled(false);
            auto font = box->font();
            font.setPixelSize(11);
            font.setBold(true);
            head->setFont(font);
        }
        box->addItem(q(one.name).replace('_', ' '), q(one.name));
        auto* item = model->item(box->count() - 1);
        item->setEnabled(one.why.empty());
        item->setToolTip(q(one.why));
        if (!one.why.empty())
            item->setText(item->text() + "   " + q(one.why));
    }
    if (const int at = box->findData(q(gauge.quantity)); at >= 0) {
        box->setCurrentIndex(at);
        // the gauge's own tells its reason in its reading
        model->item(at)->setText(q(gauge.quantity).replace('_', ' '));
    }
}

GaugeChoices statisticsFor(const Gauge& gauge) {
    GaugeChoices all{{"default (mean)", ""}};
    const auto add = [&all](std::string_view name) {
        all.push_back({q(std::string(name)).replace('_', ' '), q(std::string(name))});
    };
    const auto* quantity = gaugeQuantity(gauge.quantity);
    if (quantity != nullptr && !quantity->statistics[0].empty()) {
        all[0].text = "default (" + q(std::string(quantity->statistics[0])) + ")";
        for (const auto name : quantity->statistics)
            if (!name.empty())
                add(name);
        return all;
    }
    for (const auto* kind : statisticKinds()) {
        if (kind->matches == nullptr)
            add(kind->name);
        for (const auto name : kind->offered)
            if (!name.empty())
                add(name);
    }
    return all;
}

namespace {

// What a mean over a place is weighted by.
QString extentWord(const Where& where) {
    const auto found = shapeOf(where);
    if (!found)
        return "volume";
    const auto& shape = found->shape;
    if (std::holds_alternative<LineShape>(shape) || std::holds_alternative<TraceShape>(shape))
        return "length";
    const bool volume = std::holds_alternative<PointShape>(shape) ||
                        (std::holds_alternative<RegionShape>(shape) && found->boundaries.empty());
    return volume ? "volume" : "area";
}

GaugeChoices wordsOf(const GaugeKey& key, const Gauge& gauge) {
    GaugeChoices all;
    if (!key.unsaid.empty())
        all.push_back({q(std::string(key.unsaid)).replace("{extent}", extentWord(gauge.where)), ""});
    const bool asTheyAre = std::ranges::all_of(key.shown, &std::string_view::empty);
    for (std::size_t i = 0; i < key.words.size(); ++i)
        if (const auto text = asTheyAre ? key.words[i] : key.shown[i]; !text.empty())
            all.push_back({q(std::string(text)), q(std::string(key.words[i]))});
    return all;
}

GaugeChoices referencesFor(const Session& session, const Gauge& gauge, const GaugeKey& key) {
    GaugeChoices all{{"", ""}, {"20 degC", "20 degC"}};
    for (const auto& one : session.survey().gauges)
        if (one.id != gauge.id && one.quantity == "temperature" && one.statistic != "profile")
            all.push_back({"gauge " + q(one.id), q(Json{{"gauge", one.id}}.dump())});
    std::set<std::string> openings;
    if (const auto* entry = session.activeEntry())
        for (const auto& [name, note] : entry->boundaries)
            if (note.kind == "inlet" || note.kind == "outlet")
                openings.insert(name);
    if (const auto* state = session.activeCase(); state != nullptr && state->readings && state->readings->balances)
        for (const auto& flow : state->readings->balances->boundaries)
            if (flow.mass.value_or(0) != 0)
                openings.insert(flow.boundary);
    for (const auto& name : openings)
        all.push_back({"bulk of " + q(name), q(Json{{"bulk", name}}.dump())});
    for (const auto& section : session.view().field.sections)
        all.push_back(
            {"bulk of section " + q(section.name), q(Json{{"bulk_at", planeWhere(section.plane, {})}}.dump())});
    if (std::ranges::find(key.words, "distance") != key.words.end())
        all.push_back({"2 mm from the wall", q(Json{{"distance", "2 mm"}}.dump())});
    return all;
}

GaugeChoices otherCasesFor(const Session& session, const GaugeKey& key) {
    GaugeChoices all{{q(std::string(key.unsaid)), ""}};
    for (const auto& entry : session.survey().cases)
        if (&entry != session.activeEntry())
            all.push_back({q(entry.name), q(entry.name)});
    return all;
}

} // namespace

GaugeChoices choicesFor(const Session& session, const Gauge& gauge, const GaugeKey& key) {
    if (key.kind == GaugeKeyKind::OtherCase)
        return otherCasesFor(session, key);
    return key.kind == GaugeKeyKind::Reference ? referencesFor(session, gauge, key) : wordsOf(key, gauge);
}

GaugeChoices sidesFor(const Session& session) {
    GaugeChoices all{{"warm side to cold side", ""}};
    if (const auto* state = session.activeCase(); state != nullptr && state->readings)
        for (const auto& inside : state->readings->environments)
            for (const auto& outside : state->readings->environments)
                if (inside.temperature > outside.temperature)
                    all.push_back({q(inside.name + " to " + outside.name),
                                   q(Json{{"environments", {inside.name, outside.name}}}.dump())});
    return all;
}

} // namespace pyro
