// What is seen while no case is open: ways to open one, and what was open lately.
#pragma once

#include "core/program/demo_list.h"

#include <QGridLayout>
#include <QLabel>
#include <QToolButton>
#include <QWidget>

namespace pyro {

class StartPage : public QWidget {
    Q_OBJECT
public:
    explicit StartPage(QWidget* parent = nullptr);
    void refresh(); // what was open lately, as the settings tell it now

    // Where the picture of a survey or case is kept that stands for it here.
    static QString thumbnailOf(const QString& file);

signals:
    void caseRequested();
    void folderRequested();
    void surveyRequested();
    void fileRequested(const QString& file);
    void demoRequested(const QString& name);

private:
    QToolButton* addTile(const QString& file, const QString& title, QGridLayout* grid, int at);
    void addRecent(const QString& file, int at);
    void addDemo(const Demo& demo, int at);

    QLabel* m_recentTitle;
    QGridLayout* m_recent;
    QLabel* m_demoTitle;
    QGridLayout* m_demos;
};

} // namespace pyro
