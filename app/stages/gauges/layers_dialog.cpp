#include "app/stages/gauges/layers_dialog.h"

#include "app/theme/theme.h"
#include "app/theme/unit_field.h"
#include "core/envelope/material_library.h"
#include "core/envelope/moisture.h"
#include "core/survey/conductivities.h"
#include "core/survey/typed_unit.h"
#include "core/units/unit.h"
#include "render/text.h"

#include <QCompleter>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QPushButton>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <fmt/format.h>

namespace pyro {
namespace {

enum Column { LayerName, Thickness, Value, Resistance };

// The materials of the survey, then the library's; anything else may be typed.
class MaterialDelegate : public QStyledItemDelegate {
public:
    MaterialDelegate(const Survey& survey, QObject* parent) : QStyledItemDelegate(parent), m_survey(survey) {}
    QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem&, const QModelIndex&) const override {
        auto* box = new QComboBox(parent);
        box->setEditable(true);
        box->completer()->setCompletionMode(
            QCompleter::PopupCompletion); // completed in place, "brick of" would become a brick unasked
        for (const auto& one : conductivitiesOf(m_survey))
            box->addItem(q(one.name));
        for (const auto& one : materialLibrary()) {
            box->addItem(q(one.name));
            box->setItemData(box->count() - 1, q(fmt::format("{:g} W/(m\u00b7K); {}", one.conductivity, one.source)),
                             Qt::ToolTipRole);
        }
        return box;
    }
    void setEditorData(QWidget* editor, const QModelIndex& index) const override {
        static_cast<QComboBox*>(editor)->setEditText(index.data().toString());
    }
    void setModelData(QWidget* editor, QAbstractItemModel* model, const QModelIndex& index) const override {
        model->setData(index, static_cast<QComboBox*>(editor)->currentText());
    }

private:
    const Survey& m_survey;
};

QLineEdit* field(const char* name, const QString& text, const QString& tip) {
    auto* edit = new QLineEdit(text);
    edit->setObjectName(name);
    edit->setToolTip(tip);
    edit->setMaximumWidth(110);
    return edit;
}

} // namespace

