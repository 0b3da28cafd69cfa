// What a gauge that lists hotspots tells: the spots, the way heat takes from the chosen one, and how they move over the
// steps.
#pragma once

#include "app/ledger/ledger_page.h"
#include "app/session/session.h"
#include "core/evaluate/spot_tracks.h"
#include "core/thermal/heat_path.h"

#include <QSlider>

namespace pyro {

class SpotPage : public LedgerPage {
    Q_OBJECT
public:
    SpotPage(Session& session, QWidget* parent);
    void fill();

signals:
    void placeRequested(const Point& place); // to be looked at

private:
    void fillSpots();
    void fillPath();
    void fillTracks();
    void choose(int row);
    void drawFluxLines();
    void slide(int position);
    void keepProminence();
    double prominenceAt(int position) const;          // in the gauge's unit, as a difference
    std::optional<double> optionalProminence() const; // that the gauge asks for
    const GaugeReading* reading() const;
    const std::vector<Spot>& spots() const;

    Session& m_session;
    RowTable* m_spots;
    RowTable* m_path;
    RowTable* m_tracks;
    QSlider* m_slider;
    QLabel* m_least;
    int m_chosen = 0; // spot
};

} // namespace pyro
