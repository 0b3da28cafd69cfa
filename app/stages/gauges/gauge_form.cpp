#include "app/stages/gauges/gauge_form.h"

#include "app/stages/gauges/gauge_choices.h"
#include "app/stages/gauges/layers_dialog.h"
#include "app/theme/unit_field.h"
#include "core/evaluate/over_steps.h"
#include "core/gauge/formula.h"
#include "core/gauge/where_shape.h"
#include "core/quantities/gauge_keys.h"
#include "core/quantities/gauge_quantity.h"
#include "core/survey/gauge_edit.h"
#include "core/survey/gauge_places.h"
#include "core/survey/typed_unit.h"
#include "core/units/typographic.h"
#include "render/text.h"

#include <QAbstractItemView>
#include <QCompleter>
#include <QKeyEvent>
#include <QStringListModel>
#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr std::size_t mostPlaces = 6; // of a polyline; more are not typed one by one

void setText(QLineEdit* edit, const QString& text) {
    if (!edit->hasFocus() && edit->text() != text)
        edit->setText(text);
}

// The choice with this data; what is none of them is shown as it is written.
void setChoice(QComboBox* box, const std::string& value) {
    const int at = box->findData(q(value));
    if (at >= 0)
        box->setCurrentIndex(at);
    else if (box->isEditable())
        box->setEditText(q(value));
}

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

} // namespace

