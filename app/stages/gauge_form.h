// The editor of the chosen gauge: what it measures, how, against what.
#pragma once

#include "app/session/session.h"

#include <QComboBox>
#include <QFrame>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>

class QCompleter;

namespace pyro {

class GaugeForm : public QFrame {
    Q_OBJECT
public:
    explicit GaugeForm(Session& session, QWidget* parent = nullptr);

private:
    void refresh();
    void fillChoices(const Gauge& gauge);
    void showRows(const Gauge& gauge);
    QString readingText(const Gauge& gauge) const;
    void addRow(const QString& label, QWidget* field);
    QComboBox* choice(const char* name, const QString& label, bool open = false);
    QLineEdit* line(const char* name, const QString& label, const QString& tip);
    void key(QComboBox* box, const char* key);
    void hintUnit(QLineEdit* edit, const char* key);
    void key(QLineEdit* edit, const char* key);
    void edit(const QString& what, const std::function<Result<Survey>(const Survey&, std::size_t)>& change);
    void checkFormula();
    void openLayers();
    QString elementsText(const Gauge& gauge) const;

    Session& m_session;
    // A grid, not a form layout: that one writes past its rows when hidden ones meet wrapped text (Qt 6.4).
    QGridLayout* m_grid;
    std::map<QWidget*, QLabel*> m_labels;
    QLineEdit* m_name;
    QLabel* m_place;
    QComboBox* m_quantity;
    QComboBox* m_component;
    QComboBox* m_statistic;
    QLineEdit* m_prominence;
    QLineEdit* m_drop;
    QLineEdit* m_unit;
    QLineEdit* m_decimals;
    QComboBox* m_weight;
    QComboBox* m_method;
    QComboBox* m_reference;
    QComboBox* m_wall;
    QLineEdit* m_length;
    QLineEdit* m_speed;
    QLineEdit* m_power;
    QLineEdit* m_conductivity;
    QComboBox* m_space;
    QLineEdit* m_level;
    QComboBox* m_of;
    QPushButton* m_layers;
    QComboBox* m_sides;
    QComboBox* m_dimensions;
    QLineEdit* m_air;
    QLineEdit* m_humidity;
    QLineEdit* m_outside;
    QLineEdit* m_formula;
    QLabel* m_formulaState;
    QLabel* m_reading;
    QCompleter* m_completer;
};

} // namespace pyro
