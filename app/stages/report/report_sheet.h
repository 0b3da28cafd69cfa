// The sheet of the stage Report: who it is by, its blocks, what is set up of the chosen one, and its files.
#pragma once

#include "app/stages/report/block_form.h"
#include "app/stages/report/block_list.h"
#include "app/stages/sheet.h"
#include "app/stages/stage_desk.h"

namespace pyro {

class ReportSheet : public Sheet {
    Q_OBJECT
public:
    ReportSheet(StageDesk& desk, QWidget* parent);
    ReportDraft& draft() { return *m_draft; }
    void beginText() { m_form->beginText(); }
    // Asks for a file; the form follows from its ending.
    void exportReport();

private:
    void buildFields();
    void buildBlocks();
    void buildTemplates();
    void refresh();
    void keep(const QString& what, std::string ReportSettings::*setting, const QString& text);
    void chooseLogo();
    void takeUnits();
    void takeTemplate(const QString& file);
    void saveTemplate();
    void fillOwn();

    StageDesk& m_desk;
    ReportDraft* m_draft;
    QLineEdit* m_title;
    QLineEdit* m_preparedBy;
    QPushButton* m_moreLink;
    QWidget* m_more; // number, logo, note, units, decimal
    QLineEdit* m_number;
    QLineEdit* m_note;
    QLineEdit* m_units;
    QComboBox* m_decimal;
    QPushButton* m_logo;
    QPushButton* m_noLogo;
    BlockList* m_blocks;
    BlockForm* m_form;
    QPushButton* m_templates;
    QPushButton* m_export;
};

} // namespace pyro