GaugeForm::GaugeForm(Session& session, QWidget* parent)
    : QFrame(parent), m_session(session), m_grid(new QGridLayout(this)) {
    setObjectName("card");
    m_grid->setContentsMargins(10, 8, 8, 8);
    m_grid->setHorizontalSpacing(6);
    m_grid->setVerticalSpacing(5);
    m_grid->setColumnStretch(1, 1);
    m_reading = new QLabel;
    m_reading->setWordWrap(true);
    m_reading->setObjectName("gaugeReading");
    m_grid->addWidget(m_reading, 0, 0, 1, 2);
    m_name = line("gaugeName", "Name", "A letter, then letters, digits and _; formulas use it");
    m_place = new QLabel;
    m_place->setObjectName("hint");
    m_place->setWordWrap(true);
    addRow("Place", m_place);
    m_formula = line("gaugeFormula", "Formula", "Other gauges by name, numbers with a quoted unit: 4186 'J/(kg.K)'");
    m_formulaState = new QLabel;
    m_formulaState->setObjectName("hint");
    m_formulaState->setWordWrap(true);
    addRow("", m_formulaState);
    m_quantity = choice("gaugeQuantity", "Quantity");
    for (std::size_t i = 0; i < mostPlaces; ++i)
        m_places.push_back(line(fmt::format("gaugePlace{}", i).c_str(), "",
                                "Three coordinates with their unit: 12, 0, 3 mm; a normal as a direction: 0, 0, 1"));
    m_component = choice("gaugeComponent", "Component");
    m_statistic = choice("gaugeStatistic", "Statistic", true);
    m_of = choice("gaugeOf", "Boundary layer of");
    m_weight = choice("gaugeWeight", "Weight");
    m_method = choice("gaugeMethod", "Heat flux method");
    m_reference = choice("gaugeReference", "Reference temperature", true);
    m_wall = choice("gaugeWall", "Wall", true);
    m_complement = choice("gaugeComplement", "Form");
    m_length = line("gaugeLength", "Length",
                    "Of the body or tube, with its unit: 8 mm; local: the distance from the start of the line");
    m_speed = line("gaugeSpeed", "Speed", "Of the flow, with its unit: 0.2 m/s");
    m_power = line("gaugePower", "Divided by power", "With its unit: 12 W; empty: that of the part");
    m_conductivity = line("gaugeConductivity", "Conductivity", "With its unit; empty: that of the part behind");
    m_space = choice("gaugeSpace", "Statistic in space");
    m_level = line("gaugeLevel", "Level", "With its unit: 85 degC");
    m_final = line("gaugeFinal", "Final value", "That the history approaches, with its unit; empty: extrapolated");
    m_share = line("gaugeShare", "Share of free value", "Where a boundary layer ends: 0.99");
    m_free = line("gaugeFree", "Free value",
                  "Outside of the boundary layer, with its unit; empty: at the end of the line");
    m_together = new QCheckBox("For all transmittances");
    m_together->setObjectName("gaugeTogether");
    m_together->setToolTip("What is set below goes to every transmittance that reads it: environments, dimensions, "
                           "air, humidities, outside");
    addRow("", m_together);
    m_layers = new QPushButton("Layers\u2026");
    m_layers->setObjectName("gaugeLayers");
    addRow("Layers", m_layers);
    m_sides = choice("gaugeSides", "Between");
    m_dimensions = choice("gaugeDimensions", "Dimensions");
    m_flanks = line(
        "gaugeFlanks", "Plane elements",
        "Transmittance times length or area of each: 0.34 W/(m2.K) x 1.2 m; 0.28 x 2 m. Empty: found in the field");
    m_linear = line("gaugeLinear", "Linear bridges", "That are subtracted too: 0.05 W/(m.K) x 0.9 m; ...");
    m_air = line("gaugeAir", "Room air", "Its temperature: 20 degC");
    m_humidity = line("gaugeHumidity", "Humidity", "Of the room air: 50 %");
    m_outside = line("gaugeOutside", "Outside", "Its temperature: -5 degC");
    m_surfaceHumidity = line("gaugeSurfaceHumidity", "Surface humidity",
                             "Highest allowed on the surface: 80 % against mould, 100 % against condensation");
    m_prominence = line("gaugeProminence", "Prominence", "At least, with its unit: 3 K; empty: 5 % of the range");
    m_drop = line("gaugeDrop", "Extent down to", "How far below each hotspot its region reaches: 3 K");
    m_unit = line("gaugeUnit", "Unit", "Empty: SI. Temperatures in degC, K or degF");
    m_decimals = line("gaugeDecimals", "Decimals", "0 to 9; empty: as many as the value needs");
    connect(m_layers, &QPushButton::clicked, this, &GaugeForm::openLayers);
    connect(m_sides, &QComboBox::activated, this, [this](int at) {
        editAlike("Environments of gauge", "environments", [&](const Survey& survey, std::size_t gauge) {
            return withGaugeField(survey, gauge, GaugeField::Where, m_sides->itemData(at).toString().toStdString());
        });
    });
    m_completer = new QCompleter(this);
    m_completer->setCaseSensitivity(Qt::CaseInsensitive);
    m_completer->setWidget(m_formula);
    m_completer->setCompletionMode(QCompleter::PopupCompletion);
    connect(m_completer, qOverload<const QString&>(&QCompleter::activated), this, [this](const QString& name) {
        auto text = m_formula->text();
        int from = m_formula->cursorPosition();
        while (from > 0 && (text[from - 1].isLetterOrNumber() || text[from - 1] == '_'))
            --from;
        text.replace(from, m_formula->cursorPosition() - from, name);
        m_formula->setText(text);
        m_formula->setCursorPosition(from + static_cast<int>(name.size()));
        checkFormula();
    });
    connect(m_name, &QLineEdit::editingFinished, this, [this] {
        const auto wanted = m_name->text().trimmed().toStdString();
        if (wanted == m_session.selection().selectedGauge())
            return;
        const auto at = m_session.selection().selectedGaugeAt();
        auto next = at ? withGaugeId(m_session.survey(), *at, wanted) : Result<Survey>(m_session.survey());
        const bool good = next.has_value();
        m_session.editOrComplain("Rename gauge", std::move(next));
        if (good)
            m_session.selection().selectGauge(wanted);
        refresh();
    });
    const auto field = [this](QComboBox* box, GaugeField which, const char* what) {
        connect(box, &QComboBox::activated, this, [this, box, which, what](int at) {
            const auto text = box->itemData(at).isValid() ? box->itemData(at).toString() : box->itemText(at);
            edit(what, [&](const Survey& survey, std::size_t gauge) {
                return withGaugeField(survey, gauge, which, text.toStdString());
            });
        });
    };
    field(m_quantity, GaugeField::Quantity, "Quantity of gauge");
    field(m_component, GaugeField::Component, "Component of gauge");
    field(m_statistic, GaugeField::Statistic, "Statistic of gauge");
    connect(m_unit, &QLineEdit::editingFinished, this, [this] {
        edit("Unit of gauge", [&](const Survey& survey, std::size_t gauge) {
            return withGaugeField(survey, gauge, GaugeField::Unit, m_unit->text().trimmed().toStdString());
        });
    });
    connect(m_formula, &QLineEdit::textEdited, this, &GaugeForm::checkFormula);
    connect(m_formula, &QLineEdit::editingFinished, this, [this] {
        edit("Formula of gauge", [&](const Survey& survey, std::size_t gauge) {
            return withGaugeField(survey, gauge, GaugeField::Formula, m_formula->text().trimmed().toStdString());
        });
    });
    key(m_weight, "weight");
    key(m_method, "method");
    key(m_reference, "reference");
    key(m_wall, "wall");
    key(m_of, "of");
    key(m_complement, "complement");
    key(m_final, "final");
    key(m_share, "share");
    key(m_free, "free");
    key(m_surfaceHumidity, "surface_humidity");
    for (std::size_t i = 0; i < m_places.size(); ++i)
        connect(m_places[i], &QLineEdit::editingFinished, this, [this, i] { takePlace(i); });
    key(m_length, "length");
    key(m_speed, "speed");
    key(m_power, "per");
    key(m_conductivity, "conductivity");
    key(m_space, "space");
    key(m_level, "level");
    key(m_dimensions, "dimensions");
    key(m_flanks, "flanks");
    key(m_linear, "linear");
    key(m_air, "air");
    key(m_humidity, "humidity");
    key(m_outside, "outside");
    key(m_prominence, "prominence");
    key(m_drop, "drop");
    key(m_decimals, "decimals");
    session.listen(this, contents, &GaugeForm::refresh);
    refresh();
}

