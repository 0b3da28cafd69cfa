// The sheet of the stage Compare: the baseline, what is held against it, and how it is seen.
#pragma once

#include "app/stages/sheet.h"

#include <QButtonGroup>

namespace pyro {

class CompareSheet : public Sheet {
    Q_OBJECT
public:
    CompareSheet(Session& session, QWidget* parent);

private:
    void refresh();
    void fillVariants();
    void fillGrids();
    void fillMeasured();
    void fillSweep();
    QWidget* variantRow(const CaseEntry& entry);
    void show(CompareShow how);

    QComboBox* m_baseline;
    QLabel* m_baselineFigure;
    QVBoxLayout* m_variants;
    QButtonGroup* m_show;
    QLabel* m_showHint;
    QLabel* m_gridsHead;
    QLabel* m_grids;
    QLabel* m_sweepHead;
    QLabel* m_sweep;
    QLabel* m_measuredHead;
    QLabel* m_measured;
    QCheckBox* m_deviations;
};

} // namespace pyro
