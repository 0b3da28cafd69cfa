// ledger: the area under the heat strip; each stage brings its page of tables.
#pragma once

#include "app/stages/stage.h"

#include <QStackedWidget>
#include <map>

namespace pyro {

class Ledger : public QStackedWidget {
    Q_OBJECT
public:
    explicit Ledger(QWidget* parent = nullptr);
    void addPage(const Stage& stage, QWidget* page);
    QWidget* page(const Stage& stage) const; // null: it has none
    // Hidden for a stage that has no page.
    void showStage(const Stage& stage);

signals:
    void foldRequested(); // to its head, or back

private:
    std::map<const Stage*, QWidget*> m_pages;
};

} // namespace pyro
