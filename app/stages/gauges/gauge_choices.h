// What the lists of the gauge editor offer.
#pragma once

#include "app/session/session.h"
#include "core/quantities/gauge_keys.h"

#include <QComboBox>

namespace pyro {

struct GaugeChoice {
    QString text;
    QString written;  // as the survey has it
    QString why = {}; // set: dimmed, with this reason
};
using GaugeChoices = std::vector<GaugeChoice>;

// Under the heads of their groups; those that cannot be read at the gauge's place last, dimmed.
void fillQuantities(QComboBox* box, const Gauge& gauge, const QuantityList& stored);
GaugeChoices statisticsFor(const Gauge& gauge);
// Of a key that is chosen and not typed: its words, or temperatures that a gauge refers to: other gauges, the bulk of
// what flows through openings and sections, a distance from the wall.
GaugeChoices choicesFor(const Session& session, const Gauge& gauge, const GaugeKey& key);
// Pairs of environments, from the warmer one to the colder one.
GaugeChoices sidesFor(const Session& session);

} // namespace pyro
