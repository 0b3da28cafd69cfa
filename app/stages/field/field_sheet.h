// The stage Field: quantity, the parts with their highest value, visibility, opacity and isolation, and what is shown
// besides: sections, isotherms.
#pragma once

#include "app/stages/field/arrow_card.h"
#include "app/stages/field/deformed_card.h"
#include "app/stages/field/isotherm_card.h"
#include "app/stages/field/part_panel.h"
#include "app/stages/field/path_card.h"
#include "app/stages/field/section_card.h"
#include "app/stages/field/viewpoint_list.h"
#include "app/stages/sheet.h"

#include <QComboBox>
#include <QToolButton>

namespace pyro {

class FieldSheet : public Sheet {
    Q_OBJECT
public:
    FieldSheet(Session& session, QWidget* parent);

signals:
    void sectionRequested();
    void viewpointRequested(const QString& name); // empty: under a new name

private:
    void buildShown();
    QHBoxLayout* headWithLink(const QString& title, const char* name, const QString& link, const QString& tip,
                              const std::function<void()>& run);
    void refreshShown();
    void shareRoom();
    void refresh();
    void fillQuantities();
    void fillUnits();
    QComboBox* m_quantity;
    QComboBox* m_unit;
    QToolButton* m_digits;
    PartPanel* m_parts;
    QVBoxLayout* m_cards; // of the sections, then the isotherms
    QList<SectionCard*> m_sections;
    IsothermCard* m_isotherms;
    PathCard* m_paths;
    ArrowCard* m_arrows;
    DeformedCard* m_deformed;
    ViewpointList* m_viewpoints;
};

} // namespace pyro
