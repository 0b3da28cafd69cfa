// The rail at the left edge: the stages in the order of the work, with badges for what needs attention.
#pragma once

#include "app/session/session.h"
#include "app/stages/stage.h"

#include <QAbstractButton>

namespace pyro {

class RailButton : public QAbstractButton {
    Q_OBJECT
public:
    RailButton(const Stage& stage, QWidget* parent);
    void setBadge(const StageBadge& badge);
    int badge() const { return m_badge.count; }
    QSize sizeHint() const override { return {76, 62}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    const Stage& m_stage;
    StageBadge m_badge;
};

class Rail : public QWidget {
    Q_OBJECT
public:
    explicit Rail(Session& session, QWidget* parent = nullptr);

signals:
    void stageChosen(const QString& stage);

private:
    void refresh();
    Session& m_session;
    QList<RailButton*> m_buttons;
};

} // namespace pyro
