// The least margin of a sweep over two parameters: filled, with the cases as points and the line where a limit is met.
#pragma once

#include "core/compare/margin_map.h"

#include <qcustomplot.h>

namespace pyro {

class SweepMap : public QCustomPlot {
    Q_OBJECT
public:
    explicit SweepMap(QWidget* parent = nullptr);
    void fill(const std::shared_ptr<const SweepReading>& sweep);
    const std::optional<MarginMap>& map() const { return m_map; }

protected:
    bool event(QEvent* event) override; // the case under the mouse

private:
    void draw(const SweepReading& sweep);

    std::shared_ptr<const SweepReading> m_sweep;
    std::optional<MarginMap> m_map;
};

} // namespace pyro