LayersDialog::LayersDialog(Survey survey, std::size_t gauge, QWidget* parent)
    : QDialog(parent), m_survey(std::move(survey)), m_gauge(gauge), m_table(new QTableWidget(0, 4)),
      m_inner(new QComboBox), m_result(new QLabel), m_moisture(new QLabel), m_chart(new QCustomPlot) {
    setObjectName("layersDialog");
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle("Layers of " + q(m_survey.gauges[gauge].id));
    resize(860, 560);
    m_table->setObjectName("layersTable");
    m_table->setHorizontalHeaderLabels(
        {"Layer, from inside to outside", "Thickness", "W/(m\u00b7K) or R", "R, m\u00b2\u00b7K/W"});
    m_table->horizontalHeader()->setSectionResizeMode(LayerName, QHeaderView::Stretch);
    m_table->verticalHeader()->setDefaultSectionSize(26);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setItemDelegateForColumn(LayerName, new MaterialDelegate(m_survey, this));
    auto* buttons = new QHBoxLayout;
    const auto small = [&](const char* name, const QString& text, auto act) {
        auto* made = new QPushButton(text);
        made->setObjectName(name);
        made->setAutoDefault(false);
        connect(made, &QPushButton::clicked, this, act);
        buttons->addWidget(made);
    };
    small("layerAdd", "Add layer", [this] {
        addRow("mineral wool", "100 mm", conductivityText("mineral wool"));
        take();
    });
    small("layerUp", "Move inwards", [this] { moveRow(-1); });
    small("layerDown", "Move outwards", [this] { moveRow(1); });
    small("layerRemove", "Delete", [this] { removeRow(); });
    buttons->addStretch();
    m_inner->setObjectName("layersInner");
    for (const auto& [text, direction] : {std::pair{"sideways", HeatFlowDirection::Horizontal},
                                          {"upwards", HeatFlowDirection::Upwards},
                                          {"downwards", HeatFlowDirection::Downwards}})
        m_inner->addItem(QString("heat flows %1: %2").arg(text).arg(innerSurfaceResistance(direction), 0, 'f', 2),
                         innerSurfaceResistance(direction));
    m_outer = field("layersOuter", "0.04", "Outer surface resistance in m\u00b2\u00b7K/W");
    m_inside = field("layersInside", "20 degC", "Temperature inside");
    m_outside = field("layersOutside", "-5 degC", "Temperature outside");
    m_humidity = field("layersHumidity", "50 %", "Relative humidity of the air inside");
    auto* form = new QFormLayout;
    form->addRow("Inner surface", m_inner);
    form->addRow("Outer surface", m_outer);
    form->addRow("Inside", m_inside);
    form->addRow("Outside", m_outside);
    form->addRow("Humidity inside", m_humidity);
    m_result->setObjectName("layersResult");
    m_moisture->setObjectName("layersMoisture");
    m_moisture->setWordWrap(true);
    m_chart->setObjectName("layersChart");
    m_chart->setMinimumHeight(220);
    auto* left = new QVBoxLayout;
    left->addLayout(form);
    left->addWidget(m_result);
    left->addWidget(m_moisture);
    left->addStretch();
    auto* lower = new QHBoxLayout;
    lower->addLayout(left, 2);
    lower->addWidget(m_chart, 3);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(m_table, 2);
    layout->addLayout(buttons);
    layout->addLayout(lower, 3);
    readGauge();
    connect(m_table, &QTableWidget::itemChanged, this, [this](QTableWidgetItem* item) {
        if (m_filling)
            return;
        if (item->column() == Thickness)
            completeThickness(*item);
        if (item->column() == LayerName) {
            if (const auto known = conductivityText(item->text()); !known.isEmpty()) {
                m_filling = true;
                m_table->item(item->row(), Value)->setText(known);
                m_filling = false;
            }
        }
        take();
    });
    connect(m_inner, &QComboBox::activated, this, &LayersDialog::take);
    connect(m_outer, &QLineEdit::editingFinished, this, &LayersDialog::take);
    for (auto* edit : {m_inside, m_outside})
        new UnitHint(edit, [this] { return shownTemperature(); });
    new UnitHint(m_humidity, [] { return std::string("%"); });
    for (auto* edit : {m_inside, m_outside, m_humidity})
        connect(edit, &QLineEdit::textEdited, this, &LayersDialog::refresh);
    refresh();
}

std::string LayersDialog::shownTemperature() const { return std::string(udunitsName(viewOf(m_survey).unit)); }

// A bare thickness has the unit that stood in its cell.
void LayersDialog::completeThickness(QTableWidgetItem& item) {
    const auto typed = item.text().trimmed().toStdString();
    const auto before = item.data(Qt::UserRole).toString().toStdString();
    const auto whole = withUnit(typed, before.empty() ? "mm" : before);
    const bool was = std::exchange(m_filling, true);
    item.setText(q(whole));
    item.setData(Qt::UserRole, q(unitOfText(whole)));
    m_filling = was;
}

QString LayersDialog::conductivityText(const QString& material) const {
    const auto name = material.trimmed().toStdString();
    for (const auto& one : conductivitiesOf(m_survey))
        if (one.name == name)
            return q(fmt::format("{:g}", one.conductivity));
    const auto* known = libraryMaterial(name);
    return known != nullptr ? q(fmt::format("{:g}", known->conductivity)) : QString();
}

