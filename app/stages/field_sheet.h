// The stage Field: quantity, the parts with their highest value, visibility, opacity and isolation, and what is shown
// besides: sections, isotherms.
#pragma once

#include "app/stages/isotherm_card.h"
#include "app/stages/path_card.h"
#include "app/stages/section_card.h"
#include "app/stages/sheets.h"
#include "app/stages/viewpoint_list.h"

#include <QComboBox>
#include <QSlider>

namespace pyro {

// One line per part: eye, name, highest value, verdict. Click chooses, the eye hides, double-click isolates.
class PartList : public QListWidget {
    Q_OBJECT
public:
    explicit PartList(Session& session, QWidget* parent = nullptr);
    void refresh();
    void toggle(const std::string& part);
    void isolate(const std::string& part);

protected:
    void mousePressEvent(QMouseEvent* event) override;

private:
    Session& m_session;
};

class FieldSheet : public Sheet {
    Q_OBJECT
public:
    FieldSheet(Session& session, QWidget* parent);

signals:
    void sectionRequested();
    void viewpointRequested(const QString& name); // empty: under a new name

private:
    void buildShown();
    QHBoxLayout* headWithLink(const QString& title, const char* name, const QString& link, const QString& tip, const std::function<void()>& run);
    void refreshShown();
    void refresh();
    void fillQuantities();
    QComboBox* m_quantity;
    QComboBox* m_unit;
    PartList* m_parts;
    QLabel* m_opacityLabel;
    QSlider* m_opacity;
    QPushButton* m_isolate;
    QVBoxLayout* m_cards; // of the sections, then the isotherms
    QList<SectionCard*> m_sections;
    IsothermCard* m_isotherms;
    PathCard* m_paths;
    ViewpointList* m_viewpoints;
};

} // namespace pyro