void GaugeForm::addRow(const QString& label, QWidget* field) {
    const int row = m_grid->rowCount();
    m_labels[field] = new QLabel(label);
    m_grid->addWidget(m_labels[field], row, 0);
    m_grid->addWidget(field, row, 1);
}

QComboBox* GaugeForm::choice(const char* name, const QString& label, bool open) {
    auto* box = new QComboBox;
    box->setObjectName(name);
    box->setEditable(open);
    box->setInsertPolicy(QComboBox::NoInsert);
    box->setMinimumContentsLength(10);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    addRow(label, box);
    return box;
}

QLineEdit* GaugeForm::line(const char* name, const QString& label, const QString& tip) {
    auto* made = new QLineEdit;
    made->setObjectName(name);
    made->setToolTip(tip);
    made->setFocusPolicy(Qt::ClickFocus);
    addRow(label, made);
    return made;
}

void GaugeForm::key(QComboBox* box, const char* key) {
    m_keys[box] = key;
    const auto take = [this, box, key] {
        const int at = box->findText(box->currentText());
        const auto text = at >= 0 && box->itemData(at).isValid() ? box->itemData(at).toString()
                                                                 : box->currentText().trimmed();
        editAlike("Gauge: " + m_labels.at(box)->text(), key, [&](const Survey& survey, std::size_t gauge) {
            return withGaugeKey(survey, gauge, key, text.toStdString());
        });
    };
    connect(box, &QComboBox::activated, this, take);
    if (box->isEditable()) {
        hintUnit(box->lineEdit(), key);
        connect(box->lineEdit(), &QLineEdit::editingFinished, this, take);
    }
}

void GaugeForm::hintUnit(QLineEdit* edit, const char* key) {
    new UnitHint(edit, [this, key] {
        const auto at = m_session.selection().selectedGaugeAt();
        return at ? typedUnit(m_session.survey().gauges[*at], key, m_session.view()) : std::string();
    });
}

void GaugeForm::key(QLineEdit* edit, const char* key) {
    m_keys[edit] = key;
    hintUnit(edit, key);
    connect(edit, &QLineEdit::editingFinished, this, [this, edit, key] {
        editAlike("Gauge: " + m_labels.at(edit)->text(), key, [&](const Survey& survey, std::size_t gauge) {
            return withGaugeKey(survey, gauge, key, edit->text().trimmed().toStdString());
        });
    });
}

void GaugeForm::editAlike(const QString& what, const std::string& key,
                          const std::function<Result<Survey>(const Survey&, std::size_t)>& change) {
    static constexpr std::array<std::string_view, 6> shared{"environments", "dimensions", "air",
                                                            "humidity",     "outside",    "surface_humidity"};
    if (m_together->isHidden() || !m_together->isChecked() || std::ranges::find(shared, key) == shared.end())
        return edit(what, change);
    Result<Survey> next = m_session.survey();
    const auto& gauges = m_session.survey().gauges;
    const auto takes = [&](const Gauge& gauge) {
        if (key == "environments")
            return !gauge.rest.contains("layers") && gaugeQuantity(gauge.quantity)->betweenSides;
        return gaugeReads(gauge, key);
    };
    for (std::size_t i = 0; i < gauges.size() && next; ++i)
        if (isEnvelopeQuantity(gauges[i].quantity) && takes(gauges[i]))
            next = change(*next, i);
    m_session.editOrComplain(what + " of all transmittances", std::move(next));
}