void LayersDialog::addRow(const QString& material, const QString& thickness, const QString& value) {
    const bool was = m_filling;
    m_filling = true;
    const int row = m_table->rowCount();
    m_table->insertRow(row);
    m_table->setItem(row, LayerName, new QTableWidgetItem(material));
    m_table->setItem(row, Thickness, new QTableWidgetItem(thickness));
    m_table->item(row, Thickness)->setData(Qt::UserRole, q(unitOfText(thickness.toStdString())));
    m_table->setItem(row, Value, new QTableWidgetItem(value));
    auto* resistance = new QTableWidgetItem;
    resistance->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
    m_table->setItem(row, Resistance, resistance);
    for (const int column : {Thickness, Value, Resistance})
        m_table->item(row, column)->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    m_filling = was;
}

void LayersDialog::moveRow(int by) {
    const int row = m_table->currentRow();
    const int to = row + by;
    if (row < 0 || to < 0 || to >= m_table->rowCount())
        return;
    m_filling = true;
    for (const int column : {LayerName, Thickness, Value}) {
        const auto text = m_table->item(row, column)->text();
        m_table->item(row, column)->setText(m_table->item(to, column)->text());
        m_table->item(to, column)->setText(text);
    }
    m_filling = false;
    m_table->selectRow(to);
    take();
}

void LayersDialog::removeRow() {
    if (m_table->currentRow() < 0)
        return;
    m_table->removeRow(m_table->currentRow());
    take();
}

void LayersDialog::readGauge() {
    m_filling = true;
    const auto& rest = m_survey.gauges[m_gauge].rest;
    const auto text = [](const Json& layer, const char* key) {
        return !layer.contains(key) ? QString()
                                    : q(layer[key].is_string() ? layer[key].get<std::string>() : layer[key].dump());
    };
    for (const auto& layer : rest.value("layers", Json::array())) {
        const auto name = layer.contains("material") ? text(layer, "material") : text(layer, "name");
        const auto value = layer.contains("resistance")     ? "R " + text(layer, "resistance")
                           : layer.contains("conductivity") ? text(layer, "conductivity")
                                                            : conductivityText(name);
        addRow(name, q(withUnit(text(layer, "thickness").toStdString(), "m")), value); // bare in the survey: SI
    }
    if (const auto surfaces = rest.find("resistances");
        surfaces != rest.end() && surfaces->is_array() && surfaces->size() == 2) {
        const auto si = [](const Json& json) {
            return parseMeasured(json.is_string() ? json.get<std::string>() : json.dump(), "m2.K/W");
        };
        if (const auto inner = si((*surfaces)[0])) {
            int at = -1;
            for (int i = 0; i < m_inner->count(); ++i)
                if (std::abs(m_inner->itemData(i).toDouble() - *inner) < 1e-9)
                    at = i;
            if (at < 0) {
                m_inner->addItem(q(fmt::format("as given: {:g}", *inner)), *inner);
                at = m_inner->count() - 1;
            }
            m_inner->setCurrentIndex(at);
        }
        if (const auto outer = si((*surfaces)[1]))
            m_outer->setText(q(fmt::format("{:g}", *outer)));
    }
    m_filling = false;
}

// "R 0.18" in the column of conductivities is a layer's resistance.
Json LayersDialog::layers() const {
    auto list = Json::array();
    for (int row = 0; row < m_table->rowCount(); ++row) {
        const auto material = m_table->item(row, LayerName)->text().trimmed();
        const auto thickness = m_table->item(row, Thickness)->text().trimmed().toStdString();
        const auto value = m_table->item(row, Value)->text().trimmed();
        Json layer = Json::object();
        const auto known = conductivityText(material);
        if (!material.isEmpty())
            layer[known.isEmpty() ? "name" : "material"] = material.toStdString();
        if (!thickness.empty())
            layer["thickness"] = thickness;
        if (value.startsWith("R "))
            layer["resistance"] = value.mid(2).trimmed().toStdString();
        else if (value != known)
            layer["conductivity"] = value.toStdString();
        list.push_back(layer);
    }
    return list;
}

