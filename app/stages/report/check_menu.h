// A button whose menu ticks some of a list; none ticked means all.
#pragma once

#include <QPushButton>
#include <QStringList>

namespace pyro {

class CheckMenu : public QPushButton {
    Q_OBJECT
public:
    // `all`: what it reads when none is ticked.
    CheckMenu(const QString& name, const QString& all, QWidget* parent = nullptr);
    // Those that are not in the list are listed as well, since they are ticked.
    void offer(const QStringList& list, const std::vector<std::string>& ticked);
    void setAll(const QString& words) { m_all = words; } // read at the next offer

signals:
    void ticked(const std::vector<std::string>& some);

private:
    void tell();
    QString m_all;
    std::vector<std::string> m_ticked; // in the order in which they were ticked
};

} // namespace pyro