void GaugeForm::edit(const QString& what, const std::function<Result<Survey>(const Survey&, std::size_t)>& change) {
    if (const auto at = m_session.selection().selectedGaugeAt())
        m_session.editOrComplain(what, change(m_session.survey(), *at));
}

// The unit as it is typed, or the mistake with its place.
void GaugeForm::checkFormula() {
    const auto text = m_formula->text();
    const auto* state = m_session.activeCase();
    const auto lookup = [&](const std::string& id) -> tl::expected<FormulaValue, std::string> {
        if (state != nullptr && state->readings)
            for (const auto& reading : state->readings->gauges)
                if (reading.id == id) {
                    if (!reading.value)
                        return tl::unexpected(fmt::format("\"{}\" cannot be read", id));
                    const auto unit = UnitProduct::of(reading.unit);
                    const auto toSi = unit ? conversion(reading.unit, unit->text()) : tl::unexpected(unit.error());
                    if (!toSi)
                        return tl::unexpected(toSi.error().what);
                    return FormulaValue{reading.isTemperature ? (*toSi)(*reading.value)
                                                              : toSi->difference(*reading.value),
                                        *unit, reading.isTemperature};
                }
        return tl::unexpected(fmt::format("there is no gauge \"{}\"", id));
    };
    const auto result = evaluateFormula(text.toStdString(), lookup);
    if (text.isEmpty())
        m_formulaState->setText("");
    else if (result)
        m_formulaState->setText("in " + q(result->unit.text()) + (result->isTemperature ? ", a temperature" : ""));
    else
        m_formulaState->setText(
            "<span style='color:#B5121B'>" + text.left(static_cast<int>(result.error().from)).toHtmlEscaped() + "<u>" +
            text.mid(static_cast<int>(result.error().from),
                     static_cast<int>(std::max<std::size_t>(1, result.error().to - result.error().from)))
                .toHtmlEscaped() +
            "</u></span><br>" + q(result.error().what).toHtmlEscaped());
    int from = m_formula->cursorPosition();
    while (from > 0 && (text[from - 1].isLetterOrNumber() || text[from - 1] == '_'))
        --from;
    const auto word = text.mid(from, m_formula->cursorPosition() - from);
    m_completer->setCompletionPrefix(word);
    if (m_formula->hasFocus() && word.size() >= 1 && m_completer->completionCount() > 0 &&
        m_completer->currentCompletion() != word)
        m_completer->complete();
    else
        m_completer->popup()->hide();
}

void GaugeForm::refresh() {
    const auto at = m_session.selection().selectedGaugeAt();
    setVisible(at.has_value());
    if (!at)
        return;
    const auto& gauge = m_session.survey().gauges[*at];
    setText(m_name, q(gauge.id));
    m_place->setText(gauge.formula.empty() ? q(placeText(gauge)) + elementsText(gauge)
                                           : QString("computed from other gauges"));
    setText(m_unit, q(gauge.unit));
    setText(m_formula, q(gauge.formula));
    for (const auto& [edit, name] : {std::pair{m_length, "length"},
                                     {m_speed, "speed"},
                                     {m_power, "per"},
                                     {m_conductivity, "conductivity"},
                                     {m_level, "level"},
                                     {m_air, "air"},
                                     {m_humidity, "humidity"},
                                     {m_outside, "outside"},
                                     {m_prominence, "prominence"},
                                     {m_drop, "drop"},
                                     {m_decimals, "decimals"},
                                     {m_final, "final"},
                                     {m_share, "share"},
                                     {m_free, "free"},
                                     {m_surfaceHumidity, "surface_humidity"},
                                     {m_flanks, "flanks"},
                                     {m_linear, "linear"}})
        setText(edit, q(gaugeKey(gauge, name)));
    const auto places = placesOf(gauge);
    for (std::size_t i = 0; i < std::min(places.size(), m_places.size()); ++i) {
        m_labels.at(m_places[i])->setText(q(places[i].label));
        setText(m_places[i], q(typedPlace(places[i])));
    }
    fillChoices(gauge);
    showRows(gauge);
    QStringList names;
    for (const auto& one : m_session.survey().gauges)
        if (one.id != gauge.id)
            names.append(q(one.id));
    for (const auto* function : formulaFunctions)
        names.append(function);
    if (!m_completer->popup()->isVisible())
        m_completer->setModel(new QStringListModel(names, m_completer));
    if (!m_formula->hasFocus())
        checkFormula();
}