void LayersDialog::take() {
    auto& rest = m_survey.gauges[m_gauge].rest;
    rest["layers"] = layers();
    rest["resistances"] = Json::array(
        {fmt::format("{:g} m2.K/W", m_inner->currentData().toDouble()), m_outer->text().trimmed().toStdString()});
    refresh();
    emit changed(m_survey);
}

void LayersDialog::refresh() {
    const auto& rest = m_survey.gauges[m_gauge].rest;
    const auto element = elementOf(layers(), rest.contains("resistances") ? &rest["resistances"] : nullptr,
                                   conductivitiesOf(m_survey));
    m_chart->setVisible(element.has_value());
    m_moisture->setVisible(element.has_value());
    if (!element) {
        m_result->setText("<span style='color:#B5121B'>" + q(element.error().what).toHtmlEscaped() + "</span>");
        m_result->setWordWrap(true);
        return;
    }
    m_filling = true;
    for (int row = 0; row < m_table->rowCount(); ++row)
        m_table->item(row, Resistance)
            ->setText(q(fmt::format("{:.4g}", element->layers[static_cast<std::size_t>(row)].resistance())));
    m_filling = false;
    m_result->setText(q(fmt::format("R = {:.4f} m\u00b2\u00b7K/W     <b>U = {:.4f} W/(m\u00b2\u00b7K)</b>",
                                    totalResistance(*element), transmittance(*element))));
    const auto temperature = [this](const QLineEdit* edit) {
        return parseTemperature(withUnit(edit->text().trimmed().toStdString(), shownTemperature()));
    };
    const auto inside = temperature(m_inside);
    const auto outside = temperature(m_outside);
    const auto humidity = parseMeasured(withUnit(m_humidity->text().trimmed().toStdString(), "%"), "1");
    const auto* wrong = !inside     ? &inside.error()
                        : !outside  ? &outside.error()
                        : !humidity ? &humidity.error()
                                    : nullptr;
    const auto moisture = wrong != nullptr ? tl::unexpected(*wrong)
                                           : moistureOf(*element, inside->kelvin, outside->kelvin, *humidity);
    if (!moisture) {
        m_moisture->setText("<span style='color:#B5121B'>" + q(moisture.error().what).toHtmlEscaped() + "</span>");
        return;
    }
    m_moisture->setText(q(moisture->text()));
    drawChart(*element, inside->kelvin, outside->kelvin, moisture->dewPoint);
}

void LayersDialog::drawChart(const PlaneElement& element, double inside, double outside, double dew) {
    m_chart->clearGraphs();
    m_chart->clearItems();
    const auto faces = faceTemperatures(element, inside, outside);
    QVector<double> x{0};
    QVector<double> y{faces[0] - 273.15};
    double depth = 0;
    for (std::size_t i = 0; i < element.layers.size(); ++i) {
        depth += 1e3 * element.layers[i].thickness;
        x.push_back(depth);
        y.push_back(faces[i + 1] - 273.15);
        auto* line = new QCPItemStraightLine(m_chart);
        line->setPen(QPen(theme::line, 1));
        line->point1->setCoords(depth, 0);
        line->point2->setCoords(depth, 1);
    }
    auto* curve = m_chart->addGraph();
    curve->setData(x, y, true);
    curve->setPen(QPen(theme::ember, 2));
    auto* below = m_chart->addGraph();
    below->setData({0, depth}, {dew - 273.15, dew - 273.15}, true);
    below->setPen(QPen(theme::faint, 1, Qt::DashLine));
    auto* word = new QCPItemText(m_chart);
    word->setText("dew point");
    word->setColor(theme::faint);
    word->setPositionAlignment(Qt::AlignRight | Qt::AlignBottom);
    word->position->setCoords(depth, dew - 273.15);
    m_chart->xAxis->setLabel("Depth from inside, mm");
    m_chart->yAxis->setLabel("Temperature, \u00b0C");
    m_chart->rescaleAxes();
    m_chart->yAxis->scaleRange(1.15);
    m_chart->replot();
}

} // namespace pyro
