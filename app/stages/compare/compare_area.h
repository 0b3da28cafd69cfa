// What stands above the tables of the stage Compare: the cases in their pictures, the chart of measured data beside
// them, or the picture of the sweep instead.
#pragma once

#include "app/session/session.h"
#include "core/compare/sweep_values.h"

#include <QSplitter>

namespace pyro {

class CompareView;
class MeasuredPlot;
class SweepPicturePanel;

class CompareArea : public QWidget {
    Q_OBJECT
public:
    explicit CompareArea(Session& session, QWidget* parent = nullptr);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    bool drawMeasured(); // false: there are no measured data
    bool drawSweep();    // false: there is no sweep yet
    std::optional<std::size_t> chosenCase(const SweepReading& sweep) const;
    void choose(std::size_t position);

    Session& m_session;
    QSplitter* m_split;
    CompareView* m_view;
    MeasuredPlot* m_measured;
    SweepPicturePanel* m_sweep;
    struct SweepKey { // what the picture of the sweep was made of
        std::shared_ptr<const SweepReading> sweep;
        SweepLook look;
        std::string chosen;
        bool operator==(const SweepKey&) const = default;
    };
    std::optional<SweepKey> m_drawn;
};

// The case of the sweep of this name as a case of the survey, read as the sweep reads it; it is on display then.
void openSweepCase(Session& session, const std::string& name);

} // namespace pyro
