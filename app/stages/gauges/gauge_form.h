// The editor of the chosen gauge: what it measures, how, against what.
#pragma once

#include "app/session/session.h"
#include "core/quantities/gauge_keys.h"

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
    void addKey(const GaugeKey& key); // with a field of its kind
    void hintUnit(QLineEdit* edit, const std::string& key);
    void take(QLineEdit* edit, const std::string& key, const QString& label);
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
    struct KeyField { // of a key with a label; one of the two
        const GaugeKey* key;
        QLineEdit* line;
        QComboBox* box;
        QWidget* widget() const { return line != nullptr ? static_cast<QWidget*>(line) : box; }
    };
    std::vector<KeyField> m_fields;
    std::vector<QLineEdit*> m_places;
    QLineEdit* m_name;
    QLabel* m_place;
    QComboBox* m_quantity;
    QComboBox* m_component;
    QComboBox* m_statistic;
    QLineEdit* m_unit;
    QLineEdit* m_decimals;
    QCheckBox* m_together;
    QPushButton* m_layers;
    QComboBox* m_sides;
    QLineEdit* m_formula;
    QLabel* m_formulaState;
    QLabel* m_reading;
    QCompleter* m_completer;
};

} // namespace pyro
