// stages: the sheets to the left of the viewport, one per stage, and the rail that leads to them.
#pragma once

#include "app/session/session.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace pyro {

// A titled column of widgets, about 320 px wide.
class Sheet : public QWidget {
    Q_OBJECT
public:
    Sheet(Session& session, const QString& title, QWidget* parent);

protected:
    void heading(const QString& text);
    QLabel* hint(const QString& text = {});
    QPushButton* button(const QString& name, const QString& text, bool primary = false);
    QWidget* card(QVBoxLayout*& layout);
    // A small button in a row of them.
    static QPushButton* small(QBoxLayout* row, const char* name, const QString& text, const QString& tip);
    // A column for cards that scrolls when it is too tall.
    QVBoxLayout* scrolled();

    Session& m_session;
    QVBoxLayout* m_layout;
};

class FaceCard;

class CasesSheet : public Sheet {
    Q_OBJECT
public:
    CasesSheet(Session& session, QWidget* parent);

signals:
    void openRequested();
    void folderRequested();
    void heatRequested(const QString& boundary);

private:
    void refresh();
    void refreshSplit(const CaseEntry* entry, const Case* solved);
    QListWidget* m_list;
    QPushButton* m_remove;
    QLabel* m_facts;
    QLineEdit* m_symmetry;
    QWidget* m_depthRow; // of a case in two dimensions only
    QLineEdit* m_depth;
    QWidget* m_partsRow; // of a grid that an array may divide
    QComboBox* m_partsBy;
    QWidget* m_edgesRow; // where boundaries were made at edges
    QLineEdit* m_edges;
    FaceCard* m_face;
    QLabel* m_hint;
};

class ReportSheet : public Sheet {
    Q_OBJECT
public:
    ReportSheet(Session& session, QWidget* parent);

signals:
    void pdfRequested();
    void csvRequested();

private:
    void refresh();
    void keep(const char* key, const QString& text);
    QLineEdit* m_title;
    QLineEdit* m_preparedBy;
    QLineEdit* m_note;
    QPushButton* m_pdf;
    QPushButton* m_csv;
};

} // namespace pyro
