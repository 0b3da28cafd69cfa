// charts: the chart of the gauges beside their table.
#pragma once

#include "app/session/session.h"
#include "charts/chart_drawing.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>

namespace pyro {

class ChartPanel : public QWidget {
    Q_OBJECT
public:
    explicit ChartPanel(Session& session, QWidget* parent = nullptr);

    const ChartData& chart() const { return m_chart; }
    QCustomPlot& plot() { return *m_plot; }
    QString reading() const { return m_told->isHidden() ? m_reading->text() : m_told->text(); }

signals:
    void exportRequested();
    void titleRequested(const QString& which);  // "title", "x" or "y": it was double-clicked
    void limitsRequested(const QString& which); // "x" or "y"

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    void follow(Changes what);
    void redraw();
    void buildMenu();
    void editChart(const QString& what, const std::function<void(ChartView&)>& change, Gesture gesture = {});
    void pointAt(const QPointF& pixel);
    void mark();
    void showReading(double x);
    void keepRanges();
    void fillAxisMenu(const ChartView& view);
    void askReference(std::optional<std::size_t> which); // nothing: a new one

    Session& m_session;
    ChartData m_chart;
    QCustomPlot* m_plot;
    QCPRange m_xDrawn; // as drawn last, before anyone drags
    QCPRange m_yDrawn;
    QCPItemStraightLine* m_cursor;
    QLabel* m_reading; // its title
    QLabel* m_told;    // what the curves read at the cursor, in the chart
    QLabel* m_empty;
    QPushButton* m_settings;
    QAction* m_logX;
    QAction* m_logY;
    QAction* m_difference;
    QAction* m_allCases;
    QMenu* m_curves;
    QMenu* m_scale;
    QMenu* m_axis;
    QAction* m_delete;
    QComboBox* m_choice;
    std::size_t m_shown = 0; // position of the chart that is drawn
    QMenu* m_references;
};

} // namespace pyro
