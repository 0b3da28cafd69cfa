// The parts in the sheet of the stage Field: list with search, solids and fluids as groups, opacity of the chosen one.
#pragma once

#include "app/session/session.h"

#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
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
    // Only parts whose name holds these letters are listed.
    void find(const QString& letters);

    // So many rows are seen at most; the others scroll.
    void setMostRows(int rows);

protected:
    void mousePressEvent(QMouseEvent* event) override;

private:
    QString highestIn(std::size_t part) const;

    Session& m_session;
    QString m_letters;
    int m_mostRows = 8;
};

class PartPanel : public QWidget {
    Q_OBJECT
public:
    explicit PartPanel(Session& session, QWidget* parent = nullptr);
    void refresh();
    void setMostRows(int rows) { m_parts->setMostRows(rows); }

private:
    QPushButton* link(const QString& text, const char* name, const QString& tip, const std::function<void()>& run);
    void toggleGroup(bool fluids);
    void refreshOpacity();
    void refreshBoundaries();

    Session& m_session;
    QLineEdit* m_find;
    PartList* m_parts;
    QPushButton* m_boundariesLink;
    QListWidget* m_boundaries; // folded away at first
    QWidget* m_chosen;         // row of the chosen part
    QLabel* m_opacityLabel;
    QSlider* m_opacity;
    QPushButton* m_isolate;
    QPushButton* m_solids;
    QPushButton* m_fluids;
};

} // namespace pyro