void GaugeForm::fillChoices(const Gauge& gauge) {
    const auto isInUse = [](QComboBox* box) {
        return box->view()->isVisible() || (box->isEditable() && box->lineEdit()->hasFocus());
    };
    const auto fill = [&](QComboBox* box, const GaugeChoices& items, const std::string& value) {
        if (isInUse(box))
            return;
        const QSignalBlocker quiet(box);
        box->clear();
        for (const auto& item : items)
            box->addItem(item.text, item.written);
        setChoice(box, value);
    };
    if (const auto* state = m_session.activeCase(); state != nullptr && !isInUse(m_quantity)) {
        const QSignalBlocker quiet(m_quantity);
        fillQuantities(m_quantity, gauge, state->quantities);
    }
    fill(m_component,
         {{"default", ""},
          {"along x", "x"},
          {"along y", "y"},
          {"along z", "z"},
          {"normal", "normal"},
          {"magnitude", "magnitude"}},
         gauge.component);
    fill(m_statistic, statisticsFor(gauge), gauge.statistic);
    fill(m_space,
         {{"default (mean)", ""}, {"mean", "mean"}, {"max", "max"}, {"min", "min"}, {"p95", "p95"}, {"p5", "p5"}},
         gaugeKey(gauge, "space"));
    fill(m_of, {{"temperature", "temperature"}, {"velocity", "velocity"}}, gaugeKey(gauge, "of"));
    fill(m_complement, {{"(T - reference) / (wall - reference)", ""}, {"1 minus that", "true"}},
         gaugeKey(gauge, "complement"));
    fill(m_dimensions, {{"internal", "internal"}, {"external", "external"}, {"overall internal", "overall_internal"}},
         gaugeKey(gauge, "dimensions").empty() ? "internal" : gaugeKey(gauge, "dimensions"));
    fill(m_sides, sidesFor(m_session), gauge.where.written.is_null() ? std::string() : gauge.where.written.dump());
    fill(m_weight, {{extentWord(gauge.where), ""}, {"mass flow", "mass_flow"}}, gaugeKey(gauge, "weight"));
    fill(m_method,
         {{"most accurate available", ""},
          {"stored flux", "stored"},
          {"conservation", "conservative"},
          {"film to the environment", "film"},
          {"gradient", "gradient"}},
         gaugeKey(gauge, "method"));
    auto temperatures = referencesFor(m_session, gauge);
    fill(m_reference, temperatures, gaugeKey(gauge, "reference"));
    temperatures.pop_back();
    fill(m_wall, temperatures, gaugeKey(gauge, "wall"));
}

void GaugeForm::takePlace(std::size_t place) {
    const auto at = m_session.selection().selectedGaugeAt();
    const auto places = at ? placesOf(m_session.survey().gauges[*at]) : std::vector<GaugePlace>();
    if (place >= places.size() || m_places[place]->text() == q(typedPlace(places[place])))
        return;
    edit("Place of gauge", [&](const Survey& survey, std::size_t gauge) {
        return placeOfText(m_places[place]->text().toStdString(), places[place].direction ? "" : "mm")
            .and_then([&](const Point& to) { return withGaugePlace(survey, gauge, place, to); });
    });
}

void GaugeForm::openLayers() {
    const auto at = m_session.selection().selectedGaugeAt();
    if (!at)
        return;
    auto* dialog = new LayersDialog(m_session.survey(), *at, this);
    connect(dialog, &LayersDialog::changed, this,
            [this](const Survey& survey) { m_session.edit("Layers of gauge", survey); });
    dialog->open();
}

// The layers of the plane elements that were found, to be looked at before the number is used.
QString GaugeForm::elementsText(const Gauge& gauge) const {
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->readings)
        return {};
    const auto found = std::ranges::find(state->readings->gauges, gauge.id, &GaugeReading::id);
    if (found == state->readings->gauges.end() || !found->derivation)
        return {};
    QString text;
    for (const auto& term : found->derivation->terms)
        if (const auto colon = term.origin.find(": "); colon != std::string::npos)
            text += QString("\n") + q(term.name.substr(term.name.find("of ") + 3)) + ": " +
                    q(typographic(term.origin.substr(colon + 2)));
    return text;
}

