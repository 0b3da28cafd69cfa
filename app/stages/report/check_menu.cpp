#include "app/stages/report/check_menu.h"

#include "render/text.h"

#include <QMenu>
#include <algorithm>

namespace pyro {

CheckMenu::CheckMenu(const QString& name, const QString& all, QWidget* parent) : QPushButton(parent), m_all(all) {
    setObjectName("small");
    setAccessibleName(name);
    setMenu(new QMenu(this));
    tell();
}

void CheckMenu::tell() {
    const auto first = m_ticked.empty() ? m_all : q(m_ticked.front());
    setText((m_ticked.size() > 1 ? QString("%1 and %2 more").arg(first).arg(m_ticked.size() - 1) : first) + "  \u25be");
}

void CheckMenu::offer(const QStringList& list, const std::vector<std::string>& some) {
    m_ticked = some;
    auto* menu = this->menu();
    menu->clear();
    auto names = list;
    for (const auto& one : some)
        if (!names.contains(q(one)))
            names.append(q(one));
    for (const auto& name : names) {
        auto* action = menu->addAction(QString(name).replace('&', "&&"));
        action->setObjectName("shownData"); // a name of the survey's
        action->setCheckable(true);
        action->setChecked(std::ranges::find(some, name.toStdString()) != some.end());
        connect(action, &QAction::triggered, this, [this, one = name.toStdString()](bool on) {
            std::erase(m_ticked, one);
            if (on)
                m_ticked.push_back(one);
            tell();
            emit ticked(std::vector<std::string>(m_ticked)); // whoever listens may offer anew
        });
    }
    setEnabled(!names.isEmpty());
    tell();
}

} // namespace pyro
