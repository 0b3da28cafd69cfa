// Sets up a published correlation as a curve of the chart.
#pragma once

#include "core/survey/chart_view.h"

#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <optional>

namespace pyro {

class ReferenceDialog : public QDialog {
    Q_OBJECT
public:
    // Nothing given: a new one. It takes itself away when it is closed.
    explicit ReferenceDialog(const std::optional<ReferenceCurve>& curve, QWidget* parent);

signals:
    void chosen(const ReferenceCurve& curve);
    void removed();

private:
    struct Field {
        double FlowConditions::*condition; // null: the start of the plate
        std::string unit;                  // SI
        std::string shown;                 // of a bare number: mm of a length, as everywhere in the window
        QLabel* label;
        QLineEdit* edit;
    };
    void addField(const char* name, const QString& label, const char* unit, double FlowConditions::*condition,
                  double value);
    void takeFluid(int fluid);
    void check();
    Result<ReferenceCurve> curve() const;
    const CorrelationFacts& facts() const;

    QComboBox* m_kind;
    QComboBox* m_fluid;
    QLabel* m_about;
    QLabel* m_state;
    QPushButton* m_take;
    std::vector<Field> m_fields;
};

} // namespace pyro
