// The editor of the chosen gauge: what it measures, how, against what.
#pragma once

#include "app/session/session.h"

#include <QCheckBox>
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
    // The same for all transmittances where that is ticked and they share the key.
    void editAlike(const QString& what, const std::string& key,
                   const std::function<Result<Survey>(const Survey&, std::size_t)>& change);
    void checkFormula();
    void openLayers();
    void takePlace(std::size_t place);
    QString inWords(const std::string& why) const;
    QString elementsText(const Gauge& gauge) const;

    Session& m_session;
    // A grid, not a form layout: that one writes past its rows when hidden ones meet wrapped text (Qt 6.4).
    QGridLayout* m_grid;
    std::map<QWidget*, QLabel*> m_labels;
    std::map<QWidget*, std::string> m_keys; // of the survey, by the field that edits them
    std::vector<QLineEdit*> m_places;
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
    QComboBox* m_complement;
    QLineEdit* m_final;
    QLineEdit* m_share;
    QLineEdit* m_free;
    QLineEdit* m_surfaceHumidity;
    QCheckBox* m_together;
    QLineEdit* m_flanks;
    QLineEdit* m_linear;
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
