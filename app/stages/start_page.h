// What is seen while no case is open: ways to open one, and what was open lately.
#pragma once

#include <QGridLayout>
#include <QLabel>
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

private:
    void addTile(const QString& file, const QString& title, int at);

    QLabel* m_recentTitle;
    QGridLayout* m_recent;
    QLabel* m_demoTitle;
    QGridLayout* m_demos;
};

} // namespace pyro
