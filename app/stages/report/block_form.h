// What can be set up of the chosen block.
#pragma once

#include "app/stages/report/check_menu.h"
#include "app/stages/report/report_draft.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>

namespace pyro {

class BlockForm : public QWidget {
    Q_OBJECT
public:
    BlockForm(ReportDraft& draft, Session& session, QWidget* parent = nullptr);
    void beginText(); // the keyboard goes to what is written by hand

private:
    void build();
    void refresh();
    QComboBox* choice(const char* name, const char* key, const QString& label, const QStringList& words,
                      std::string ReportBlock::*member);
    void row(const char* key, const QString& label, QWidget* field);
    void fillValues();
    void fillSizes(int percent);
    bool hasSteps() const; // in any case

    ReportDraft& m_draft;
    Session& m_session;
    QLabel* m_kind;
    QFormLayout* m_form;
    std::vector<std::tuple<std::string, QWidget*, QLabel*>> m_rows; // by key
    QLineEdit* m_title;
    QPlainTextEdit* m_text;
    QPushButton* m_values; // to be put into the text
    CheckMenu* m_viewpoints;
    CheckMenu* m_cases;
    CheckMenu* m_gauges;
    QLineEdit* m_signers;
    CheckMenu* m_columns;
    QComboBox* m_decimals;
    QLineEdit* m_step;
    QComboBox* m_size;
    std::vector<std::pair<QComboBox*, std::string ReportBlock::*>> m_choices;
    bool m_filling = false;
};

} // namespace pyro
