// The case's ambient, and what its limits are estimated to be at another one and with another power.
#pragma once

#include "app/session/session.h"

#include <QCheckBox>
#include <QFrame>
#include <QLabel>
#include <QLineEdit>

namespace pyro {

class AmbientCard : public QFrame {
    Q_OBJECT
public:
    explicit AmbientCard(Session& session, QWidget* parent = nullptr);

private:
    void refresh();
    QString answer() const;

    Session& m_session;
    QLineEdit* m_ambient;
    QLineEdit* m_other;
    QLineEdit* m_power;
    QLabel* m_answer;
    struct Why {
        QCheckBox* box;
        const char* key;
    };
    std::vector<Why> m_nonlinear;
};

} // namespace pyro
