// The rail at the left edge: the stages in the order of the work, with badges for what needs attention.
#pragma once

#include "app/session/session.h"

#include <QAbstractButton>

namespace pyro {

class RailButton : public QAbstractButton {
    Q_OBJECT
public:
    RailButton(const QString& stage, const QString& icon, QWidget* parent);
    void setBadge(int count, const QColor& colour);
    int badge() const { return m_count; }
    QSize sizeHint() const override { return {76, 62}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QString m_icon;
    int m_count = 0;
    QColor m_badgeColour;
};

class Rail : public QWidget {
    Q_OBJECT
public:
    explicit Rail(Session& session, QWidget* parent = nullptr);
    static QStringList stages() { return {"Cases", "Trust", "Field", "Gauges", "Limits", "Report"}; }
    // The key of a stage; it counts all seven of the design, so that keys stay when the others arrive.
    static int keyOf(const QString& stage) {
        return static_cast<int>(
                   QStringList{"Cases", "Trust", "Field", "Gauges", "Limits", "Compare", "Report"}.indexOf(stage)) +
               1;
    }

signals:
    void stageChosen(const QString& stage);

private:
    void refresh();
    Session& m_session;
    QList<RailButton*> m_buttons;
};

} // namespace pyro
