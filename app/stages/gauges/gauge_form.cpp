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

// "surface_humidity": "gaugeSurfaceHumidity".
QString fieldName(std::string_view key) {
    QString name = "gauge";
    for (const auto& word : q(std::string(key)).split('_'))
        name += word.left(1).toUpper() + word.mid(1);
    return name;
}

bool isChosen(const GaugeKey& key) {
    return key.kind == GaugeKeyKind::Reference || key.kind == GaugeKeyKind::OtherCase || !key.words[0].empty();
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
    m_together = new QCheckBox("For all transmittances");
    m_together->setObjectName("gaugeTogether");
    m_together->setToolTip("What is set below goes to every transmittance that reads it: environments, dimensions, "
                           "air, humidities, outside");
    addRow("", m_together);
    m_layers = new QPushButton("Layers\u2026");
    m_layers->setObjectName("gaugeLayers");
    addRow("Layers", m_layers);
    m_sides = choice("gaugeSides", "Between");
    for (const auto& key : gaugeKeys())
        if (!key.label.empty())
            addKey(key);
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
    for (std::size_t i = 0; i < m_places.size(); ++i)
        connect(m_places[i], &QLineEdit::editingFinished, this, [this, i] { takePlace(i); });
    take(m_decimals, "decimals", "Decimals");
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

void GaugeForm::addKey(const GaugeKey& key) {
    const auto name = fieldName(key.key);
    const auto label = q(std::string(key.label));
    if (!isChosen(key)) {
        auto* edit = line(qPrintable(name), label, q(std::string(key.tip)));
        m_fields.push_back({&key, edit, nullptr});
        return take(edit, std::string(key.key), label);
    }
    auto* box = choice(qPrintable(name), label, key.kind == GaugeKeyKind::Reference);
    m_fields.push_back({&key, nullptr, box});
    const auto taken = [this, box, key = std::string(key.key), label] {
        const int at = box->findText(box->currentText());
        const auto text = at >= 0 && box->itemData(at).isValid() ? box->itemData(at).toString()
                                                                 : box->currentText().trimmed();
        editAlike("Gauge: " + label, key, [&](const Survey& survey, std::size_t gauge) {
            return withGaugeKey(survey, gauge, key, text.toStdString());
        });
    };
    connect(box, &QComboBox::activated, this, taken);
    if (box->isEditable()) {
        hintUnit(box->lineEdit(), std::string(key.key));
        connect(box->lineEdit(), &QLineEdit::editingFinished, this, taken);
    }
}

void GaugeForm::hintUnit(QLineEdit* edit, const std::string& key) {
    new UnitHint(edit, [this, key] {
        const auto at = m_session.selection().selectedGaugeAt();
        return at ? typedUnit(m_session.survey().gauges[*at], key, m_session.view()) : std::string();
    });
}

void GaugeForm::take(QLineEdit* edit, const std::string& key, const QString& label) {
    hintUnit(edit, key);
    connect(edit, &QLineEdit::editingFinished, this, [this, edit, key, label] {
        editAlike("Gauge: " + label, key, [&](const Survey& survey, std::size_t gauge) {
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
    setText(m_decimals, q(gaugeKey(gauge, "decimals")));
    for (const auto& field : m_fields)
        if (field.line != nullptr)
            setText(field.line, q(gaugeKey(gauge, std::string(field.key->key))));
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
    fill(m_sides, sidesFor(m_session), gauge.where.written.is_null() ? std::string() : gauge.where.written.dump());
    for (const auto& field : m_fields)
        if (field.box != nullptr)
            fill(field.box, choicesFor(m_session, gauge, *field.key), gaugeKey(gauge, std::string(field.key->key)));
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
    const bool mean = gauge.statistic != "hotspots" && kind && kind->components == 1;
    for (const auto& field : m_fields)
        row(field.widget(), !formula && gaugeReads(gauge, field.key->key) && (mean || !field.key->ofMeans));
    m_reading->setText(readingText(gauge));
}

// A reason that names a key of the file names the field on the screen instead.
QString GaugeForm::inWords(const std::string& why) const {
    auto text = q(why);
    for (const auto& [key, line, box] : m_fields)
        text.replace("the key \"" + q(std::string(key->key)) + "\"",
                     "the field \u201c" + q(std::string(key->label)) + "\u201d");
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