// Only what this quantity reads.
void GaugeForm::showRows(const Gauge& gauge) {
    const bool formula = (gauge.where.written.is_null() && !isEnvelopeQuantity(gauge.quantity)) ||
                         !gauge.formula.empty();
    const auto& name = gauge.quantity;
    const auto row = [this](QWidget* field, bool shown) {
        field->setVisible(shown);
        m_labels.at(field)->setVisible(shown);
    };
    row(m_formula, formula);
    row(m_formulaState, formula);
    const auto* quantity = gaugeQuantity(name);
    const bool envelope = isEnvelopeQuantity(name);
    const bool layered = gauge.rest.contains("layers");
    row(m_layers, envelope && layered);
    row(m_together, envelope && !layered && std::ranges::count_if(m_session.survey().gauges, [](const Gauge& one) {
                                                return isEnvelopeQuantity(one.quantity);
                                            }) > 1);
    row(m_sides, envelope && !layered && quantity->betweenSides);
    row(m_place, !formula);
    const auto places = formula || envelope ? std::size_t(0) : placesOf(gauge).size();
    for (std::size_t i = 0; i < m_places.size(); ++i)
        row(m_places[i], i < places);
    row(m_quantity, !formula);
    const auto kind = m_session.activeCase() != nullptr ? kindOf(m_session.activeCase()->quantities, name)
                                                        : std::nullopt;
    row(m_component, !formula && kind && kind->components == 3);
    row(m_statistic, !formula && (quantity == nullptr || quantity->choosesStatistic));
    row(m_weight, !formula && gauge.statistic != "hotspots" && kind && kind->components == 1);
    for (const auto& [field, key] :
         std::initializer_list<std::pair<QWidget*, const char*>>{{m_dimensions, "dimensions"},
                                                                 {m_air, "air"},
                                                                 {m_humidity, "humidity"},
                                                                 {m_outside, "outside"},
                                                                 {m_of, "of"},
                                                                 {m_prominence, "prominence"},
                                                                 {m_drop, "drop"},
                                                                 {m_method, "method"},
                                                                 {m_reference, "reference"},
                                                                 {m_wall, "wall"},
                                                                 {m_length, "length"},
                                                                 {m_speed, "speed"},
                                                                 {m_power, "per"},
                                                                 {m_conductivity, "conductivity"},
                                                                 {m_level, "level"},
                                                                 {m_space, "space"},
                                                                 {m_complement, "complement"},
                                                                 {m_final, "final"},
                                                                 {m_share, "share"},
                                                                 {m_free, "free"},
                                                                 {m_surfaceHumidity, "surface_humidity"},
                                                                 {m_flanks, "flanks"},
                                                                 {m_linear, "linear"}})
        row(field, !formula && gaugeReads(gauge, key));
    m_reading->setText(readingText(gauge));
}

// A reason that names a key of the file names the field on the screen instead.
QString GaugeForm::inWords(const std::string& why) const {
    auto text = q(why);
    for (const auto& [field, key] : m_keys)
        text.replace("the key \"" + q(key) + "\"", "the field \u201c" + m_labels.at(field)->text() + "\u201d");
    return text;
}

// What the gauge reads on every case: over the steps where it is one of them, the same as in the table.
QString GaugeForm::readingText(const Gauge& gauge) const {
    QStringList words;
    for (const auto& entry : m_session.survey().cases) {
        const auto* state = m_session.stateOf(entry);
        const bool over = readsOverSteps(m_session.survey().gauges, gauge);
        if (state == nullptr || !state->readings || (over && !state->history))
            continue;
        for (const auto& reading :
             over ? readOverSteps(m_session.survey().gauges, *state->history) : state->readings->gauges)
            if (reading.id == gauge.id) {
                const auto value =
                    reading.value ? q(fmt::format("{} {}", gaugeNumber(gauge, *reading.value, reading.isTemperature),
                                                  reading.unit == "1" ? std::string() : unitText(reading.unit)))
                    : reading.profile
                        ? q(fmt::format("a profile of {} points{}{}", reading.profile->s.size(),
                                        reading.lacking.empty() ? "" : "; ", reading.lacking))
                              .toHtmlEscaped()
                        : "<span style='color:#B5121B'>not available: " + inWords(reading.why).toHtmlEscaped() +
                              "</span>";
                words.append((m_session.survey().cases.size() > 1 ? q(entry.name).toHtmlEscaped() + "  " : QString()) +
                             "<b>" + value + "</b>");
            }
    }
    return words.join("<br>");
}

} // namespace pyro
