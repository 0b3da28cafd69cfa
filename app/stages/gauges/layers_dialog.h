// The calculator of plane elements: layers from inside to outside, what they let through, the temperatures in them, and
// whether moisture has a chance.
#pragma once

#include "core/envelope/plane_layers.h"
#include "core/survey/survey.h"

#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QTableWidget>
#include <qcustomplot.h>

namespace pyro {

class LayersDialog : public QDialog {
    Q_OBJECT
public:
    // Of the survey's gauge with this number. It takes itself away when it is closed.
    LayersDialog(Survey survey, std::size_t gauge, QWidget* parent);

signals:
    void changed(const Survey& survey);

private:
    void addRow(const QString& material, const QString& thickness, const QString& value);
    void moveRow(int by);
    void removeRow();
    void readGauge();
    Json layers() const;
    void take();    // into the survey
    void refresh(); // results and chart
    void drawChart(const PlaneElement& element, double inside, double outside, double dew);
    std::string shownTemperature() const; // unit on display, as it is typed
    void completeThickness(QTableWidgetItem& item);
    QString conductivityText(const QString& material) const;

    Survey m_survey;
    std::size_t m_gauge;
    bool m_filling = false;
    QTableWidget* m_table;
    QComboBox* m_inner;
    QLineEdit* m_outer;
    QLineEdit* m_inside;
    QLineEdit* m_outside;
    QLineEdit* m_humidity;
    QLabel* m_result;
    QLabel* m_moisture;
    QCustomPlot* m_chart;
};

} // namespace pyro
