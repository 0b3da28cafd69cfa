// The picture of a sweep with what is chosen for it.
#pragma once

#include "app/stages/compare/sweep_plot.h"

#include <QComboBox>
#include <QHBoxLayout>

namespace pyro {

class Session;

// The plot with its choices, which are part of the view.
class SweepPicturePanel : public QWidget {
    Q_OBJECT
public:
    SweepPicturePanel(Session& session, QWidget* parent = nullptr);
    void fill(const std::shared_ptr<const SweepReading>& sweep, const std::vector<SweepValue>& values,
              const std::vector<std::size_t>& left, const std::optional<std::size_t>& chosen);
    SweepPlot* plot() const { return m_plot; }

private:
    void fillBoxes(const SweepReading& sweep, const std::vector<SweepValue>& values, const SweepLook& look);
    void fillSlices(const SweepReading& sweep, const SweepLook& look);
    template <class Change>
    void edit(const QString& what, Change change);

    Session& m_session;
    SweepPlot* m_plot;
    QComboBox* m_picture;
    QComboBox* m_value;
    QComboBox* m_x;
    QComboBox* m_y;
    QWidget* m_sliceRow;
    QHBoxLayout* m_slices;
    bool m_filling = false;
};

} // namespace pyro
